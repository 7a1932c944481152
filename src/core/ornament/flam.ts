import { ORNAMENT_LIMITS, type Flam } from '../model/ornament';
import { tempoMapOf } from '../part/part-time';
import { milliseconds, ticks } from '../units';
import { strokeOf, wholeWithin, within, type Ornamented, type OrnamentSpec, type OrnamentStroke } from './ornament-spec';

/** A flam of one, two or three grace strokes has a name of its own. */
export const GRACE_WORDS = ['flam', 'drag', 'ruff'] as const;

/** The factor on the hit's velocity of grace stroke j (0 the first) of n. */
export const graceLevel = ({ level, slope }: Pick<Flam, 'level' | 'slope'>, j: number, n: number): number =>
  level * (n === 1 ? 1 : 1 + slope * (j / (n - 1) - 0.5));

function flamStrokes(part: Ornamented, flam: Flam, main: OrnamentStroke): OrnamentStroke[] {
  const tempo = tempoMapOf(part);
  const n = flam.strokes;
  const before = (strokes: number): number => tempo.shift(ticks(main.tick), milliseconds(-strokes * flam.spacingMs));
  const strokes = [main];
  let tick = before(n);
  for (let j = 0; j < n; j++) {
    const next = j === n - 1 ? main.tick : before(n - j - 1);
    strokes.push(strokeOf(main, tick, main.velocity * graceLevel(flam, j, n), next - tick));
    tick = next;
  }
  return strokes;
}

const L = ORNAMENT_LIMITS;

export const flamSpec: OrnamentSpec<Flam> = {
  kind: 'flam',
  members: { strokes: wholeWithin(L.graces), spacingMs: within(L.spacingMs), level: within(L.level), slope: within(L.slope) },
  ready: GRACE_WORDS.map((word, i) => ({ word, ornament: { kind: 'flam', strokes: i + 1, spacingMs: 25, level: 0.55, slope: 0 } })),
  word: ({ strokes }) => GRACE_WORDS[strokes - 1] ?? 'flam',
  count: (_part, _index, { strokes }) => strokes + 1,
  strokes: (part, _index, flam, main) => flamStrokes(part, flam, main),
};
