'use client';

import { DropdownMenu } from 'radix-ui';
import { newHitId } from '@/editing/ids';
import { deleteBars, insertBars, repeatBars } from '@/core/commands/bars';
import { addTempoChange } from '@/core/commands/tempo-changes';
import { hitsInRange, rangeOfBars } from '@/core/homes/ticks-range';
import type { Part } from '@/core/model/part';
import { meterMapOf, tempoMapOf } from '@/core/part/part-time';
import type { MenuPlace } from '@/ui/menu-place';
import { MENU_ITEM, MENU_RULE, PointMenu } from '@/ui/PointMenu';
import { newIdea } from '../ideas/begin';
import { usePlaybackOf } from '../playback/context';
import { FeatureItems } from '../shared/FeatureItems';
import { useBench, useBenchStore } from '../store/context';

/** What can be done to a bar as a whole: from the ruler and from the strip. */
export default function BarMenu({ at, bar, onClose }: { at: MenuPlace; bar: number; onClose: () => void }) {
  return (
    <PointMenu at={at} onClose={onClose} label={`Bar ${bar + 1}`}>
      <Items bar={bar} />
    </PointMenu>
  );
}

function Items({ bar }: { bar: number }) {
  const store = useBenchStore();
  const { getState } = store;
  const playback = usePlaybackOf();
  const part = useBench((s) => s.part);
  const name = `bar ${bar + 1}`;
  const start = meterMapOf(part).barOf(bar).start;
  const run = (what: string, command: (p: Part) => Part) => getState().run(what, command);
  const item = (text: string, act: () => void, disabled = false) => (
    <DropdownMenu.Item className={MENU_ITEM} disabled={disabled} onSelect={act}>
      {text}
    </DropdownMenu.Item>
  );
  return (
    <>
      {item(`Loop ${name} alone`, () => getState().setTransport({ loop: true, fromBar: bar, toBar: bar + 1 }))}
      {item('Copy the loop to a new idea', () => newIdea(store, playback))}
      {item(`Select the hits of ${name}`, () => getState().select(hitsInRange(part, rangeOfBars(part, bar, bar + 1))))}
      <FeatureItems menu="bars" bar={bar} />
      <DropdownMenu.Separator className={MENU_RULE} />
      {item(`Repeat ${name} after itself`, () => run(`Repeat ${name}`, (p) => repeatBars(p, bar, bar + 1, newHitId)))}
      {item(`Insert an empty bar before ${name}`, () => run(`Insert an empty bar before ${name}`, (p) => insertBars(p, bar, 1, newHitId)))}
      {item(`Delete ${name}`, () => run(`Delete ${name}`, (p) => deleteBars(p, bar, bar + 1, newHitId)), part.bars < 2)}
      <DropdownMenu.Separator className={MENU_RULE} />
      {item(
        `Change the tempo from ${name} on`,
        () => run(`Put a tempo change at ${name}`, (p) => addTempoChange(p, start, tempoMapOf(p).bpmAt(start))),
        bar === 0 || part.tempo.some((t) => t.tick === start),
      )}
    </>
  );
}
