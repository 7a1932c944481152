'use client';

import { ideaName, ideaNumber } from '../words/idea-words';
import { DropdownMenu } from 'radix-ui';
import type { MenuPlace } from '@/ui/menu-place';
import { MENU, MENU_ITEM, MENU_RULE, PointMenu } from '@/ui/PointMenu';
import { say, showError } from '@/ui/notify';
import { cameFrom } from '@/core/commands/excerpt';
import { barsText } from '../actions/arrange';
import { compareIdea, dropIdea, ideaToSection, keepAsPart, keepIdeaAsPattern, takeIdea } from './ideas';
import { usePlaybackOf } from '../playback/context';
import type { Idea } from '../store/ui-state';
import { useBench, useBenchStore } from '../store/context';

/** What can be done with an idea; null is the part itself. */
export default function IdeaMenu({ at, idea, onClose }: { at: MenuPlace; idea: Idea | null; onClose: () => void }) {
  return (
    <PointMenu at={at} onClose={onClose} label={idea ? `Idea ${ideaNumber(idea.letter)}` : 'The part'}>
      <Items idea={idea} />
    </PointMenu>
  );
}

function Items({ idea }: { idea: Idea | null }) {
  const store = useBenchStore();
  const playback = usePlaybackOf();
  const main = useBench((s) => s.main);
  const open = useBench((s) => s.idea);
  const other = useBench((s) => s.ui.other?.id);
  const isOpen = (idea?.id ?? null) === open;
  const item = (text: string, act: () => void, disabled = false) => (
    <DropdownMenu.Item className={MENU_ITEM} disabled={disabled} onSelect={act}>
      {text}
    </DropdownMenu.Item>
  );
  const keep = (of: Idea) => {
    const name = `${main.name}, ${ideaName(of)}`;
    keepAsPart(of.part, name, { from: 0, to: of.part.bars }).then(() => say(`${name} is on the Shelf.`), showError);
  };
  return (
    <>
      {idea && item(`Use it in ${barsText(cameFrom(main, idea.part, idea.bars))}`, () => takeIdea(store, playback, idea))}
      {idea && item('Make a section of it, after the last bar', () => ideaToSection(store, playback, idea))}
      {idea && item('Keep it as a pattern …', () => keepIdeaAsPattern(store, playback, idea))}
      {idea && item('Save as part', () => keep(idea))}
      {item(
        other === (idea?.id ?? 'the part') ? 'Stop comparing with it' : 'Compare with it (hold Shift Q)',
        () => compareIdea(store, idea),
        isOpen,
      )}
      <LeftBehind isOpen={isOpen} />
      {idea && (
        <>
          <DropdownMenu.Separator className={MENU_RULE} />
          {item('Delete idea', () => void dropIdea(store, playback, idea))}
        </>
      )}
    </>
  );
}

/** What was undone and left behind, the newest first: brought back as one step. */
function LeftBehind({ isOpen }: { isOpen: boolean }) {
  const { getState } = useBenchStore();
  const left = useBench((s) => s.left);
  if (!isOpen || left.length === 0) return null;
  return (
    <DropdownMenu.Sub>
      <DropdownMenu.SubTrigger className={`${MENU_ITEM} data-[state=open]:bg-sunk`}>Restore what was undone</DropdownMenu.SubTrigger>
      <DropdownMenu.Portal container={document.querySelector('main')}>
        <DropdownMenu.SubContent className={`${MENU} max-h-80 overflow-y-auto`}>
          {[...left].reverse().map(({ label, steps, value }, i) => (
            <DropdownMenu.Item
              key={left.length - i}
              className={MENU_ITEM}
              onSelect={() => getState().run(`Restore: ${label}`, () => value())}
            >
              {label}
              {steps > 1 && <span className="text-faint">and {steps - 1} before</span>}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.SubContent>
      </DropdownMenu.Portal>
    </DropdownMenu.Sub>
  );
}
