import { newId } from '@/editing/ids';
import type { OwnSound } from '@/core/model/own-sound';
import type { Part } from '@/core/model/part';
import { KIT_NAMES, type RowPlays } from '@/core/model/sound';
import { soundOfRow } from '@/core/part/rows';
import { kitOf } from '@/core/playback/sources';
import { familyOfVoice, voiceOfRow, type VoiceName } from '@/core/row-names';
import { draftOfRow, keptSounds } from '@/sounds/draft';
import { filesOf, isReadable, soundsOfKind } from '@/sounds/folders';
import { ownSounds, trySound } from '@/sounds/own';
import type { FolderRow } from '@/storage/database';
import { soundStore } from '@/storage/sound-store';
import { readSounds } from '@/workers/clients';

/** A sound that may play a row. */
export interface Candidate {
  name: string;
  /** What tells it from the others, for finding where one is. */
  key: string;
  /** Undefined: as the kit has it. @throws where its files cannot be read */
  load(): Promise<RowPlays | undefined>;
  /** Keeps it, where it is not kept yet. */
  keep(): Promise<void>;
}

const ready = (name: string, key: string, plays: RowPlays | undefined): Candidate => ({
  name,
  key,
  load: () => Promise.resolve(plays),
  keep: () => Promise.resolve(),
});

export const keyOfPlays = (plays: RowPlays | undefined): string =>
  !plays ? 'as the kit has it' : 'kit' in plays ? `kit ${plays.kit}` : 'own' in plays ? `own ${plays.own}` : `break ${plays.break}`;

/** All sounds of a row's kind: its kit's, those of the other kits, the user's own, those in folders. */
export function candidatesFor(part: Part, row: VoiceName): Candidate[] {
  const voice = voiceOfRow(soundOfRow(part, row));
  const { sounds, folders } = ownSounds.getState();
  // The kit's own is offered as such.
  const others = sounds.filter((s) => part.ownKit === undefined || s.kit !== part.ownKit.id);
  const own = others.filter((s) => s.voice === voice);
  const kin =
    own.length > 0 ? own : others.filter((s) => familyOfVoice(voice) !== undefined && familyOfVoice(s.voice) === familyOfVoice(voice));
  return [
    ready(`as ${part.ownKit?.name ?? kitOf(part)} has it`, keyOfPlays(undefined), undefined),
    ...KIT_NAMES.filter((kit) => part.ownKit !== undefined || kit !== kitOf(part)).map((kit) => ready(kit, keyOfPlays({ kit }), { kit })),
    ...kin.map((s) => ready(s.name, keyOfPlays({ own: s.id, name: s.name }), { own: s.id, name: s.name })),
    ...folders.filter(isReadable).flatMap((folder) => soundsOfKind(folder, voice).map((paths) => fromFolder(folder, paths, voice))),
  ];
}

function fromFolder(folder: FolderRow, paths: readonly string[], voice: VoiceName): Candidate {
  const id = newId();
  let loading: Promise<RowPlays> | null = null;
  let sound: OwnSound | null = null;
  let samples: ReadonlyMap<string, Uint8Array<ArrayBuffer>> = new Map();
  const load = async (): Promise<RowPlays> => {
    const files = await filesOf(folder, paths);
    const read = await readSounds(files, () => {}, new AbortController().signal);
    if (read.recordings.length === 0) throw new Error(`${paths[0] ?? folder.name} cannot be read.`);
    const draft = draftOfRow(read, voice);
    sound = { ...(keptSounds(draft)[0] as OwnSound), id };
    samples = draft.samples;
    trySound(sound, samples);
    return { own: id, name: sound.name };
  };
  return {
    name: (paths[0]?.split('/').pop() ?? '').replace(/\.[a-z0-9]+$/i, ''),
    key: `own ${id}`,
    load: () => (loading ??= load()),
    keep: async () => {
      if (sound) await soundStore.keep({ sounds: [sound], samples });
    },
  };
}
