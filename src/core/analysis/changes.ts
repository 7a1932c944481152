import { counted } from '../plurals';
import { diffParts } from '../part/diff';
import { namesOf, PART_FIELDS, sameValue } from '../model/fields';
import { labelOfRow } from '../part/rows';
import type { Hit, HitId, Part } from '../model/part';
import { bpmOf, type TempoChange } from '../time/tempo-map';

/** How hits differ between two states of a part. */
interface HitChanges {
  added: Hit[];
  removed: Hit[];
  /** Same hit, other velocity, place, or marks. */
  louder: number;
  softer: number;
  moved: number;
  ornamented: number;
  marked: number;
}

function hitChanges(before: Part, after: Part): HitChanges {
  const diff = diffParts(before, after);
  const was = new Map<HitId, Hit>((diff?.removed ?? []).map((h) => [h.id, h]));
  const changes: HitChanges = { added: [], removed: [], louder: 0, softer: 0, moved: 0, ornamented: 0, marked: 0 };
  for (const hit of diff?.added ?? []) {
    const old = was.get(hit.id);
    if (!old) {
      changes.added.push(hit);
      continue;
    }
    was.delete(hit.id);
    if (hit.velocity > old.velocity) changes.louder++;
    else if (hit.velocity < old.velocity) changes.softer++;
    if (hit.tick !== old.tick || hit.voice !== old.voice || (hit.nudge?.ms ?? 0) !== (old.nudge?.ms ?? 0)) changes.moved++;
    else if (!same(hit.ornament, old.ornament)) changes.ornamented++;
    else if (hit.velocity === old.velocity) changes.marked++;
  }
  for (const hit of was.values()) changes.removed.push(hit);
  return changes;
}

/** "3 Snare, 2 Kick", the most frequent first. */
function byRow(part: Part, hits: readonly Hit[]): string {
  const counts = new Map<string, number>();
  for (const hit of hits) counts.set(hit.voice, (counts.get(hit.voice) ?? 0) + 1);
  const sorted = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
  return sorted.map(([voice, n]) => `${n} ${labelOfRow(part, voice).toLowerCase()}`).join(', ');
}

const tempoText = (part: Part): string => `${Math.round(bpmOf(part.tempo[0] as TempoChange) * 10) / 10}`;
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** The meters that a part has, one after another: where bars were put in or taken out, later ones only stand elsewhere. */
const metersOf = (part: Part): unknown => part.meter.map(({ tick: _tick, ...meter }) => meter);

/** Names of moves that one list has more often than the other. */
function extraMoves(of: Part, than: Part): string[] {
  const left = than.feel.moves.map((m) => m.kind);
  return of.feel.moves.flatMap(({ kind }) => {
    const at = left.indexOf(kind);
    if (at < 0) return [kind];
    left.splice(at, 1);
    return [];
  });
}

/**
 * Fields that are told by one word each; null: told of in words of their own, or of no account to a listener. The compiler asks for every
 * field.
 */
const WORDS: Readonly<Record<keyof Part, string | null>> = {
  format: null,
  name: null,
  hits: null,
  feel: null,
  tempo: null,
  playerTempo: null,
  meter: null,
  origin: null,
  bars: null,
  rows: null,
  kitMap: null,
  source: null,
  deletedTakes: null,
  kit: 'kit or mix changed',
  ownKit: 'kit or mix changed',
  mix: 'kit or mix changed',
  sections: 'sections or their order changed',
  order: 'sections or their order changed',
  everyPass: 'passes changed',
  breaks: 'recorded breaks changed',
  heard: 'recorded breaks changed',
  target: 'output map changed',
  backing: 'backing track changed',
};
/** The words, each once, with the fields that it stands for. */
const OTHERWISE = [...new Set(Object.values(WORDS))].flatMap((word) =>
  word === null ? [] : [{ word, fields: namesOf(PART_FIELDS).filter((name) => WORDS[name] === word) }],
);

/**
 * What changed from one state of a part to another, as one sentence.
 * @example describeChanges(before, after) // 'Added 3 snare; 2 louder; feel: swing added; tempo 96 to 100.'
 */
export function describeChanges(before: Part, after: Part): string {
  const { added, removed, louder, softer, moved, ornamented, marked } = hitChanges(before, after);
  const said: string[] = [];
  if (added.length > 0) said.push(`added ${byRow(after, added)}`);
  if (removed.length > 0) said.push(`removed ${byRow(before, removed)}`);
  if (louder > 0) said.push(`${louder} louder`);
  if (softer > 0) said.push(`${softer} softer`);
  if (moved > 0) said.push(`${moved} moved`);
  if (ornamented > 0) said.push(`${counted(ornamented, 'ornament')} added, changed or removed`);
  if (marked > 0) said.push(`${marked} otherwise changed`);
  if (!same(before.feel, after.feel)) {
    const [more, fewer] = [extraMoves(after, before), extraMoves(before, after)];
    const words = [
      more.length > 0 && `${more.join(', ')} added`,
      fewer.length > 0 && `${fewer.join(', ')} removed`,
      before.feel.sway !== after.feel.sway && `sway ${Math.round(before.feel.sway * 100)} to ${Math.round(after.feel.sway * 100)} %`,
    ].filter(Boolean);
    said.push(`feel: ${words.length > 0 ? words.join(', ') : 'its moves changed'}`);
  }
  if (!same(before.tempo, after.tempo))
    said.push(tempoText(before) === tempoText(after) ? 'tempo changes' : `tempo ${tempoText(before)} to ${tempoText(after)}`);
  if (!same(metersOf(before), metersOf(after))) said.push('time signature changed');
  else if (before.bars === after.bars && !same(before.meter, after.meter)) said.push('time signature changes moved');
  if (before.origin !== after.origin) said.push('the grid was moved');
  if (before.bars !== after.bars) said.push(`${before.bars} to ${after.bars} bars`);
  if (!same(before.rows, after.rows) || !same(before.kitMap, after.kitMap)) said.push('rows or drum map changed');
  for (const { word, fields } of OTHERWISE) if (fields.some((field) => !sameValue(before[field], after[field]))) said.push(word);
  if (before.name !== after.name) said.unshift(`called ${after.name} instead of ${before.name}`);
  if (said.length === 0) return 'No changes.';
  const text = said.join('; ');
  return `${text[0]?.toUpperCase()}${text.slice(1)}.`;
}
