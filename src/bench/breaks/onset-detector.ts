import { plural } from '@/core/plurals';
import { createStore } from 'zustand/vanilla';
import { hearStrokes, hearStrokesAgain } from '@/core/breaks/edit';
import type { Break } from '@/core/model/break';
import type { SampleId } from '@/core/model/own-sound';
import type { StruckSound } from '@/core/onsets/classify';
import { standOut } from '@/core/onsets/onsets';
import { recordingStore } from '@/storage/recording-store';
import { say, showError } from '@/ui/notify';
import { OnsetDetector } from '@/workers/clients';
import type { Outline } from '@/workers/break.worker';
import type { BenchStore } from '../store/bench-store';

/** What is known of the recording that is in front of one. */
export interface OnsetDetectorState {
  /** Its outline; null until it is read. */
  outline: Outline | null;
  sample: SampleId | null;
  /** It is not in this browser. */
  missing: boolean;
  /** How much of it was listened to, 0 to 1; null when nobody listens. */
  listening: number | null;
  /** The stroke that is looked at, by its id. */
  chosen: string | null;
  /** Strokes that are named together. */
  marked: readonly string[];
}

const BLANK: OnsetDetectorState = { outline: null, sample: null, missing: false, listening: null, chosen: null, marked: [] };

export const onsetDetectorState = createStore<OnsetDetectorState>(() => BLANK);

let ear: OnsetDetector | null = null;
/** Recordings that were listened to by themselves once: what was undone or cancelled is not done again. */
const tried = new Set<string>();

/** Takes up a break's recording: its outline is drawn, and it is listened to where nobody has yet. */
export async function takeUp(store: BenchStore, of: Break): Promise<void> {
  letGo();
  const own = new OnsetDetector();
  ear = own;
  onsetDetectorState.setState({ ...BLANK, sample: of.sample });
  try {
    const recording = await recordingOf(of.sample);
    if (ear !== own) return;
    if (!recording) return onsetDetectorState.setState({ missing: true });
    const outline = await own.take(recording);
    if (ear !== own) return;
    onsetDetectorState.setState({ outline });
    const isHeard = store.getState().part.heard?.some((h) => h.break === of.id) ?? false;
    if (isHeard || tried.has(of.id)) return;
    tried.add(of.id);
    await listen(store, of.id);
  } catch (e) {
    if (ear === own) showError(e);
  }
}

/** A recording of this browser's; a built-in one comes when it is first asked for. */
async function recordingOf(sample: SampleId): Promise<Blob | undefined> {
  const kept = await recordingStore.read(sample);
  if (kept) return kept;
  const { keepOurs } = await import('@/storage/own-recordings');
  await keepOurs([sample]);
  return recordingStore.read(sample);
}

/**
 * Listens to the recording that is taken up: its strokes, tempo and bars become the part's, as one step.
 * @param again only its strokes are: bars and corrections stay
 */
export async function listen(store: BenchStore, id: string, again = false): Promise<void> {
  const own = ear;
  if (!own || onsetDetectorState.getState().listening !== null) return;
  onsetDetectorState.setState({ listening: 0 });
  try {
    const heard = await own.listen((done) => ear === own && onsetDetectorState.setState({ listening: done }));
    if (ear !== own) return;
    onsetDetectorState.setState({ listening: null });
    if (!standOut(heard.over))
      return say('No hit stands out in this recording. It plays as one slice; you can cut it at the lines of the bar.');
    const { part, run } = store.getState();
    const name = part.breaks?.find((b) => b.id === id)?.name ?? 'the break';
    run(again ? `Detect the hits of ${name} again` : `Listen to ${name}`, (p) => (again ? hearStrokesAgain : hearStrokes)(p, id, heard));
    if (!again && heard.readings.length === 0)
      say(`${plural(heard.at.length, 'One hit was', 'Few hits were')} heard, too few to tell a tempo: set its bars on the page Breaks.`);
  } catch (e) {
    if (ear !== own) return;
    onsetDetectorState.setState({ listening: null });
    showError(e);
  }
}

/** Ends the listening; the recording stays, and can be listened to again. */
export function stopListening(store: BenchStore): void {
  const { sample } = onsetDetectorState.getState();
  const of = store.getState().part.breaks?.find((b) => b.sample === sample);
  if (of) void takeUp(store, of);
}

/** All that is struck at moments of a break, in seconds by time; null where its recording is not in this browser. */
export async function struckAt({ sample }: Pick<Break, 'sample'>, moments: readonly number[]): Promise<StruckSound[][] | null> {
  const { outline, sample: inFront } = onsetDetectorState.getState();
  if (ear && outline && inFront === sample) return ear.struckAt(moments);
  const recording = await recordingOf(sample);
  if (!recording) return null;
  const own = new OnsetDetector();
  try {
    await own.take(recording);
    return await own.struckAt(moments);
  } finally {
    own.dispose();
  }
}

/** The attack nearest to a moment, where there is one close by. */
export async function attackAt(at: number): Promise<number> {
  const found = await ear?.attackNear(at).catch(() => at);
  return found !== undefined && Math.abs(found - at) <= NEAR_ATTACK ? found : at;
}

const NEAR_ATTACK = 0.03;

export function letGo(): void {
  ear?.dispose();
  ear = null;
  onsetDetectorState.setState(BLANK);
}
