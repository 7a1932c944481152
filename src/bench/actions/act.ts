import { plural } from '@/core/plurals';
import { withoutLocked } from '@/core/part/locks';
import type { HitId, Part } from '@/core/model/part';
import { say } from '@/ui/notify';
import { describeHits } from '../words/describe';
import type { BenchState, BenchStore } from '../store/bench-store';

/** What an action touches: the selection without its locked hits, and how both are said. */
export interface Touch {
  ids: ReadonlySet<HitId>;
  locked: number;
  /** "12 off-beat hats", with what is left out. */
  what: string;
}

/** Some hits without the locked ones. */
export function touchOf(part: Part, ids: ReadonlySet<HitId>): Touch {
  const reach = withoutLocked(part, ids);
  const left = reach.locked > 0 ? `, ${reach.locked} locked left alone` : '';
  return { ...reach, what: `${describeHits(part, reach.ids)}${left}` };
}

/** The selected hits, or every hit where none is selected. */
export const chosenIds = ({ part, selection }: Pick<BenchState, 'part' | 'selection'>): ReadonlySet<HitId> =>
  selection.size > 0 ? selection : new Set(part.hits.map((h) => h.id));

/** True where there is something to touch; says why not otherwise. */
export function canTouch(touch: Touch): boolean {
  if (touch.ids.size > 0) return true;
  say(touch.locked > 0 ? `${plural(touch.locked, 'This hit is', 'These hits are')} locked: unlock first.` : 'Nothing is selected.');
  return false;
}

/** Runs a command on the selection as one undoable step named "verb 12 off-beat hats"; locked hits stay as they are. */
export function actOnSelection(
  store: BenchStore,
  verb: string,
  command: (part: Part, ids: ReadonlySet<HitId>) => Part,
  then?: (ids: ReadonlySet<HitId>) => Iterable<HitId>,
): void {
  const { part, selection, run } = store.getState();
  const touch = touchOf(part, selection);
  if (!canTouch(touch)) return;
  run(`${verb} ${touch.what}`, (p) => command(p, touch.ids), then && (() => then(touch.ids)));
  if (touch.locked > 0) say(`${verb} ${touch.what}.`);
}
