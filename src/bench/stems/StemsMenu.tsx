'use client';

import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { setGhost, setLocked } from '@/core/commands/marks';
import { hitsByRule } from '@/core/selection/rules';
import { meterMapOf } from '@/core/part/part-time';
import { hitsInRange, rangeOfBars } from '@/core/homes/ticks-range';
import { MENU_ITEM, MENU_RULE, PointMenu } from '@/ui/PointMenu';
import type { MenuPlace } from '@/ui/menu-place';
import { actOnSelection } from '../actions/act';
import { deleteSelection, duplicateSelection, repeatSelection } from '../actions/arrange';
import { copySelection, cutSelection, hasClip, paste, pastePlace } from '../actions/clipboard';
import { placeText } from '../words/describe';
import { useBench, useBenchStore } from '../store/context';
import { performanceOf } from '../store/derived';
import { stemsFacts } from '../store/stems-facts';

/** A right click on the stems: what the selection can do, and what fits the line under the pointer. */
export default function StemsMenu({ at, onClose }: { at: MenuPlace; onClose: () => void }) {
  return (
    <PointMenu at={at} onClose={onClose} label="Selected hits">
      <Items />
    </PointMenu>
  );
}

function Items() {
  const store = useBenchStore();
  const { getState } = store;
  const part = useBench((s) => s.part);
  const selection = useBench((s) => s.selection);
  const [under] = useState(() => stemsFacts(store).under);
  const none = selection.size === 0;
  const place = pastePlace(store);
  const item = (text: string, keys: string, run: () => void, disabled = false) => (
    <DropdownMenu.Item className={MENU_ITEM} disabled={disabled} onSelect={run}>
      {text} <span className="text-sm text-faint">{keys}</span>
    </DropdownMenu.Item>
  );
  const selectBar = () => {
    if (!under) return;
    const bar = meterMapOf(part).barAt(under.tick).index;
    getState().select(hitsInRange(part, rangeOfBars(part, bar, bar + 1)));
  };
  return (
    <>
      {item(`Paste at ${placeText(part, place.tick)}`, 'Ctrl V', () => paste(store, place), !hasClip())}
      {item('Copy', 'Ctrl C', () => copySelection(store), none)}
      {item('Cut', 'Ctrl X', () => cutSelection(store), none)}
      {item('Duplicate right after', 'Ctrl D', () => duplicateSelection(store), none)}
      {item('Repeat into the next bar', 'R', () => repeatSelection(store), none)}
      <DropdownMenu.Separator className={MENU_RULE} />
      {item('Same place in every bar', 'S', () => getState().select(hitsByRule(part, performanceOf(part), { kind: 'same-place', ids: selection })), none)}
      {under && item('Select this row', 'A', () => getState().select(part.hits.filter((h) => h.voice === under.voice).map((h) => h.id)))}
      {under && item('Select this bar', '', selectBar)}
      <DropdownMenu.Separator className={MENU_RULE} />
      {item('Make ghosts', '', () => actOnSelection(store, 'Make ghosts:', (p, ids) => setGhost(p, ids, true)), none)}
      {item('Lock', 'K', () => getState().run('Lock hits', (p) => setLocked(p, selection, true)), none)}
      {item('Delete', 'Delete', () => deleteSelection(store), none)}
    </>
  );
}
