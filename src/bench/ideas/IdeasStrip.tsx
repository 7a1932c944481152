'use client';

import { ideaName, ideaNumber } from '../words/idea-words';
import { ChevronDown, Plus } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useEffect, useRef, useState } from 'react';
import { useStore } from 'zustand';
import type { Part } from '@/core/model/part';
import { IconButton } from '@/ui/Button';
import { belowButton, type MenuPlace } from '@/ui/menu-place';
import { newIdea } from './ideas';
import { usePlaybackOf } from '../playback/context';
import { drawTinyBars } from '../stems/drawing/draw-phrase';
import { onThemeChange, readPalette } from '../stems/drawing/palette';
import { phraseStems } from '../stems/geometry/phrase-stems';
import { useBench, useBenchStore } from '../store/context';
import { calmPart, performanceOf } from '../store/derived';

const IdeaMenu = dynamic(() => import('./IdeaMenu'), { ssr: false });

const HEIGHT = 30;
const WIDTH = 66;
/** Of a longer part its first bars are drawn. */
const MOST_BARS = 2;

/** The ideas beside the part, as tiny pictures; nothing where there are none. */
export default function IdeasStrip() {
  const store = useBenchStore();
  const playback = usePlaybackOf();
  const ideas = useBench((s) => s.ideas);
  const main = useBench((s) => s.main);
  const open = useBench((s) => s.idea);
  const shown = useBench(calmPart);
  const [menu, setMenu] = useState<(MenuPlace & { idea: string | null }) | null>(null);
  const next = useStore(playback.conductor.state, (s) => s.next?.idea);
  const places = [{ id: null, letter: 'part', part: main }, ...ideas];
  return (
    <div role="group" aria-label="Ideas" className="flex items-center gap-1 overflow-x-auto px-1 pt-1">
      {places.map(({ id, letter, part }) => {
        const name = id === null ? 'the part' : ideaName({ letter });
        const isOpen = id === open;
        const look = isOpen ? 'border-accent' : next === id ? 'border-dashed border-accent' : 'border-line hover:border-strong';
        return (
          <div key={id ?? 'part'} className={`flex shrink-0 items-stretch overflow-hidden rounded border ${look}`}>
            <button
              type="button"
              aria-pressed={isOpen}
              aria-label={`Open ${name}`}
              title={`A click opens ${name} at once, with Shift at the bar line`}
              className="flex items-center gap-1 pl-1.5 text-left"
              onClick={(e) => playback.conductor.openIdea(id, e.shiftKey ? 'bar' : 'now')}
            >
              <span className={`text-xs ${isOpen ? 'font-semibold text-accent' : 'text-faint'}`}>
                {id === null ? letter : ideaNumber(letter)}
              </span>
              <TinyBars part={isOpen ? shown : part} />
            </button>
            <button
              type="button"
              aria-label={`What to do with ${name}`}
              aria-haspopup="menu"
              className="flex w-5 items-center justify-center text-faint hover:bg-sunk hover:text-ink"
              onClick={(e) => setMenu({ ...belowButton(e.currentTarget), idea: id })}
            >
              <ChevronDown size={12} />
            </button>
          </div>
        );
      })}
      <IconButton
        label="New idea"
        hint="Copies the loop to a new idea (Shift I)"
        size="small"
        onClick={() => void newIdea(store, playback)}
      >
        <Plus size={15} />
      </IconButton>
      {menu && <IdeaMenu at={menu} idea={ideas.find((i) => i.id === menu.idea) ?? null} onClose={() => setMenu(null)} />}
    </div>
  );
}

function TinyBars({ part }: { part: Part }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const element = canvas.current;
    const g = element?.getContext('2d', { alpha: false });
    if (!element || !g) return;
    const draw = () => {
      const ratio = window.devicePixelRatio || 1;
      element.width = Math.round(WIDTH * ratio);
      element.height = Math.round(HEIGHT * ratio);
      g.setTransform(ratio, 0, 0, ratio, 0, 0);
      const bars = Math.min(MOST_BARS, part.bars);
      const stems = phraseStems(part, performanceOf(part)).filter((s) => s.bar >= 0 && s.bar < bars);
      drawTinyBars(g, readPalette(element), { stems, bars, width: WIDTH, height: HEIGHT });
    };
    draw();
    return onThemeChange(draw);
  }, [part]);
  return <canvas ref={canvas} aria-hidden="true" style={{ width: WIDTH, height: HEIGHT }} />;
}
