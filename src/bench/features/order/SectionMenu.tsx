'use client';

import { DropdownMenu } from 'radix-ui';
import { newHitId, newIdInPart } from '@/editing/ids';
import { copySection, emptySection, lengthenSection, removeSection } from '@/core/commands/sections';
import type { Part } from '@/core/model/part';
import type { Section } from '@/core/model/song';
import { barsOf } from '@/core/part/sections';
import type { MenuPlace } from '@/ui/menu-place';
import { say, showError } from '@/ui/notify';
import { MENU_ITEM, MENU_RULE, PointMenu } from '@/ui/PointMenu';
import { openPage } from '../../actions/open-page';
import { keepAsPart, newIdea } from '../../ideas/ideas';
import { usePlaybackOf } from '../../playback/context';
import { useBenchStore } from '../../store/context';

/** What can be done with a section as a whole. */
export default function SectionMenu({ at, section, onClose }: { at: MenuPlace; section: Section; onClose: () => void }) {
  return (
    <PointMenu at={at} onClose={onClose} label={section.name}>
      <Items section={section} />
    </PointMenu>
  );
}

function Items({ section }: { section: Section }) {
  const store = useBenchStore();
  const { getState } = store;
  const playback = usePlaybackOf();
  const { id, name, bars } = section;
  const range = barsOf(section);
  const run = (label: string, command: (p: Part) => Part) => getState().run(label, command);
  const item = (text: string, act: () => void, disabled = false) => (
    <DropdownMenu.Item className={MENU_ITEM} disabled={disabled} onSelect={act}>
      {text}
    </DropdownMenu.Item>
  );
  const loop = () => getState().setTransport({ loop: true, order: false, fromBar: range.from, toBar: range.to });
  const keep = () => keepAsPart(getState().part, name, range).then(() => say(`${name} is a part on the Shelf.`), showError);
  return (
    <>
      {item('Loop its bars', loop)}
      {item('Copy it after the last bar', () => run(`Copy ${name}`, (p) => copySection(p, id, { id: newIdInPart(), newId: newHitId })))}
      {item('Copy it to a new idea', () => (loop(), void newIdea(store, playback)))}
      {item('Save as part', () => void keep())}
      <DropdownMenu.Separator className={MENU_RULE} />
      {item('A bar longer', () => run(`${name}: a bar longer`, (p) => lengthenSection(p, id, 1, newHitId)))}
      {item('Twice as long', () => run(`${name}: twice as long`, (p) => lengthenSection(p, id, bars, newHitId)))}
      {item('A bar shorter', () => run(`${name}: a bar shorter`, (p) => lengthenSection(p, id, -1, newHitId)), bars < 2)}
      {item('Change time signature …', () => (loop(), openPage(store, 'bars', 'lines')))}
      {item('Clear its hits', () => run(`Empty ${name}`, (p) => emptySection(p, id)))}
      <DropdownMenu.Separator className={MENU_RULE} />
      {item('Remove the section; its bars stay', () => run(`No section ${name}`, (p) => removeSection(p, id)))}
    </>
  );
}
