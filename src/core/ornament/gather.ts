import { tempoMapOf } from '../part/part-time';
import type { Hit, Part } from '../model/part';
import { clamp, ticks, TICKS_PER_QUARTER } from '../units';
import type { VoiceName } from '../row-names';
import { ORNAMENT_LIMITS, type Flam, type Ornament, type Roll } from '../model/ornament';
import { graceLevel } from './flam';
import { rollLevel } from './roll';

/** Plain hits that are one ornament, and the hit that will carry it. */
export interface Gathered {
  hits: readonly Hit[];
  main: Hit;
  ornament: Ornament;
}

/** Grace strokes lie no further apart. */
const MOST_GRACE_MS = 45;
/** Strokes of a roll lie closer than sixteenths: those are a pattern. */
const MOST_ROLL_GAP = 0.9 * (TICKS_PER_QUARTER / 4);
/** How far a stroke may be from where the ornament puts it. */
const NEAR_MS = 4;
const NEAR_VELOCITY = 8;
const LEAST_ROLL = 3;

/**
 * Flams (a louder hit behind one to three within 45 ms of each other) and rolls (three or more closer than sixteenths, evenly apart, on an
 * even ramp) among
 * hits of one voice each. What an ornament would miss by more than 4 ms or a velocity of 8 is none.
 */
export function gatherStrokes(part: Pick<Part, 'tempo'>, hits: readonly Hit[]): Gathered[] {
  const byVoice = new Map<VoiceName, Hit[]>();
  for (const hit of hits) byVoice.set(hit.voice, [...(byVoice.get(hit.voice) ?? []), hit]);
  return [...byVoice.values()].flatMap((own) => gatherVoice(part, own));
}

function gatherVoice(part: Pick<Part, 'tempo'>, hits: readonly Hit[]): Gathered[] {
  const found: Gathered[] = [];
  let i = 0;
  while (i < hits.length) {
    const gathered = longer(flamFrom(part, hits, i), rollFrom(part, hits, i));
    if (gathered) found.push(gathered);
    i += gathered?.hits.length ?? 1;
  }
  return found;
}

/** What takes in more hits; the first where both take in as many. */
const longer = (a: Gathered | null, b: Gathered | null): Gathered | null => (a && (!b || a.hits.length >= b.hits.length) ? a : b);

function msBetween(part: Pick<Part, 'tempo'>, a: Hit, b: Hit): number {
  return tempoMapOf(part).between(ticks(a.tick), ticks(b.tick));
}

/** The longest flam that starts with this hit. */
function flamFrom(part: Pick<Part, 'tempo'>, hits: readonly Hit[], from: number): Gathered | null {
  let to = from;
  while (to + 1 < hits.length && to - from < ORNAMENT_LIMITS.graces[1] && closeFlam(part, hits[to] as Hit, hits[to + 1] as Hit)) to++;
  const run = hits.slice(from, to + 1);
  const main = run.at(-1) as Hit;
  const graces = run.slice(0, -1);
  const n = graces.length;
  if (n === 0 || graces.some((g) => g.velocity >= main.velocity)) return null;
  const spacingMs = msBetween(part, run[0] as Hit, main) / n;
  if (spacingMs < ORNAMENT_LIMITS.spacingMs[0]) return null;
  const shares = graces.map((g) => g.velocity / main.velocity);
  const level = shares.reduce((a, b) => a + b, 0) / n;
  const slope = n === 1 ? 0 : ((shares[n - 1] as number) - (shares[0] as number)) / level;
  const flam: Flam = {
    kind: 'flam',
    strokes: n,
    spacingMs: round(spacingMs, 2),
    level: round(clamp(level, ...ORNAMENT_LIMITS.level), 3),
    slope: round(clamp(slope, ...ORNAMENT_LIMITS.slope), 3),
  };
  const fits = graces.every(
    (g, j) =>
      Math.abs(msBetween(part, g, main) - (n - j) * spacingMs) <= NEAR_MS &&
      Math.abs(main.velocity * graceLevel(flam, j, n) - g.velocity) <= NEAR_VELOCITY,
  );
  return fits ? { hits: run, main, ornament: flam } : null;
}

const closeFlam = (part: Pick<Part, 'tempo'>, a: Hit, b: Hit): boolean => {
  const ms = msBetween(part, a, b);
  return ms > 0 && ms <= MOST_GRACE_MS;
};

/** The longest even roll that starts with this hit. */
function rollFrom(part: Pick<Part, 'tempo'>, hits: readonly Hit[], from: number): Gathered | null {
  for (let to = Math.min(hits.length - 1, from + ORNAMENT_LIMITS.strokes[1] - 1); to - from + 1 >= LEAST_ROLL; to--) {
    const roll = rollOf(part, hits.slice(from, to + 1));
    if (roll) return { hits: hits.slice(from, to + 1), main: hits[from] as Hit, ornament: roll };
  }
  return null;
}

function rollOf(part: Pick<Part, 'tempo'>, run: readonly Hit[]): Roll | null {
  const first = run[0] as Hit;
  const last = run.at(-1) as Hit;
  const n = run.length;
  const gap = (last.tick - first.tick) / (n - 1);
  if (gap <= 0 || gap > MOST_ROLL_GAP) return null;
  const to = clamp(last.velocity / first.velocity, ...ORNAMENT_LIMITS.to);
  const roll: Roll = { kind: 'roll', strokes: n, length: ticks(Math.round(gap * n)), speed: 0, to: round(to, 3), bend: 0 };
  const tempo = tempoMapOf(part);
  const fits = run.every((hit, k) => {
    const place = ticks(first.tick + k * gap);
    return (
      Math.abs(tempo.between(place, hit.tick)) <= NEAR_MS &&
      Math.abs(first.velocity * rollLevel(roll, k / (n - 1)) - hit.velocity) <= NEAR_VELOCITY
    );
  });
  return fits ? roll : null;
}

const round = (n: number, digits: number): number => Math.round(n * 10 ** digits) / 10 ** digits;
