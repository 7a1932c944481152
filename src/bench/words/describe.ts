/** Plain words for hits, places and numbers. */
import { barOfHome, homesOf } from '@/core/homes/homes';
import { labelOfRow } from '@/core/part/rows';
import type { Hit, HitId, Part } from '@/core/model/part';
import { meterMapOf } from '@/core/part/part-time';
import { offBeatOf } from '@/core/selection/rules';
import { ticks, TICKS_PER_QUARTER, TICKS_PER_WHOLE } from '@/core/units';
import { familyOfVoice, type VoiceName } from '@/core/row-names';

/** @example leanText(14.2) // '14 ms late'; leanText(0.3) // 'on the grid' */
export function leanText(ms: number): string {
  const size = Math.abs(ms);
  if (size < 0.5) return 'on the grid';
  return `${size < 10 ? size.toFixed(1).replace(/\.0$/, '') : Math.round(size)} ms ${ms < 0 ? 'early' : 'late'}`;
}

const described = new WeakMap<ReadonlySet<HitId>, { hits: readonly Hit[]; rows: unknown; text: string }>();

/**
 * Some hits in plain words: how many, where in the beat, of what, in which bars.
 * @example describeHits(part, ids) // '12 off-beat hats in bar 2'
 */
export function describeHits(part: Describable, ids: ReadonlySet<HitId>): string {
  const known = described.get(ids);
  if (known && known.hits === part.hits && known.rows === part.rows) return known.text;
  const text = wordsFor(part, ids);
  described.set(ids, { hits: part.hits, rows: part.rows, text });
  return text;
}

type Describable = Pick<Part, 'hits' | 'rows' | 'meter' | 'origin' | 'bars'>;

function wordsFor(part: Describable, ids: ReadonlySet<HitId>): string {
  const homes = homesOf(part);
  const map = meterMapOf(part);
  const voices = new Set<VoiceName>();
  let n = 0;
  let ghosts = 0;
  let chokes = 0;
  let onBeats = 0;
  let offBeats = 0;
  let firstBar = Infinity;
  let lastBar = -Infinity;
  part.hits.forEach((hit, i) => {
    if (!ids.has(hit.id)) return;
    n++;
    voices.add(hit.voice);
    if (hit.ghost) ghosts++;
    if (hit.choke) chokes++;
    const home = ticks(homes.ticks[i] as number);
    const bar = map.barAt(home);
    const belongs = barOfHome(part, home);
    const beat = map.beatAt(bar, home);
    firstBar = Math.min(firstBar, belongs);
    lastBar = Math.max(lastBar, belongs);
    if (home - beat.start < 1) onBeats++;
    else if (Math.abs(home - beat.start - offBeatOf(beat.length, bar.meter.denominator)) < 1) offBeats++;
  });
  if (n === 0) return 'no hits';
  const all = (count: number): boolean => count === n;
  const place = n < 2 ? '' : all(onBeats) ? 'on-beat ' : all(offBeats) ? 'off-beat ' : '';
  const kind = all(chokes) ? 'choke' : all(ghosts) ? 'ghost' : '';
  const bars =
    part.bars < 2 || (firstBar <= 0 && lastBar >= part.bars - 1)
      ? ''
      : firstBar === lastBar
        ? ` in bar ${firstBar + 1}`
        : ` in bars ${firstBar + 1} to ${lastBar + 1}`;
  return `${n === 1 ? 'one' : n === part.hits.length ? `all ${n}` : n} ${place}${nounFor(part, voices, kind, n)}${bars}`;
}

/** One voice by its row's name, several of a family by the family's, all else as hits. */
function nounFor(part: Pick<Part, 'rows'>, voices: ReadonlySet<VoiceName>, kind: string, n: number): string {
  const plural = (word: string): string => (n === 1 ? word : `${word}s`);
  const families = new Set([...voices].map(familyOfVoice));
  const family = families.size === 1 ? [...families][0] : undefined;
  const name = voices.size === 1 ? labelOfRow(part, [...voices][0] as string).toLowerCase() : (family ?? '');
  if (kind) return `${name ? `${name} ` : ''}${plural(kind)}`;
  if (voices.size > 1 && family) return plural(family);
  return name ? `${name} ${plural('hit')}` : plural('hit');
}

