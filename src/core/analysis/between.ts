/** What lies between rows: strokes that fall together, and those that nearly do. */
import { barOfHome, homesOf } from '../homes/homes';
import { tempoMapOf } from '../part/part-time';
import type { Hit, Part } from '../model/part';
import { deviation, mean } from '../statistics';
import { ticks, type Ticks } from '../units';
import type { VoiceName } from '../row-names';
import { compareVoices } from '../voices';

/** What of a part is looked at. */
export type Measured = Pick<Part, 'hits' | 'tempo' | 'meter' | 'origin' | 'bars'>;

/** Where hits are taken to be: as written, or performed; parallel to the part's hits. */
export type Places = ArrayLike<number>;

const written = (part: Pick<Part, 'hits'>): Places => part.hits.map((h) => h.tick);

/** Two rows that are struck on one line. */
export interface Together {
  /** In the order of rows. */
  voices: [VoiceName, VoiceName];
  /** How often. */
  n: number;
  /** The second after the first. */
  meanMs: number;
  /** Of the population. */
  sdMs: number;
}

/** Every pair of rows with strokes of one home, the commonest first. A row's first stroke at a home stands for it; chokes are none. */
export function togetherOf(part: Measured, places: Places = written(part)): Together[] {
  const homes = homesOf(part);
  const tempo = tempoMapOf(part);
  const atHome = new Map<number, Map<VoiceName, number>>();
  part.hits.forEach((hit, i) => {
    if (hit.choke) return;
    const home = homes.ticks[i] as number;
    let rows = atHome.get(home);
    if (!rows) atHome.set(home, (rows = new Map()));
    const place = places[i] as number;
    rows.set(hit.voice, Math.min(rows.get(hit.voice) ?? Infinity, place));
  });
  const apart = new Map<string, { voices: [VoiceName, VoiceName]; ms: number[] }>();
  for (const rows of atHome.values()) {
    const list = [...rows].sort(([a], [b]) => compareVoices(a, b));
    for (let i = 0; i < list.length; i++) {
      for (let k = i + 1; k < list.length; k++) {
        const [a, b] = [list[i] as [VoiceName, number], list[k] as [VoiceName, number]];
        const key = `${a[0]} ${b[0]}`;
        let pair = apart.get(key);
        if (!pair) apart.set(key, (pair = { voices: [a[0], b[0]], ms: [] }));
        pair.ms.push(tempo.between(ticks(a[1]), ticks(b[1])));
      }
    }
  }
  return [...apart.values()].map(({ voices, ms }): Together => ({ voices, n: ms.length, meanMs: mean(ms), sdMs: deviation(ms) })).sort((a, b) => b.n - a.n || compareVoices(a.voices[0], b.voices[0]) || compareVoices(a.voices[1], b.voices[1]));
}

/** Two strokes of different rows that fall nearly together, but belong to different lines. */
export interface Competing {
  /** From 0, by the earlier stroke. */
  bar: number;
  /** Of the earlier stroke. */
  tick: Ticks;
  /** The earlier first. */
  voices: [VoiceName, VoiceName];
  /** Between them, positive. */
  ms: number;
  /** Indices of both hits. */
  hits: [number, number];
}

/** So near strokes of different lines compete, in ms. */
export const COMPETING_MS = 35;

/** Strokes of different rows within 35 ms whose homes differ, in time. */
export function competingIn(part: Measured, places: Places = written(part)): Competing[] {
  const homes = homesOf(part);
  const tempo = tempoMapOf(part);
  const order = part.hits.map((_, i) => i).filter((i) => !(part.hits[i] as Hit).choke).sort((a, b) => (places[a] as number) - (places[b] as number) || a - b);
  const seconds = order.map((i) => tempo.toSeconds(ticks(places[i] as number)));
  const found: Competing[] = [];
  for (let k = 0; k < order.length; k++) {
    const i = order[k] as number;
    const first = part.hits[i] as Hit;
    for (let m = k + 1; m < order.length; m++) {
      const ms = ((seconds[m] as number) - (seconds[k] as number)) * 1000;
      if (ms > COMPETING_MS + 1e-9) break;
      const j = order[m] as number;
      const second = part.hits[j] as Hit;
      if (second.voice === first.voice || homes.ticks[i] === homes.ticks[j]) continue;
      found.push({ bar: Math.max(0, barOfHome(part, homes.ticks[i] as number)), tick: ticks(places[i] as number), voices: [first.voice, second.voice], ms, hits: [i, j] });
    }
  }
  return found;
}

/** Two rows of which one plays where the other pauses. */
export interface Answering {
  voices: [VoiceName, VoiceName];
  /** Share of the second's homes that lie in gaps of the first, 0 to 1. */
  share: number;
  n: number;
}

/** A row answers where at least so many of its homes are in the other's gaps, and it shares so few with it. */
const ANSWERS = 0.85;
const FEWEST = 4;

/** Rows that answer in turn: nearly all of a row's strokes between those of another, and both about as many. */
export function answeringIn(part: Measured): Answering[] {
  const homes = homesOf(part);
  const rows = new Map<VoiceName, Set<number>>();
  part.hits.forEach((hit, i) => {
    if (hit.choke) return;
    rows.set(hit.voice, (rows.get(hit.voice) ?? new Set()).add(homes.ticks[i] as number));
  });
  const list = [...rows].filter(([, at]) => at.size >= FEWEST).sort(([a], [b]) => compareVoices(a, b));
  const found: Answering[] = [];
  for (let i = 0; i < list.length; i++) {
    for (let k = i + 1; k < list.length; k++) {
      const [a, b] = [list[i] as [VoiceName, Set<number>], list[k] as [VoiceName, Set<number>]];
      if (Math.max(a[1].size, b[1].size) > 2 * Math.min(a[1].size, b[1].size)) continue;
      const alone = [...b[1]].filter((home) => !a[1].has(home)).length;
      if (alone / b[1].size < ANSWERS || !takesTurns(a[1], b[1])) continue;
      found.push({ voices: [a[0], b[0]], share: alone / b[1].size, n: b[1].size });
    }
  }
  return found;
}

/** Whether strokes of two rows come by turns: after one of them mostly the other. */
function takesTurns(a: ReadonlySet<number>, b: ReadonlySet<number>): boolean {
  const all = [...[...a].map((t) => [t, 0] as const), ...[...b].map((t) => [t, 1] as const)].sort((x, y) => x[0] - y[0]);
  let turns = 0;
  for (let i = 1; i < all.length; i++) if (all[i]?.[1] !== all[i - 1]?.[1]) turns++;
  return turns >= (all.length - 1) * 0.6;
}
