import { newId } from '@/editing/ids';
import { createStore } from 'zustand/vanilla';
import { NamedError } from '@/core/errors';
import type { KitOfRecordings, OwnSound } from '@/core/model/own-sound';
import type { VoiceName } from '@/core/row-names';
import { soundStore } from '@/storage/sound-store';
import { showError } from '@/ui/notify';
import { readSounds } from '@/workers/clients';
import type { ChosenFile, ReadSounds } from '@/workers/sounds.worker';
import { draftOfKit, draftOfRow, keptSounds, samplesFor, type Draft } from './draft';
import { ownSounds } from './own';

/** The row that sounds are meant for. */
export interface DropRow {
  row: VoiceName;
  label: string;
  /** What it sounds like. */
  voice: VoiceName;
}

/** What was kept, for a row or as a kit. */
export type Kept = { for: DropRow; sound: OwnSound } | { for: null; kit: KitOfRecordings };

/** What comes in: being read, or read and waiting to be corrected and kept. */
export type Incoming =
  | { phase: 'reading'; done: number; files: number }
  | {
      phase: 'draft';
      draft: Draft;
      target: DropRow | null;
      report: Pick<ReadSounds, 'refused' | 'leftOut'> & { notes: readonly string[] };
      isKept: boolean;
    };

export const incoming = createStore<{ now: Incoming | null }>(() => ({ now: null }));

let job: AbortController | null = null;

/** Leaves what comes in, whatever it is at. Nothing of it is kept. */
export function leaveIncoming(): void {
  job?.abort();
  job = null;
  incoming.setState({ now: null });
}

const NOTHING = { refused: [], leftOut: 0, notes: [] };

/**
 * Reads files; a single recording for a row is kept and used at once, all else is shown first.
 * @param taken hears of what was kept
 */
export async function receiveSounds(
  gathering: Promise<readonly ChosenFile[]>,
  target: DropRow | null,
  taken: (kept: Kept) => void,
): Promise<void> {
  leaveIncoming();
  const controller = new AbortController();
  job = controller;
  try {
    incoming.setState({ now: { phase: 'reading', done: 0, files: 0 } });
    const files = await gathering;
    if (controller.signal.aborted) return;
    const read = await readSounds(
      files,
      (done) => !controller.signal.aborted && incoming.setState({ now: { phase: 'reading', done, files: files.length } }),
      controller.signal,
    );
    if (controller.signal.aborted) return;
    const [refusedOne] = read.refused;
    if (read.recordings.length === 0)
      throw refusedOne && read.refused.length === 1
        ? nameOfRefusal(refusedOne)
        : new NamedError('no-sounds', { refused: read.refused.length });
    const draft = target && read.kits.length === 0 ? draftOfRow(read, target.voice) : draftOfKit(read);
    const report = {
      refused: read.refused,
      leftOut: read.leftOut,
      notes: read.recordings.flatMap((r) => r.notes.map((note) => `${r.path}: ${note}`)),
    };
    const isPlain = read.recordings.length === 1 && report.refused.length === 0 && report.notes.length === 0;
    const forRow = read.kits.length === 0 ? target : null;
    if (forRow && isPlain) {
      incoming.setState({ now: null });
      taken(await keepDraft(draft, forRow));
    } else incoming.setState({ now: { phase: 'draft', draft, target: forRow, report, isKept: false } });
  } catch (e) {
    if (controller.signal.aborted) return;
    incoming.setState({ now: null });
    showError(e);
  }
}

const nameOfRefusal = ({ path, error }: ReadSounds['refused'][number]): NamedError =>
  new NamedError(error.code, error.details, `${path}: ${error.message}`);

/** Shows a kit, or a sound, that is kept already, to be corrected. */
export function correctKept(what: { kit: KitOfRecordings } | { sound: OwnSound }): void {
  leaveIncoming();
  const sounds = 'sound' in what ? [what.sound] : ownSounds.getState().sounds.filter((s) => s.kit === what.kit.id);
  const draft: Draft = {
    name: 'kit' in what ? what.kit.name : what.sound.name,
    sounds,
    samples: new Map(),
    ...('kit' in what ? { kit: what.kit } : {}),
  };
  incoming.setState({ now: { phase: 'draft', draft, target: null, report: NOTHING, isKept: true } });
}

const sameSounds = (a: readonly OwnSound[], b: readonly OwnSound[]): boolean =>
  JSON.stringify(a.map(({ id, layers, voice }) => [id, layers, voice]).sort()) ===
  JSON.stringify(b.map(({ id, layers, voice }) => [id, layers, voice]).sort());

/**
 * Keeps a draft for a row, or as a kit. A kit that is here already under the same id stays as it is; another one of that id becomes a kit
 * beside it.
 * @throws NamedError store-full, store-refused
 */
export async function keepDraft(draft: Draft, target: DropRow | null): Promise<Kept> {
  if (target) {
    const [sound] = keptSounds(draft) as [OwnSound];
    await soundStore.keep({ sounds: [sound], samples: samplesFor(draft, [sound]) });
    return { for: target, sound };
  }
  const { kits, sounds: known } = ownSounds.getState();
  const wanted = draft.kit ? { ...draft.kit, name: draft.name } : { id: newId(), name: draft.name };
  const sounds = keptSounds(draft, wanted);
  const clash =
    kits.some((k) => k.id === wanted.id) &&
    !sameSounds(
      sounds,
      known.filter((s) => s.kit === wanted.id),
    );
  const kit = clash ? { id: newId(), name: wanted.name } : wanted;
  await soundStore.keep({
    kit,
    sounds: clash ? sounds.map((s) => ({ ...s, id: newId(), kit: kit.id })) : sounds,
    samples: samplesFor(draft, sounds),
  });
  return { for: null, kit };
}

/** Keeps what was corrected of a kit or a sound that is kept. */
export async function keepCorrected(draft: Draft): Promise<void> {
  const before = draft.kit ? ownSounds.getState().sounds.filter((s) => s.kit === draft.kit?.id) : [];
  const sounds = draft.sounds.flatMap(({ voice, ...s }): OwnSound[] => (voice === null ? [] : [{ ...s, voice }]));
  await soundStore.keep({ ...(draft.kit ? { kit: { ...draft.kit, name: draft.name } } : {}), sounds, samples: new Map() });
  for (const gone of before.filter((s) => !sounds.some((k) => k.id === s.id))) await soundStore.remove({ sound: gone });
}
