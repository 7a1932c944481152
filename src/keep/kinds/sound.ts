import { newId } from '@/editing/ids';
import { NamedError } from '@/core/errors';
import { ownSoundsOf, samplesOf, type KitOfRecordings, type OwnSound, type SampleId } from '@/core/model/own-sound';
import { sourceOfRow } from '@/core/playback/sources';
import type { LibraryEntry } from '@/formats/library-file';
import type { OpenLibrary } from '@/formats/library-zip';
import { manifestOf, readManifest, sampleFile } from '@/formats/sound-kit';
import { parseJson } from '@/formats/validate';
import { PartStore } from '@/storage/part-store';
import { SoundStore } from '@/storage/sound-store';
import { besideName, saysTheSame, type Here, type Kind } from './kind';
import { verified } from './verified';
import { partsOf } from './break';

/** A kit with its sounds, or (without a kit) one sound. */
interface SoundSet {
  kit: KitOfRecordings | null;
  sounds: readonly OwnSound[];
}

const listOf = ({ kit, sounds }: SoundSet): string =>
  JSON.stringify(manifestOf(kit ?? { id: (sounds[0] as OwnSound).id, name: (sounds[0] as OwnSound).name }, sounds), null, 1);

async function setsHere({ db }: Pick<Here, 'db'>): Promise<SoundSet[]> {
  const { kits, sounds } = await new SoundStore(db).list();
  const ofKits = kits.map((kit) => ({ kit, sounds: sounds.filter((s) => s.kit === kit.id) })).filter((set) => set.sounds.length > 0);
  const known = new Set(kits.map((k) => k.id));
  return [...ofKits, ...sounds.filter((s) => s.kit === undefined || !known.has(s.kit)).map((sound) => ({ kit: null, sounds: [sound] }))];
}

/** The set of an entry as it is in the file. @throws NamedError bad-sound-kit */
async function setIn(from: OpenLibrary, { file, loose }: LibraryEntry): Promise<SoundSet> {
  const list = parseJson(await from.text(file), 'bad-sound-kit');
  const { id, name, sounds } = readManifest(list, { has: (path) => from.has(path) });
  const read = sounds.map(({ layers, ...sound }): OwnSound => ({
    ...sound,
    layers: layers.map(({ upTo, takes }) => ({
      upTo,
      takes: takes.map(({ file: path, name: called, level }) => ({ sample: sampleOf(path), name: called, level })),
    })),
    ...(loose ? {} : { kit: id }),
  }));
  return { kit: loose ? null : { id, name }, sounds: read };
}

function sampleOf(path: string): SampleId {
  const id = /^audio\/([0-9a-f]{64})\.wav$/.exec(path)?.[1];
  if (id === undefined)
    throw new NamedError('bad-library', { path }, `The library file is not valid: ${path.slice(0, 80)} is no name of a recording.`);
  return id;
}

const keyOf = ({ kit, sounds }: SoundSet): string => kit?.id ?? (sounds[0] as OwnSound).id;
const nameOf = ({ kit, sounds }: SoundSet): string => kit?.name ?? (sounds[0] as OwnSound).name;

/** Kits and sounds of the user's own, with their recordings. */
export const soundKind: Kind = {
  kind: 'sound',
  async here(here, only) {
    const store = new SoundStore(here.db);
    const all = await setsHere(here);
    const lookup = ownSoundsOf(all.flatMap((s) => s.sounds));
    const needed = only
      ? new Set(
          (await partsOf(new PartStore(here.db), only)).flatMap((part) =>
            part.rows.flatMap((row) => sourceOfRow(part, row.voice, lookup).own?.id ?? []),
          ),
        )
      : null;
    return all
      .filter(({ sounds }) => !needed || sounds.some((s) => needed.has(s.id)))
      .map((set) => ({
        entry: { kind: 'sound', key: keyOf(set), name: nameOf(set), ...(set.kit ? {} : { loose: true as const }) },
        folder: 'kits',
        ending: '.json',
        data: async () => ({
          file: listOf(set),
          beside: [...(await store.readAll(samplesOf(set.sounds)))].map(([id, bytes]) => ({
            path: sampleFile(id),
            blob: new Blob([bytes], { type: 'audio/wav' }),
          })),
        }),
      }));
  },
  async look(here, entry, from) {
    const theirs = await setIn(from, entry);
    const mine = (await setsHere(here)).find((set) => keyOf(set) === entry.key);
    return { standing: !mine ? 'new' : saysTheSame(JSON.parse(listOf(mine)), JSON.parse(listOf(theirs))) ? 'same' : 'different' };
  },
  async take(here, entry, from, how) {
    const theirs = await setIn(from, entry);
    const store = new SoundStore(here.db);
    const sets = await setsHere(here);
    const known = new Set(await here.db.samples.toCollection().primaryKeys());
    const samples = new Map<SampleId, Uint8Array<ArrayBuffer>>();
    for (const id of samplesOf(theirs.sounds))
      if (!known.has(id)) samples.set(id, new Uint8Array(await (await verified(id, await from.blob(sampleFile(id)))).arrayBuffer()));
    const { kit, sounds } = how === 'beside' ? copyOf(theirs, (name) => sets.some((s) => nameOf(s) === name)) : theirs;
    const old = how === 'replace' ? sets.find((set) => keyOf(set) === entry.key) : undefined;
    await store.keep({ ...(kit ? { kit } : {}), sounds, samples });
    const stays = new Set(sounds.map((s) => s.id));
    for (const sound of old?.sounds ?? []) if (!stays.has(sound.id)) await store.remove({ sound });
  },
};

function copyOf({ kit, sounds }: SoundSet, isTaken: (name: string) => boolean): SoundSet {
  const copy = kit && { id: newId(), name: besideName(kit.name, isTaken) };
  return {
    kit: copy,
    sounds: sounds.map((s) => ({ ...s, id: newId(), ...(copy ? { kit: copy.id } : { name: besideName(s.name, isTaken) }) })),
  };
}
