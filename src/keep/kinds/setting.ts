import Joi from 'joi';
import { MIDI_KEY } from '@/formats/midi-key';
import { curveSchema, guardsSchema, hatSchema } from '@/formats/take-rules';
import { parseJson, validate } from '@/formats/validate';
import type { InputRow } from '@/storage/database';
import { saysTheSame, type Here, type Kind } from './kind';

/** Settings as a file: what is known of input devices, and what the page remembers. */
interface Settings {
  format: 'nod-sway/settings@1';
  inputs: readonly InputRow[];
  remembered: Readonly<Record<string, string>>;
}

const key = Joi.number().integer().min(0).max(127);
const INPUT: Readonly<Record<keyof InputRow, Joi.Schema>> = {
  id: Joi.string().min(1).max(240).required(),
  latencyMs: Joi.number().min(-1000).max(2000).required(),
  spreadMs: Joi.number().min(0).max(10_000),
  curve: curveSchema.required(),
  guards: guardsSchema.required(),
  curves: Joi.object().pattern(MIDI_KEY, curveSchema),
  hat: hatSchema,
  pads: Joi.object().pattern(MIDI_KEY, key),
  calls: Joi.object().pattern(MIDI_KEY, Joi.number().integer().min(1).max(1000)),
};
const schema = Joi.object({
  format: Joi.string().valid('nod-sway/settings@1').required(),
  inputs: Joi.array().items(Joi.object(INPUT)).max(500).unique('id').required(),
  remembered: Joi.object()
    .pattern(/^nod-sway:[a-z-]{1,40}$/, Joi.string().max(20_000).allow(''))
    .max(100)
    .required(),
}).required();

const read = (text: string): Settings => validate<Settings>(schema, parseJson(text, 'bad-library'), 'bad-library');
const settingsHere = async ({ db, remembered }: Here): Promise<Settings> => ({
  format: 'nod-sway/settings@1',
  inputs: await db.inputs.toArray(),
  remembered,
});

/** What of the one is not, or is otherwise, in the other. */
function differing(theirs: Settings, mine: Settings): { missing: boolean; other: boolean } {
  const all = (s: Settings) =>
    new Map<string, unknown>([...s.inputs.map((i): [string, unknown] => [`input ${i.id}`, i]), ...Object.entries(s.remembered)]);
  const here = all(mine);
  const named = [...all(theirs)];
  return {
    missing: named.some(([name]) => !here.has(name)),
    other: named.some(([name, value]) => here.has(name) && !saysTheSame(here.get(name), value)),
  };
}

/** All settings, as one thing: what is missing here is added, what is otherwise stays until it is asked for. */
export const settingKind: Kind = {
  kind: 'setting',
  async here(here, only) {
    if (only) return [];
    const settings = await settingsHere(here);
    if (settings.inputs.length === 0 && Object.keys(settings.remembered).length === 0) return [];
    return [
      {
        entry: { kind: 'setting', key: 'settings', name: 'Settings' },
        folder: 'settings',
        ending: '.json',
        data: async () => ({ file: JSON.stringify(settings, null, 1) }),
      },
    ];
  },
  async look(here, { file }, from) {
    const { missing, other } = differing(read(await from.text(file)), await settingsHere(here));
    return { standing: other ? 'different' : missing ? 'new' : 'same' };
  },
  async take(here, { file }, from, how) {
    const theirs = read(await from.text(file));
    const mine = await settingsHere(here);
    const isWanted = (isKnown: boolean) => how === 'replace' || !isKnown;
    await here.db.inputs.bulkPut(theirs.inputs.filter((i) => isWanted(mine.inputs.some((m) => m.id === i.id))));
    here.remember(Object.fromEntries(Object.entries(theirs.remembered).filter(([name]) => isWanted(name in mine.remembered))));
  },
};