const SIXTEENTHS = ['', 'e', '&', 'a'];

/** Places between sixteenths by the fraction of a sixteenth that they lie after one. */
const AFTER_SIXTEENTH: readonly (readonly [share: number, words: string])[] = [
  [0.25, '+ 1/64'],
  [0.5, '+ 1/32'],
  [0.75, '+ 3/64'],
];
/** Less than this share of a sixteenth is no other place. */
const NEAR = 0.01;

/**
 * How a place in a bar is counted: quarters "1 e & a", eighth meters "1 & 2 &"; thirty-seconds and sixty-fourths by the sixteenth before
 * them, triplets by their number.
 * @example countName(0.875 * TICKS_PER_QUARTER, 4) // '1 a + 1/32'; countName(TICKS_PER_QUARTER / 3, 4) // '1 triplet 2'
 */
export function countName(place: number, denominator: number): string {
  const unit = TICKS_PER_WHOLE / (denominator === 8 ? 8 : 4);
  const sixteenth = TICKS_PER_QUARTER / 4;
  const beat = Math.floor(place / unit + 1e-6);
  const rest = place - beat * unit;
  const named = (n: number, more = ''): string =>
    [beat + 1, (denominator === 8 ? ['', '&'] : SIXTEENTHS)[n], more].filter((part) => part !== '').join(' ');
  const n = Math.floor(rest / sixteenth + NEAR);
  const share = rest / sixteenth - n;
  if (Math.abs(share) <= NEAR) return named(n);
  const fine = AFTER_SIXTEENTH.find(([after]) => Math.abs(share - after) <= NEAR);
  if (fine) return named(n, fine[1]);
  for (const [step, words] of [
    [unit / 3, 'triplet'],
    [TICKS_PER_QUARTER / 6, '1/16 triplet'],
  ] as const) {
    const third = rest / step;
    if (Math.abs(third - Math.round(third)) <= NEAR) return `${beat + 1} ${words} ${Math.round(third) + 1}`;
  }
  // On no line: after the one before it.
  return named(n);
}

/** @example placeText(part, hit.home) // 'bar 2 · 3 &' */
export function placeText(part: Pick<Part, 'meter' | 'origin'>, tick: number): string {
  const map = meterMapOf(part);
  const bar = map.barAt(ticks(tick));
  return `bar ${bar.index + 1} · ${countName(tick - bar.start, bar.meter.denominator)}`;
}

/** A hit as a sentence, for lists and screen readers. */
export const hitText = (part: Pick<Part, 'meter' | 'origin' | 'rows'>, hit: Hit, home: number, velocity: number, lean: number): string =>
  `${labelOfRow(part, hit.voice)}${hit.ghost ? ' ghost' : ''}${hit.choke ? ' choke' : ''}${hit.muted ? ', muted' : ''}${hit.locked ? ', locked' : ''}, ${placeText(part, home)}, velocity ${velocity}, ${leanText(lean)}`;

/** A hit's two lines, and how sure the one it belongs to is. @example 'Snare, bar 1 · 4 a: 62 % sure, else bar 2 · 1' */
export function hitLinesText(
  part: Pick<Part, 'meter' | 'origin' | 'rows'>,
  { voice, home, sure = 1, other }: Pick<Hit, 'voice' | 'home' | 'sure' | 'other'>,
): string {
  const name = `${labelOfRow(part, voice)}, ${placeText(part, home)}`;
  return sure === 1 ? name : `${name}: ${Math.round(sure * 100)} % sure${other === undefined ? '' : `, else ${placeText(part, other)}`}`;
}
