'use client';

import { counted } from '@/core/plurals';
import { DropdownMenu } from 'radix-ui';
import { markStroke, setBreak } from '@/core/breaks/edit';
import { heardIn, strokesOfBreak } from '@/core/breaks/strokes';
import type { Break } from '@/core/model/break';
import type { MenuPlace } from '@/ui/menu-place';
import { MENU_ITEM, MENU_RULE, PointMenu } from '@/ui/PointMenu';
import { openPage } from '../actions/open-page';
import type { Playback } from '../playback/use-playback';
import { useBench, useBenchStore } from '../store/context';
import { nameTogether } from './name-together';
import { nameText, namesToChoose, sameName } from './names';
import { onsetDetectorState } from './onset-detector';
import { hearStroke } from './StrokeMarks';

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
  const { marked } = onsetDetectorState.getState();
  const together = marked.includes(stroke) ? marked : [stroke];
  const item = (text: string, act: () => void, mark = '') => (
    <DropdownMenu.Item key={text} className={MENU_ITEM} onSelect={act}>
      {text} <span className="text-faint">{mark}</span>
    </DropdownMenu.Item>
  );
  return (
    <PointMenu at={at} onClose={onClose} label={`Hit at ${found.at.toFixed(3)} s`}>
      {!found.belowThreshold && item('Hear it', () => hearStroke(playback, of, stroke))}
      {namesToChoose(found).map((name) =>
        item(
          `${together.length > 1 ? `Name ${counted(together.length, 'hit')}` : 'Mark as'} ${nameText(name)}${name.also ? ' together' : ''}`,
          () => nameTogether(store, of.id, together, name),
          !sameName(found, name) ? '' : found.sure === 1 ? 'chosen' : `${Math.round(found.sure * 100)} % sure`,
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
