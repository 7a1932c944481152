/** What lies between rows: strokes that fall together, and those that nearly do. */
import { NamedError } from '../errors';
import { barOfHome, homesOf } from '../homes/homes';
import { voiceNumbers } from '../part/by-voice';
import { tempoMapOf } from '../part/part-time';
import type { Hit, Part } from '../model/part';
import { ticks, type Ticks } from '../units';
import type { VoiceName } from '../row-names';
import { compareVoices } from '../voices';

/** What of a part is looked at. */
export type MeasuredPart = Pick<Part, 'hits' | 'tempo' | 'meter' | 'origin' | 'bars'>;

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

/**
 * Every pair of rows with strokes of one home, the commonest first. A row's first stroke at a home stands for it; chokes are none.
 * @param most so many pairs of strokes are looked at
 * @throws NamedError too-much-to-compare where there are more
 */
export function togetherOf(part: MeasuredPart, places: Places = written(part), most = Infinity): Together[] {
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
  let looks = 0;
  for (const { size: n } of atHome.values()) looks += (n * (n - 1)) / 2;
  if (looks > most) throw new NamedError('too-much-to-compare', { pairs: looks });
  // Pairs of rows by number: rows times rows, however many lines they share.
  const rowsOfPart = [...new Set(part.hits.map((h) => h.voice))].sort(compareVoices);
  const numbers = new Map(rowsOfPart.map((voice, i) => [voice, i]));
  const size = rowsOfPart.length;
  const pairs = size * size;
  // Sums are taken from each pair's first distance on: what is always the same has no spread at all.
  const [counts, firsts, sums, squares] = [
    new Uint32Array(pairs),
    new Float64Array(pairs),
    new Float64Array(pairs),
    new Float64Array(pairs),
  ];
  const order = new Int32Array(size);
  const times = new Float64Array(size);
  for (const rows of atHome.values()) {
    [...rows.keys()].forEach((voice, i) => (order[i] = numbers.get(voice) as number));
    const struck = order.subarray(0, rows.size).sort();
    struck.forEach((row, i) => (times[i] = tempo.toSeconds(ticks(rows.get(rowsOfPart[row] as VoiceName) as number)) * 1000));
    for (let i = 0; i < struck.length; i++) {
      const first = (struck[i] as number) * size;
      const at = times[i] as number;
      for (let k = i + 1; k < struck.length; k++) {
        const pair = first + (struck[k] as number);
        const ms = (times[k] as number) - at;
        if (counts[pair] === 0) firsts[pair] = ms;
        const off = ms - (firsts[pair] as number);
        counts[pair] = (counts[pair] as number) + 1;
        sums[pair] = (sums[pair] as number) + off;
        squares[pair] = (squares[pair] as number) + off * off;
      }
    }
  }
  const found: Together[] = [];
  counts.forEach((n, pair) => {
    if (n === 0) return;
    const off = (sums[pair] as number) / n;
    const sdMs = Math.sqrt(Math.max(0, (squares[pair] as number) / n - off * off));
    found.push({
      voices: [rowsOfPart[Math.floor(pair / size)] as VoiceName, rowsOfPart[pair % size] as VoiceName],
      n,
      meanMs: (firsts[pair] as number) + off,
      sdMs,
    });
  });
  // Pairs were found in the order of rows, which a sort keeps among equals.
  return found.sort((a, b) => b.n - a.n);
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

/** Strokes of different rows that compete: how many pairs there are, and the first of them in time. */
export interface CompetingList {
  count: number;
  list: Competing[];
}

/**
 * Strokes of different rows within 35 ms whose homes differ. Pairs are counted without being made, in linear time: ten thousand strokes
 * within 35 ms have fifty million.
 * @param most so many pairs are listed
 */
export function competingIn(part: MeasuredPart, places: Places = written(part), most = Infinity): CompetingList {
  const homes = homesOf(part);
  const tempo = tempoMapOf(part);
  const { numbers } = voiceNumbers(part.hits);
  const order = Uint32Array.from(part.hits.keys())
    .filter((i) => !(part.hits[i] as Hit).choke)
    .sort((a, b) => (places[a] as number) - (places[b] as number) || a - b);
  const seconds = Float64Array.from(order, (i) => tempo.toSeconds(ticks(places[i] as number)));
  const after = laterRivals(
    Uint32Array.from(order, (i) => numbers[i] as number),
    Float64Array.from(order, (i) => homes.ticks[i] as number),
    nearUntil(seconds),
  );
  const list: Competing[] = [];
  let count = 0;
  for (let k = 0; k < order.length; k++) {
    let open = after[k] as number;
    count += open;
    const i = order[k] as number;
    const first = part.hits[i] as Hit;
    for (let m = k + 1; open > 0 && list.length < most; m++) {
      const j = order[m] as number;
      const second = part.hits[j] as Hit;
      if (second.voice === first.voice || homes.ticks[i] === homes.ticks[j]) continue;
      open--;
      const ms = ((seconds[m] as number) - (seconds[k] as number)) * 1000;
      list.push({
        bar: Math.max(0, barOfHome(part, homes.ticks[i] as number)),
        tick: ticks(places[i] as number),
        voices: [first.voice, second.voice],
        ms,
        hits: [i, j],
      });
    }
  }
  return { count, list };
}

/** Of each stroke the first later one that is not near it any more. @param seconds rising */
function nearUntil(seconds: Float64Array): Uint32Array {
  const until = new Uint32Array(seconds.length);
  for (let k = 0, end = 0; k < seconds.length; k++) {
    while (end < seconds.length && ((seconds[end] as number) - (seconds[k] as number)) * 1000 <= COMPETING_MS + 1e-9) end++;
    until[k] = end;
  }
  return until;
}

/** Pairs that are looked at one by one; more of them are counted by rows and lines. */
const FEW_PAIRS = 2e6;

/** Of each stroke how many later ones near it are of another row and another line. */
function laterRivals(rows: Uint32Array, lines: Float64Array, until: Uint32Array): Float64Array {
  const rivals = new Float64Array(rows.length);
  const pairs = until.reduce((sum, end, k) => sum + end - k - 1, 0);
  if (pairs > FEW_PAIRS) return rivalsByNumber(rows, lines, until);
  for (let k = 0; k < rows.length; k++) {
    for (let m = k + 1; m < (until[k] as number); m++)
      if (rows[m] !== rows[k] && lines[m] !== lines[k]) rivals[k] = (rivals[k] as number) + 1;
  }
  return rivals;
}

/** The same without looking at pairs: all near ones without those of its row or its line, which are counted as they come and go. */
function rivalsByNumber(rows: Uint32Array, lines: Float64Array, until: Uint32Array): Float64Array {
  const lineNumbers = new Map<number, number>();
  for (const line of lines) if (!lineNumbers.has(line)) lineNumbers.set(line, lineNumbers.size);
  const size = rows.reduce((most, row) => Math.max(most, row + 1), 0);
  const ofRow = new Uint32Array(size);
  const ofLine = new Uint32Array(lineNumbers.size);
  const ofBoth = new Map<number, number>();
  const lineOf = (k: number): number => lineNumbers.get(lines[k] as number) as number;
  const add = (k: number, by: 1 | -1) => {
    const [row, line] = [rows[k] as number, lineOf(k)];
    ofRow[row] = (ofRow[row] as number) + by;
    ofLine[line] = (ofLine[line] as number) + by;
    ofBoth.set(line * size + row, (ofBoth.get(line * size + row) ?? 0) + by);
  };
  const rivals = new Float64Array(rows.length);
  let end = rows.length;
  for (let k = rows.length - 1; k >= 0; k--) {
    while (end > (until[k] as number)) add(--end, -1);
    const [row, line] = [rows[k] as number, lineOf(k)];
    rivals[k] = end - k - 1 - (ofRow[row] as number) - (ofLine[line] as number) + (ofBoth.get(line * size + row) ?? 0);
    add(k, 1);
  }
  return rivals;
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
/** Every two rows are compared: of more rows than these, the busiest. */
const MOST_ANSWERING = 48;

/** Rows that answer in turn: nearly all of a row's strokes between those of another, and both about as many. */
export function answeringIn(part: MeasuredPart): Answering[] {
  const homes = homesOf(part);
  const rows = new Map<VoiceName, Set<number>>();
  part.hits.forEach((hit, i) => {
    if (hit.choke) return;
    rows.set(hit.voice, (rows.get(hit.voice) ?? new Set()).add(homes.ticks[i] as number));
  });
  const busiest = [...rows]
    .filter(([, at]) => at.size >= FEWEST)
    .sort((a, b) => b[1].size - a[1].size)
    .slice(0, MOST_ANSWERING);
  const list = busiest.sort(([a], [b]) => compareVoices(a, b));
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
