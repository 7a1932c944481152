import type { StrokeName } from '@/core/breaks/alike';
import { nameStrokes } from '@/core/breaks/edit';
import { heardIn, strokesOfBreak, type BreakStroke } from '@/core/breaks/strokes';
import type { Part } from '@/core/model/part';
import { counted, plural } from '@/core/plurals';
import { say } from '@/ui/notify';
import type { BenchStore } from '../store/bench-store';
import { nameText, sameName } from './names';

const strokesIn = (part: Part, id: string): BreakStroke[] => {
  const of = part.breaks?.find((b) => b.id === id);
  return of ? strokesOfBreak(of, heardIn(part, id)).filter((s) => !s.belowThreshold) : [];
};

/** Velocities of a break's slices by their names. */
const velocitiesIn = (part: Part, id: string): Map<string, number> =>
  new Map(part.breaks?.find((b) => b.id === id)?.pieces.map((p) => [p.id, p.velocity]));

/** Names several hits of a break as one step, and says which others followed and how velocities changed. */
export function nameTogether(store: BenchStore, id: string, ids: readonly string[], name: StrokeName): void {
  const before = store.getState().part;
  store.getState().run(`Name ${counted(ids.length, 'hit')} ${nameText(name)}`, (p) => nameStrokes(p, id, ids, name));
  const after = store.getState().part;
  const was = new Map(strokesIn(before, id).map((s) => [s.id, s]));
  const named = new Set(ids);
  const followed = strokesIn(after, id).filter((s) => {
    const old = was.get(s.id);
    return old && !named.has(s.id) && !sameName(old, s);
  }).length;
  const velocities = velocitiesIn(before, id);
  let most = 0;
  for (const [piece, velocity] of velocitiesIn(after, id)) most = Math.max(most, Math.abs(velocity - (velocities.get(piece) ?? velocity)));
  say(
    [
      `${counted(ids.length, 'hit')} named ${nameText(name)}`,
      ...(followed > 0 ? [`${followed} more that ${plural(followed, 'sounds', 'sound')} alike followed`] : []),
      ...(most > 0 ? [`velocities changed by up to ${Math.round(most)}`] : []),
    ].join('; ') + '.',
  );
}
