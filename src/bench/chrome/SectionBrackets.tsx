'use client';

import { useState } from 'react';
import { useStore } from 'zustand';
import { changeSection } from '@/core/commands/sections';
import { barsOf } from '@/core/part/sections';
import { sectionPlayed } from '../playback/conductor';
import { usePlaybackOf } from '../playback/context';
import { useBench, useBenchStore } from '../store/context';
import { cellWidth } from '../stems/drawing/draw-phrase';

/** Named brackets over the strip's bars: a click calls a section while it plays, or goes there; a double-click names it. */
export function SectionBrackets({ width }: { width: number }) {
  const { getState } = useBenchStore();
  const part = useBench((s) => s.part);
  const { conductor } = usePlaybackOf();
  const { sounding, next } = useStore(conductor.state);
  const [naming, setNaming] = useState<string | null>(null);
  if (!part.sections) return null;
  const cell = cellWidth(part.bars, width);
  const heard = sectionPlayed(part, sounding)?.id;
  const called = sectionPlayed(part, next)?.id;
  const take = (id: string, name: string) => {
    setNaming(null);
    if (name.trim()) getState().run(`Name a section ${name.trim()}`, (p) => changeSection(p, id, { name }));
  };
  return (
    <div className="relative h-[18px] overflow-hidden" role="group" aria-label="Sections">
      {part.sections.map((s) => {
        const { from, to } = barsOf(s);
        const look =
          heard === s.id ? 'border-accent text-accent font-semibold' : called === s.id ? 'border-dashed border-accent' : 'border-strong';
        return (
          <div
            key={s.id}
            className={`absolute top-0 bottom-0 border-t-[1.5px] border-x-[1.5px] ${look}`}
            style={{ left: from * cell + 1, width: Math.max(3, (to - from) * cell - 3) }}
          >
            {naming === s.id ? (
              <input
                autoFocus
                aria-label="Name of the section"
                defaultValue={s.name}
                maxLength={60}
                className="w-full bg-surface px-1 text-xs leading-4"
                onFocus={(e) => e.target.select()}
                onBlur={(e) => take(s.id, e.target.value)}
                onKeyDown={(e) => (e.key === 'Enter' ? e.currentTarget.blur() : e.key === 'Escape' && setNaming(null))}
              />
            ) : (
              <button
                type="button"
                title="Click to play it next, double-click to rename it"
                aria-label={`Play next: ${s.name}${heard === s.id ? ', sounds' : called === s.id ? ', comes next' : ''}`}
                className="block w-full truncate px-1 text-left text-xs leading-4"
                onClick={() => conductor.call(s.id)}
                onDoubleClick={() => setNaming(s.id)}
              >
                {s.name}
              </button>
            )}
          </div>
        );
      })}
    </div>
  );
}
