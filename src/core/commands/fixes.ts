/** Mends of what nobody can play. */
import { isTime, type ConflictKind } from '../hands/limits';
import type { Hit, HitId, Part } from '../model/part';
import { newOrnament } from '../ornament/all';
import type { GridName } from '../time/grid';
import { familyOfVoice, voiceOfRow, type VoiceName } from '../row-names';
import { removeHits, rowsWith } from './hits';
import { keyInPart } from './place';

export type FixKind = 'leave-out' | 'pedal' | 'close' | 'thin' | 'flam';

/** What of a moment a fix goes by. */
export interface Fixable {
  kind: ConflictKind;
  voice: VoiceName;
  /** The hit that finds no limb. */
  hit: HitId;
  moment: readonly HitId[];
  /** Those of the moment that need the same limbs. */
  among: readonly HitId[];
  /** It is a further stroke of that hit's ornament. */
  isOrnament: boolean;
}

export interface Fix {
  kind: FixKind;
  words: string;
}

/** What can be done about a moment, the mildest first. */
export function fixesFor({ kind, voice, isOrnament, among }: Fixable): Fix[] {
  const family = familyOfVoice(voice);
  return [
    ...(isOrnament ? [{ kind: 'thin', words: 'thin out the roll' } as const] : []),
    ...(!isOrnament && kind === 'busy' && family === 'hat' ? [{ kind: 'pedal', words: 'play it with the pedal' } as const] : []),
    ...(kind === 'open-hat' ? [{ kind: 'close', words: 'close the hat' } as const] : []),
    ...(isOrnament ? [] : [{ kind: 'leave-out', words: 'delete the least important hit' } as const]),
    // Both hands on one drum: only where they would have been on more.
    ...(!isOrnament && (kind === 'hands' || kind === 'busy') && among.length > 2
      ? [{ kind: 'flam', words: 'turn it into a flam' } as const]
      : []),
  ];
}

/** Time keepers weigh least, then the softest. */
const weight = (h: Hit): number => h.velocity - (isTime(h.voice) ? 200 : 0) - (h.ghost ? 100 : 0);

/** What weighs least goes first; what was struck hardest stays. */
function leastImportant(hits: readonly Hit[], { kind, hit, among }: Fixable): Hit | undefined {
  const own = hits.find((h) => h.id === hit);
  // No limb is back for this one alone.
  if (kind === 'too-fast') return own;
  return hits.filter((h) => among.includes(h.id)).sort((a, b) => weight(a) - weight(b))[0] ?? own;
}

/** The weightiest of what needs both hands becomes a flam of the two; the others of these leave. */
function flammed(part: Part, hits: readonly Hit[], { among }: Fixable): Part {
  const those = hits.filter((h) => among.includes(h.id)).sort((a, b) => weight(b) - weight(a));
  const [first, ...others] = those;
  // What is locked would still need a hand.
  if (!first || those.length < among.length) return part;
  const flam = newOrnament('flam');
  return removeHits(
    { ...part, hits: part.hits.map((h) => (h === first ? { ...h, ornament: flam } : h)) },
    new Set(others.map((h) => h.id)),
  );
}

/** Mends a moment in one way. Locked hits stay as they are. */
export function fixConflict(part: Part, of: Fixable, fix: FixKind): Part {
  const moment = part.hits.filter((h) => of.moment.includes(h.id) && !h.locked);
  const own = moment.find((h) => h.id === of.hit);
  switch (fix) {
    case 'leave-out': {
      const least = leastImportant(moment, of);
      return least ? removeHits(part, new Set([least.id])) : part;
    }
    case 'pedal':
      return own ? toVoice(part, own, 'hat-pedal') : part;
    case 'close': {
      const open = moment.find((h) => ['hat-open', 'hat-half'].includes(voiceOfRow(h.voice)));
      return open ? toVoice(part, open, 'hat-closed') : part;
    }
    case 'flam':
      return flammed(part, moment, of);
    case 'thin':
      return { ...part, hits: part.hits.map((h) => (h.id === of.hit && !h.locked ? thinned(h) : h)) };
  }
}

function toVoice(part: Part, hit: Hit, voice: VoiceName): Part {
  const key = keyInPart(part, voice);
  return { ...part, rows: rowsWith(part.rows, new Set([voice])), hits: part.hits.map((h) => (h === hit ? { ...h, voice, key } : h)) };
}

/** The grid of half as many lines. */
const COARSER: Partial<Readonly<Record<GridName, GridName>>> = {
  '1/64': '1/32',
  '1/32': '1/16',
  '1/16': '1/8',
  '1/64T': '1/32T',
  '1/32T': '1/16T',
  '1/16T': '1/8T',
};

/** A roll of half as many strokes, a flam of one grace stroke; what cannot be thinner is plain. */
function thinned(hit: Hit): Hit {
  const { ornament, ...plain } = hit;
  if (ornament?.kind === 'flam' && ornament.strokes > 1) return { ...plain, ornament: { ...ornament, strokes: 1 } };
  if (ornament?.kind === 'roll') {
    const { strokes } = ornament;
    const fewer = typeof strokes === 'number' ? Math.floor(strokes / 2) : COARSER[strokes];
    if (fewer !== undefined && fewer !== 1 && fewer !== 0) return { ...plain, ornament: { ...ornament, strokes: fewer } };
  }
  return plain;
}
