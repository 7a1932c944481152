import { hitsInRange } from '@/core/homes/ticks-range';
import type { Hit, HitId, Part } from '@/core/model/part';
import type { TakeEvent, Take } from '@/core/model/take';
import type { VoiceName } from '@/core/row-names';
import type { FoldedStroke, TakeFolder } from '@/core/take/fold';
import { eventOfHit, hitsOfStrokes, withHits } from '@/core/take/hits-of-take';
import { seconds, type Seconds, type Ticks } from '@/core/units';
import type { SoundEngine } from '@/sound/engine';
import type { Transaction } from '@/editing/document';
import type { RecordingState } from './recording-state';

/** A recording under way. */
export interface Running {
  take: Take;
  /** Rows that there were before, and hits whose place the recording took. */
  rowsBefore: ReadonlySet<VoiceName>;
  replaced: Map<HitId, Hit>;
  events: TakeEvent[];
  kept: number;
  rows: number;
  /** Passes that are closed: their hits are steps of the history. */
  closed: number;
  timer: ReturnType<typeof setInterval>;
  /** Where the first pass began, on the audio clock; null until it is known. */
  base: Seconds | null;
  /** The music played before, and goes on when it ends. */
  punched: boolean;
  /** Where in the loop it began while the music played. */
  punchedAt: Ticks | null;
  flushed: number;
  writing: Promise<void>;
  refused: boolean;
  /** The edit of the pass that is played in, and how many events it has shown. */
  edit: Transaction<Part> | null;
  shown: number;
  /** Recorded strokes so far; those before `open` are of closed passes. */
  folder: TakeFolder;
  strokes: FoldedStroke[];
  open: number;
  /** Events from here on are shown: those before were kept by another action, or taken back by an undo. */
  from: number;
  /** The music was heard to start. */
  heard: boolean;
}

/** Which of the loop has been played over: all of it, but where the recording began in its midst. */
function passedOf({ punchedAt, closed, take }: Running, place: Ticks | null): (tick: number) => boolean {
  if (punchedAt === null || closed > 1) return () => true;
  const now = place ?? take.end;
  return closed === 0 ? (tick) => tick >= punchedAt && tick <= now : (tick) => tick >= punchedAt || tick <= now;
}

/** Hits of the strokes of a pass laid into the part. @param place where the music is */
export function laid(
  r: Running,
  base: Part,
  strokes: readonly FoldedStroke[],
  { mode, rows }: Pick<RecordingState, 'mode' | 'rows'>,
  place: Ticks | null,
): Part {
  const hits = hitsOfStrokes(base, r.take, strokes, rows.size > 0 ? rows : undefined);
  if (mode === 'layer' || hits.length === 0) return withHits(base, hits);
  const inLoop = hitsInRange(base, r.take);
  const passed = passedOf(r, place);
  const goes = (h: Hit): boolean => inLoop.has(h.id) && passed(h.tick) && (rows.size === 0 || rows.has(h.voice));
  for (const h of base.hits) if (goes(h) && eventOfHit(h.id)?.take !== r.take.id) r.replaced.set(h.id, h);
  return withHits(base, hits, (h: Hit) => !goes(h));
}

/** Where the machine stalled while a take was recorded, in seconds as its events have them. */
export function stallsOf({ base, events }: Pick<Running, 'base' | 'events'>, engine: SoundEngine): { from: Seconds; to: Seconds }[] {
  if (base === null) return [];
  const last = events.at(-1)?.at ?? 0;
  return engine.stalls
    .map(({ from, to }) => ({ from: seconds(engine.heardAt(from) - base), to: seconds(engine.heardAt(to) - base) }))
    .filter(({ from, to }) => to > 0 && from < last);
}
