'use client';

import { MoreVertical } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { useStore } from 'zustand';
import { changeSection } from '@/core/commands/sections';
import { LEAVINGS, type Leaving, type Section } from '@/core/model/song';
import { Button, IconButton } from '@/ui/Button';
import { belowButton, type MenuPlace } from '@/ui/menu-place';
import { Picker } from '@/ui/Picker';
import { sectionPlayed } from '../../playback/conductor';
import { usePlaybackOf } from '../../playback/context';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { barsWords } from './order-words';
import { SectionPicture } from './SectionPicture';

const SectionMenu = dynamic(() => import('./SectionMenu'), { ssr: false });

const LEAVING_WORDS: Readonly<Record<Leaving, string>> = {
  anywhere: 'right away, at the same place in the bar',
  bar: 'at the next bar',
  end: 'at the end of the section',
};

/** The sections, in the part's order: named, called, copied. */
export function SectionList() {
  const part = useBench(calmPart);
  const { conductor } = usePlaybackOf();
  const sounding = useStore(conductor.state, (s) => sectionPlayed(part, s.sounding)?.id);
  const next = useStore(conductor.state, (s) => sectionPlayed(part, s.next)?.id);
  if (!part.sections) return null;
  return (
    <ul aria-label="Sections" className="divide-y divide-line border-y border-line">
      {part.sections.map((section, i) => (
        <SectionLine
          key={section.id}
          section={section}
          number={i + 1}
          state={sounding === section.id ? 'sounds' : next === section.id ? 'next' : null}
        />
      ))}
    </ul>
  );
}

function SectionLine({ section, number, state }: { section: Section; number: number; state: 'sounds' | 'next' | null }) {
  const { getState } = useBenchStore();
  const part = useBench(calmPart);
  const { conductor } = usePlaybackOf();
  const [name, setName] = useState<string | null>(null);
  const [menu, setMenu] = useState<MenuPlace | null>(null);
  const { id } = section;
  const take = () => {
    if (name !== null && name.trim() && name.trim() !== section.name)
      getState().run(`Name a section ${name.trim()}`, (p) => changeSection(p, id, { name }));
    setName(null);
  };
  const color = state === 'sounds' ? 'text-accent' : '';
  return (
    <li className="py-2">
      <div className="flex items-center gap-2">
        <div className="min-w-0 flex-1">
          <input
            aria-label={`Name of section ${number}`}
            value={name ?? section.name}
            maxLength={60}
            onChange={(e) => setName(e.target.value)}
            onBlur={take}
            onKeyDown={(e) => {
              if (e.key === 'Enter') e.currentTarget.blur();
              if (e.key === 'Escape') setName(null);
            }}
            className={`w-full truncate rounded bg-transparent px-1 font-semibold hover:bg-sunk focus:bg-surface ${color}`}
          />
          <span className="block px-1 text-sm text-faint">
            {barsWords(section)}
            {state === 'next' ? ', comes\u00a0next' : state === 'sounds' ? ', sounds' : ''}
          </span>
        </div>
        <SectionPicture part={part} section={section} />
        <Button
          size="small"
          aria-label={`Play next: ${section.name}`}
          title={number < 10 ? `Shift ${number}` : undefined}
          onClick={() => conductor.call(id)}
        >
          Play next
        </Button>
        <IconButton
          size="small"
          label={`What to do with ${section.name}`}
          aria-haspopup="menu"
          onClick={(e) => setMenu(belowButton(e.currentTarget))}
        >
          <MoreVertical size={15} />
        </IconButton>
        {menu && <SectionMenu at={menu} section={section} onClose={() => setMenu(null)} />}
      </div>
      <p className="px-1 text-sm text-faint">
        switches{' '}
        <Picker
          label={`When to leave ${section.name}`}
          value={section.leave ?? 'bar'}
          choices={LEAVINGS.map((l) => ({ value: l, text: LEAVING_WORDS[l] }))}
          onChange={(leave) =>
            getState().run(`${section.name} switches ${LEAVING_WORDS[leave as Leaving]}`, (p) =>
              changeSection(p, id, { leave: leave as Leaving }),
            )
          }
        />
      </p>
    </li>
  );
}
