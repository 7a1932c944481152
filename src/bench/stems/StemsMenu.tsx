'use client';

import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { setGhost, setLocked } from '@/core/commands/marks';
import { hitsByRule } from '@/core/selection/rules';
import { meterMapOf } from '@/core/part/part-time';
import { hitsInRange, rangeOfBars } from '@/core/homes/ticks-range';
import { MENU_ITEM, MENU_RULE, PointMenu } from '@/ui/PointMenu';
import type { MenuPlace } from '@/ui/menu-place';
import { labelOfRow } from '@/core/part/rows';
import { actOnSelection } from '../actions/act';
import { muteSelection } from '../actions/muting';
import { quantizeToGrid } from '../actions/quantize-to-grid';
import { selectionToOwnRow } from '../actions/row-actions';
import { decideSelection } from '../actions/doubtful-hits';
import { barsText, deleteSelection, duplicateSelection, repeatSelection } from '../actions/arrange';
import { copySelection, cutSelection, hasClip, loopedBars, paste, pasteOnOpenRow, pasteOver, pastePlace } from '../actions/clipboard';
import { describeHits, placeText } from '../words/describe';
import { keyText } from '../words/key-text';
import { FeatureItems } from '../shared/FeatureItems';
import { useBench, useBenchStore } from '../store/context';
import { performanceOf } from '../store/derived';
import { stemsFacts } from '../store/stems-facts';
import { ToRowItems } from './ToRowItems';

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
  const one = selection.size === 1;
  const them = one ? 'it' : 'them';
  const allMuted = !none && part.hits.every((h) => !selection.has(h.id) || h.muted);
  const place = pastePlace(store);
  const focus = useBench((s) => s.focus);
  const looped = loopedBars(getState());
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
      <DropdownMenu.Label className="max-w-72 truncate px-3 py-1 text-sm text-faint">
        {none
          ? under
            ? `Nothing is selected. ${labelOfRow(part, under.voice)}, ${placeText(part, under.tick)}`
            : 'Nothing is selected.'
          : describeHits(part, selection)}
      </DropdownMenu.Label>
      {item(
        `Make ${them} ${one ? 'a ghost' : 'ghosts'}`,
        '',
        () => actOnSelection(store, 'Make ghosts:', (p, ids) => setGhost(p, ids, true)),
        none,
      )}
      {item(`Move ${them} to ${one ? 'its' : 'their'} own row`, '', () => selectionToOwnRow(store), none)}
      <ToRowItems />
      {item(allMuted ? `Unmute ${them}` : `Mute ${them}`, keyText('shift+m'), () => muteSelection(store), none)}
      {item(none ? 'Quantize all hits now' : `Quantize ${them} now`, 'Q', () => quantizeToGrid(store))}
      {item(`Lock ${them}`, 'K', () => getState().run('Lock hits', (p) => setLocked(p, selection, true)), none)}
      {item(`${one ? 'It belongs' : 'They belong'} to the earlier line`, keyText('shift+a'), () => decideSelection(store, 'earlier'), none)}
      {item(`${one ? 'It belongs' : 'They belong'} to the later line`, keyText('shift+s'), () => decideSelection(store, 'later'), none)}
      {item(`Delete ${them}`, keyText('delete'), () => deleteSelection(store), none)}
      <DropdownMenu.Separator className={MENU_RULE} />
      {item(`Copy ${them}`, keyText('mod+c'), () => copySelection(store), none)}
      {item(`Cut ${them}`, keyText('mod+x'), () => cutSelection(store), none)}
      {item(`Paste at ${placeText(part, place.tick)}`, keyText('mod+v'), () => paste(store, place), !hasClip())}
      {hasClip() && focus && item(`Paste to the same places on ${labelOfRow(part, focus).toLowerCase()}`, '', () => pasteOnOpenRow(store))}
      {hasClip() && looped && item(`Paste over ${barsText(looped)}`, '', () => pasteOver(store, looped))}
      <FeatureItems menu="hits" />
      {item(`Duplicate ${them} right after`, keyText('mod+d'), () => duplicateSelection(store), none)}
      {item(`Repeat ${them} into the next bar`, 'R', () => repeatSelection(store), none)}
      <DropdownMenu.Separator className={MENU_RULE} />
      {item(
        'Select the same place in every bar',
        'S',
        () => getState().select(hitsByRule(part, performanceOf(part), { kind: 'same-place', ids: selection })),
        none,
      )}
      {under && item('Select this row', 'A', () => getState().select(part.hits.filter((h) => h.voice === under.voice).map((h) => h.id)))}
      {under && item('Select this bar', '', selectBar)}
    </>
  );
}
