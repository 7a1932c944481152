import type { Bar, MeterMap } from '../time/meter-map';
import { clamp, milliseconds, ticks } from '../units';
import { humanValues } from '../feel/random-values';
import type { HumanizeMove } from '../model/feel';
import { choice, number, optional, whole, type ApplyMove, type MoveSpec } from '../feel/move-spec';

/** No draw is further out than this many deviations. */
const FURTHEST = 2.5;

/** Where homes lie: on a bar line, on a beat line, or on neither. */
const LINE = { none: 0, beat: 1, bar: 2 } as const;

const lineCache = new WeakMap<Float64Array, { map: MeterMap; lines: Uint8Array }>();

/** Which line each home lies on; made once for all moves that ask. */
function linesOfHomes(homes: Float64Array, map: MeterMap): Uint8Array {
  const known = lineCache.get(homes);
  if (known?.map === map) return known.lines;
  const lines = new Uint8Array(homes.length);
  // Hits come in time order: most have their bar with the one before.
  let bar: Bar | null = null;
  let beats: readonly number[] = [];
  for (let i = 0; i < homes.length; i++) {
    const home = homes[i] as number;
    const own = map.barAt(ticks(home));
    if (own !== bar) {
      bar = own;
      beats = map.beatsOf(own).map((beat) => beat.start);
    }
    let k = beats.length - 1;
    while (k > 0 && (beats[k] as number) > home) k--;
    if (home - own.start < 1) lines[i] = LINE.bar;
    else if (home - (beats[k] as number) < 1) lines[i] = LINE.beat;
  }
  lineCache.set(homes, { map, lines });
  return lines;
}

/** Human drift: a slow 1/f curve of the whole kit and each hit's own scatter, mixed by `memory` at unit deviation. */
const applyHumanize: ApplyMove<HumanizeMove> = (
  { timingMs, velocityPercent, memory, anchor, span, limit },
  { part, hits, written, range, times, loudness, lines: current, homes, map, tempo },
  inScope,
  seed,
  slow,
) => {
  const draws = humanValues(hits, map, seed, span, slow, part.round && range);
  const lines = linesOfHomes(limit === 'clip' ? homes.ticks : current, map);
  /** How much a line is spared: bar lines by the whole anchor, beat lines by half of it. */
  const shares = [1, 1 - anchor / 2, 1 - anchor];
  const unit = Math.sqrt(memory ** 2 + (1 - memory) ** 2);
  const drawOf = (slow: number, own: number): number => clamp((memory * slow + (1 - memory) * own) / unit, -FURTHEST, FURTHEST);
  for (let i = range.from; i < range.to; i++) {
    if (!inScope(i)) continue;
    const spared = shares[lines[i] as number] as number;
    const ms = timingMs * spared * drawOf(draws.slowTiming[i] as number, draws.ownTiming[i] as number);
    times[i] = tempo.shift(ticks(times[i] as number), milliseconds(ms));
    if (written.chokes[i] === 1 || velocityPercent === 0) continue;
    const v = limit === 'clip' ? (loudness[i] as number) : clamp(loudness[i] as number, 1, 127);
    const drawn = v + (v * velocityPercent * spared * drawOf(draws.slowVelocity[i] as number, draws.ownVelocity[i] as number)) / 100;
    loudness[i] = limit === 'clip' ? drawn : mirrored(drawn);
  }
};

/** A velocity that would pass its limits comes back from them, once: loud rows do not pile up at 127. @example mirrored(130) // 124 */
const mirrored = (v: number): number => (v > 127 ? 254 - v : v < 1 ? 2 - v : v);

/** Spans in bars that a new one may have, the largest first: a loop is laid neither back nor forward where its span divides it. */
const SPANS = [4, 2, 1] as const;

export const humanizeMove: MoveSpec<HumanizeMove> = {
  kind: 'humanize',
  members: {
    timingMs: number(0, 80),
    velocityPercent: number(0, 40),
    memory: number(0, 1),
    anchor: number(0, 1),
    span: whole(1, 32),
    limit: optional(choice(['mirror', 'clip'])),
  },
  plain: { kind: 'humanize', timingMs: 4, velocityPercent: 8, memory: 0.4, anchor: 0.5, span: 4 },
  first: (_part, { loopBars }) => ({ span: SPANS.find((n) => loopBars % n === 0) ?? 1 }),
  // Of the first format, so that the same seed keeps the same dice.
  salt: 'drift',
  draws: true,
  apply: applyHumanize,
};
