import { setKit } from '@/core/commands/sound';
import { BITS } from '@/core/audio/wav';
import { isKitName, KIT_NAMES } from '@/core/model/sound';
import type { Part } from '@/core/model/part';
import { meterMapOf, endOfPart, tempoMapOf } from '@/core/part/part-time';
import { rowsNamed } from '@/core/part/rows';
import { ENDINGS } from '@/core/render/render-part';
import { withFeelGiven } from '@/batch/perform-file';
import { versionOf } from '@/formats/migrate';
import { parseFeel } from '@/formats/feel-format';
import { parseJson } from '@/formats/validate';
import { lengthOfOrder, orderField } from './order';
import { FIELDS } from './fields';
import { answer, choiceField, partOfFields, readForm, textField, wholeField, wrongField } from './form';
import { HttpError } from './http-error';
import { runRender } from './render-job';

const RATES = ['44100', '48000', '96000'] as const;
/** At most so much sound a request. */
const LONGEST_SECONDS = 600;
const MOST_SEED = 0x7fffffff;

/** POST /api/render: a MIDI file or a part in, its sound out. */
export const render = (request: Request): Promise<Response> =>
  answer(async () => {
    const fields = await readForm(request, FIELDS.render);
    const kit = (await textField(fields, 'kit'))?.trim();
    if (kit !== undefined && kit !== '' && !isKitName(kit)) throw wrongField('kit', `must be one of ${KIT_NAMES.join(', ')}`);
    const feelText = await textField(fields, 'feel');
    const raw: unknown = feelText === undefined ? undefined : parseJson(feelText, 'bad-feel');
    const feel = raw === undefined ? undefined : parseFeel(raw);
    const rate = Number((await choiceField(fields, 'rate', RATES)) ?? 48_000);
    const bits = (await choiceField(fields, 'bits', BITS)) ?? '16';
    const ending = (await choiceField(fields, 'ending', ENDINGS)) ?? 'ring';
    const room = (await choiceField(fields, 'room', ['on', 'off'])) !== 'off';
    const master = (await choiceField(fields, 'master', ['on', 'off'])) !== 'off';
    const seed = await wholeField(fields, 'seed');
    if (seed !== undefined && (seed < 0 || seed > MOST_SEED)) throw wrongField('seed', `must be from 0 to ${MOST_SEED}`);
    const order = await orderField(fields);
    const fromBar = await wholeField(fields, 'fromBar');
    const toBar = await wholeField(fields, 'toBar');
    const asked = (await textField(fields, 'rows'))?.split(',').map((r) => r.trim());
    if (asked?.some((r) => r === '')) throw wrongField('rows', 'must be a comma list of rows');
    const { part: read } = await partOfFields(fields, (p) => (feel ? withFeelGiven(p, feel, versionOf('feel', raw) ?? undefined) : p));
    const played = kit && isKitName(kit) ? setKit(read, kit) : read;
    const felt: Part = { ...played, ...(feel ? { feel } : {}) };
    const part: Part = seed === undefined ? felt : { ...felt, feel: { ...felt.feel, seed } };
    // Bars are those of the running order, where that is asked for.
    const asHeard = order ? lengthOfOrder(part) : part;
    const [from, to] = [fromBar ?? 1, toBar ?? asHeard.bars];
    if (from < 1 || from > asHeard.bars) throw wrongField('fromBar', `must be from 1 to ${asHeard.bars}`);
    if (to < from || to > asHeard.bars) throw wrongField('toBar', `must be from ${from} to ${asHeard.bars}`);
    const map = meterMapOf(asHeard);
    const tempo = tempoMapOf(asHeard);
    const seconds =
      tempo.toSeconds(to === asHeard.bars ? endOfPart(asHeard) : map.barOf(to).start) - tempo.toSeconds(map.barOf(from - 1).start);
    if (seconds > LONGEST_SECONDS)
      throw new HttpError(422, 'too-long', `This is ${Math.round(seconds)} s of sound; at most ${LONGEST_SECONDS} are rendered at once.`, {
        seconds: Math.round(seconds),
      });
    let rows: string[] | undefined;
    if (asked) {
      const unknown = asked.find((r) => rowsNamed(part, [r]).length === 0);
      if (unknown !== undefined)
        throw wrongField(
          'rows',
          `${unknown.slice(0, 60)} is not a row of the part; rows are ${part.rows
            .slice(0, 40)
            .map((r) => r.voice)
            .join(', ')}`,
        );
      rows = rowsNamed(part, asked);
    }
    const { bytes, account } = runRender({ part, rate, bits, from: from - 1, to, ending, room, master, order, ...(rows ? { rows } : {}) });
    return new Response(bytes as Uint8Array<ArrayBuffer>, {
      headers: {
        'content-type': 'audio/wav',
        'content-disposition': 'attachment; filename="part.wav"',
        'x-nod-sway-account': JSON.stringify(account).replace(/[^\x20-\x7e]/g, '?'),
      },
    });
  });
