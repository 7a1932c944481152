'use client';

import { plural } from '@/core/plurals';
import { DropdownMenu } from 'radix-ui';
import { markStroke, setBreak } from '@/core/breaks/edit';
import { heardIn, strokesOfBreak } from '@/core/breaks/strokes';
import { STROKE_KINDS, type Break, type StrokeKind } from '@/core/model/break';
import type { MenuPlace } from '@/ui/menu-place';
import { MENU_ITEM, MENU_RULE, PointMenu } from '@/ui/PointMenu';
import { openPage } from '../actions/open-page';
import type { Playback } from '../playback/use-playback';
import { useBench, useBenchStore } from '../store/context';
import { hearStroke } from './StrokeMarks';

/** What is often struck together. */
const TOGETHER: readonly (readonly [as: StrokeKind, also: StrokeKind])[] = [
  ['kick', 'hat'],
  ['snare', 'hat'],
  ['snare', 'kick'],
];

const named = (kind: StrokeKind): string => (kind === 'other' ? 'another drum' : kind);

/** What is often struck together, and what was as detected. */
const togetherWith = (kind: StrokeKind, also: StrokeKind | undefined) =>
  also === undefined || TOGETHER.some(([a, b]) => a === kind && b === also) ? TOGETHER : [...TOGETHER, [kind, also] as const];

/** What can be done to one stroke of a break. */
export default function StrokeMenu({
  at,
  of,
  stroke,
  playback,
  onClose,
}: {
  at: MenuPlace;
  of: Break;
  stroke: string;
  playback: Playback;
  onClose: () => void;
}) {
  const store = useBenchStore();
  const part = useBench((s) => s.part);
  const found = strokesOfBreak(of, heardIn(part, of.id)).find((s) => s.id === stroke);
  if (!found) return null;
  const run = store.getState().run;
  const item = (text: string, act: () => void, mark = '') => (
    <DropdownMenu.Item key={text} className={MENU_ITEM} onSelect={act}>
      {text} <span className="text-faint">{mark}</span>
    </DropdownMenu.Item>
  );
  return (
    <PointMenu at={at} onClose={onClose} label={`Hit at ${found.at.toFixed(3)} s`}>
      {!found.belowThreshold && item('Hear it', () => hearStroke(playback, of, stroke))}
      {STROKE_KINDS.map((kind) =>
        item(
          `Mark as ${kind === 'other' ? 'other drum' : kind}`,
          () => run(`Mark a hit as ${kind}`, (p) => markStroke(p, of.id, stroke, { as: kind })),
          found.kind === kind && !found.also ? (found.sure === 1 ? 'chosen' : `${Math.round(found.sure * 100)} % sure`) : '',
        ),
      )}
      {togetherWith(found.kind, found.also).map(([as, also]) =>
        item(
          `Mark as ${named(as)} and ${named(also)} together`,
          () => run(`Mark a hit as ${named(as)} and ${named(also)}`, (p) => markStroke(p, of.id, stroke, { as, also })),
          found.kind === as && found.also === also ? plural(found.sure, 'chosen', 'as detected') : '',
        ),
      )}
      <DropdownMenu.Separator className={MENU_RULE} />
      {found.belowThreshold &&
        item('Count this hit anyway', () => run('Count a hit', (p) => markStroke(p, of.id, stroke, { at: found.at })))}
      {of.cut !== 'strokes' && item('Cut at the hits', () => run('Cut at the hits', (p) => setBreak(p, of.id, { cut: 'strokes' })))}
      {item('Level, pitch, backwards …', () => openPage(store, 'breaks', 'piece'))}
      {item('Remove it', () => run('Remove a hit', (p) => markStroke(p, of.id, stroke, { gone: true })), 'Delete')}
    </PointMenu>
  );
}
