/** Plain words for hits, places and numbers. */
import type { Hit, HitId, Part } from '@/core/part/part';
import { meterMapOf } from '@/core/part/part-time';
import { ticks, TICKS_PER_QUARTER, TICKS_PER_WHOLE } from '@/core/units';
import { labelOfVoice } from '@/core/voices';

/** @example leanText(14.2) // '14 ms late'; leanText(0.3) // 'on the line' */
export function leanText(ms: number): string {
  const size = Math.abs(ms);
  if (size < 0.5) return 'on the line';
  return `${size < 10 ? size.toFixed(1).replace(/\.0$/, '') : Math.round(size)} ms ${ms < 0 ? 'early' : 'late'}`;
}

/** @example describeHits(part, ids) // '12 closed hat hits' */
export function describeHits(part: Pick<Part, 'hits'>, ids: ReadonlySet<HitId>): string {
  const voices = new Set<string>();
  let ghosts = 0;
  for (const hit of part.hits) {
    if (!ids.has(hit.id)) continue;
    voices.add(hit.voice);
    if (hit.ghost) ghosts++;
  }
  const n = ids.size;
  const kind = ghosts === n && n > 0 ? (n === 1 ? 'ghost' : 'ghosts') : n === 1 ? 'hit' : 'hits';
  const voice = voices.size === 1 ? `${labelOfVoice([...voices][0] as string).toLowerCase()} ` : '';
  return `${n === 1 ? 'one' : n} ${voice}${kind}`;
}

const SIXTEENTHS = ['', 'e', '&', 'a'];

/** How a place in a bar is counted: quarters "1 e & a", eighth meters "1 & 2 &". */
export function countName(place: number, denominator: number): string {
  const unit = TICKS_PER_WHOLE / (denominator === 8 ? 8 : 4);
  const beat = Math.floor(place / unit + 1e-6);
  const rest = place - beat * unit;
  if (denominator === 8) return rest < TICKS_PER_QUARTER / 8 ? String(beat + 1) : `${beat + 1} &`;
  const name = SIXTEENTHS[Math.round(rest / (TICKS_PER_QUARTER / 4)) % 4] as string;
  return `${beat + 1}${name ? ` ${name}` : ''}`;
}

/** @example placeText(part, hit.home) // 'bar 2 · 3 &' */
export function placeText(part: Pick<Part, 'meter' | 'origin'>, tick: number): string {
  const map = meterMapOf(part);
  const bar = map.barAt(ticks(tick));
  return `bar ${bar.index + 1} · ${countName(tick - bar.start, bar.meter.denominator)}`;
}

/** A hit as a sentence, for lists and screen readers. */
export const hitText = (part: Pick<Part, 'meter' | 'origin'>, hit: Hit, home: number, velocity: number, lean: number): string =>
  `${labelOfVoice(hit.voice)}${hit.ghost ? ' ghost' : ''}, ${placeText(part, home)}, velocity ${velocity}, ${leanText(lean)}`;
