'use client';

import { ChevronsRight, LocateFixed, MoveHorizontal, Split, ZoomIn, ZoomOut } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useEffect, useRef, useState, type MouseEvent, type PointerEvent } from 'react';
import { useStore } from 'zustand';
import type { PhraseBar } from '@/core/analysis/phrase';
import { meterMapOf } from '@/core/part/part-time';
import { IconButton } from '@/ui/Button';
import type { MenuPlace } from '@/ui/menu-place';
import { Help } from '@/ui/Help';
import { axisOf, tickOf } from '../stems/geometry/axis';
import { phraseStems } from '../stems/geometry/phrase-stems';
import { cellWidth, drawPhrase, STEMS_ROOM } from '../stems/drawing/draw-phrase';
import { onThemeChange, readPalette } from '../stems/drawing/palette';
import { useBench, useBenchStore } from '../store/context';
import { performanceOf } from '../store/derived';
import { same, stripInputs } from '../store/inputs';
import { newIdea } from '../ideas/begin';
import { usePlaybackOf } from '../playback/context';
import { pauseFollowing, showBars, zoomAtWork } from '../actions/view-control';
import type { BenchStore } from '../store/bench-store';
import { NextLine } from './NextLine';
import { SectionBrackets } from './SectionBrackets';
import { stemsFacts } from '../store/stems-facts';

const IdeasStrip = dynamic(() => import('../ideas/IdeasStrip'), { ssr: false });
const BarMenu = dynamic(() => import('../stems/BarMenu'), { ssr: false });

const HEIGHT = 64;

const ABOUT =
  'Each bar of the part. Similar bars share a letter and are paler from the second one on. A question mark marks a bar with uncertain hits; the small mark below shows whether the bar is early (left) or late (right) as a whole. Drag to set the loop, click to go there, double-click to see everything.';

/** How the first idea is made; later ones beside the others. */
function FirstIdea() {
  const store = useBenchStore();
  const playback = usePlaybackOf();
  const none = useBench((s) => s.ideas.length === 0);
  const { next } = useStore(playback.conductor.state);
  if (!none || next) return null;
  return (
    <button
      type="button"
      title="Copy the loop to an idea and try things out; the part stays unchanged (Shift I)"
      className="rounded text-xs text-faint underline decoration-dotted underline-offset-4 hover:text-ink"
      onClick={() => newIdea(store, playback)}
    >
      new idea
    </button>
  );
}

/** Whether the view follows the playhead. */
function FollowSwitch() {
  const { getState } = useBenchStore();
  const on = useBench((s) => s.ui.follow === 'on');
  return (
    <IconButton
      label="Follow the playhead"
      hint="Follow the playhead (Shift F)"
      size="tiny"
      aria-pressed={on}
      className={on ? 'text-accent' : 'text-faint'}
      onClick={() => getState().setUi({ follow: on ? 'off' : 'on' })}
    >
      <LocateFixed size={16} />
    </IconButton>
  );
}

/** First and last bar in view, with fractions. */
function barsInView(store: BenchStore): [number, number] {
  const state = store.getState();
  const map = meterMapOf(state.part);
  const axis = axisOf(state.view);
  const place = (x: number): number => {
    const tick = tickOf(axis, x);
    const bar = map.barAt(tick);
    return Math.max(0, Math.min(state.part.bars, bar.index + (tick - bar.start) / bar.length));
  };
  return [place(28), place(stemsFacts(store).width)];
}

/** Bars of which nothing is known yet. */
const blankPhrase = (bars: number): PhraseBar[] => Array.from({ length: bars }, () => ({ shape: -1, hits: 0, lean: 0, doubtful: 0 }));

/** The whole part in one line: drag to choose the loop, click to go there, jump to what is different or doubtful. */
export function PhraseStrip() {
  const store = useBenchStore();
  const playback = usePlaybackOf();
  const canvas = useRef<HTMLCanvasElement>(null);
  const drag = useRef<{ from: number; x: number } | null>(null);
  const [width, setWidth] = useState(0);
  const ideas = useBench((s) => s.ideas.length > 0);

  useEffect(() => {
    const element = canvas.current;
    const g = element?.getContext('2d', { alpha: false });
    if (!element || !g) return;
    let palette = readPalette(element);
    let pending = 0;
    const draw = () => {
      pending = 0;
      const ratio = window.devicePixelRatio || 1;
      const width = element.clientWidth;
      element.width = Math.round(width * ratio);
      element.height = Math.round(HEIGHT * ratio);
      g.setTransform(ratio, 0, 0, ratio, 0, 0);
      const state = store.getState();
      const { transport, part, whole } = state;
      const bars = whole?.phrase ?? blankPhrase(part.bars);
      const stems = whole && cellWidth(bars.length, width) >= STEMS_ROOM ? phraseStems(whole.part, performanceOf(whole.part)) : [];
      drawPhrase(g, palette, {
        bars,
        stems,
        width,
        height: HEIGHT,
        loop: transport.loop ? [transport.fromBar, transport.toBar] : null,
        window: barsInView(store),
      });
    };
    const ask = () => {
      pending ||= requestAnimationFrame(draw);
    };
    const observer = new ResizeObserver(() => {
      setWidth(element.clientWidth);
      ask();
    });
    observer.observe(element);
    const stopTheme = onThemeChange(() => {
      palette = readPalette(element);
      ask();
    });
    const unsubscribe = store.subscribe((s, b) => {
      // The bars are drawn as last measured: they sum up the whole part and wait for an edit to end.
      if (s.underway === null && !same(stripInputs(s), stripInputs(b))) ask();
    });
    return () => {
      cancelAnimationFrame(pending);
      observer.disconnect();
      stopTheme();
      unsubscribe();
    };
  }, [store]);

  const [menu, setMenu] = useState<(MenuPlace & { bar: number }) | null>(null);
  const barAt = (e: MouseEvent): number => {
    const box = e.currentTarget.getBoundingClientRect();
    const { bars } = store.getState().part;
    return Math.max(0, Math.min(bars - 1, Math.floor((e.clientX - box.left) / cellWidth(bars, box.width))));
  };
  const onDown = (e: PointerEvent) => {
    if (e.button !== 0) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    drag.current = { from: barAt(e), x: e.clientX };
  };
  const onMove = (e: PointerEvent) => {
    const d = drag.current;
    if (!d || Math.abs(e.clientX - d.x) < 4) return;
    const to = barAt(e);
    store.getState().setTransport({ loop: true, fromBar: Math.min(d.from, to), toBar: Math.max(d.from, to) + 1 });
  };
  const onUp = (e: PointerEvent) => {
    const d = drag.current;
    drag.current = null;
    if (d && Math.abs(e.clientX - d.x) < 4) goTo(d.from);
  };

  /** Brings a bar to the left edge, at the present size. */
  const goTo = (bar: number) => {
    pauseFollowing(store, playback.engine.isPlaying);
    store.getState().setView({ scroll: meterMapOf(store.getState().part).barOf(bar).start });
  };

  const jump = (wanted: (bar: number) => boolean) => {
    const state = store.getState();
    const here = Math.round(barsInView(store)[0]);
    const { bars } = state.part;
    for (let k = 1; k <= bars; k++) {
      const bar = (here + k) % bars;
      if (wanted(bar)) return goTo(bar);
    }
  };
  const phrase = () => store.getState().whole?.phrase ?? [];
  const zoom = (factor: number) => zoomAtWork(store, factor, stemsFacts(store).width);

  return (
    <div className="flex items-stretch border-t border-line">
      <div className="flex w-[184px] shrink-0 flex-col justify-center pl-3">
        <div className="flex items-baseline justify-between pr-3">
          <NextLine />
          <FirstIdea />
        </div>
        <div className="-ml-1 flex">
          <IconButton label="Zoom out" size="tiny" onClick={() => zoom(1 / 1.5)}>
            <ZoomOut size={16} />
          </IconButton>
          <IconButton label="Zoom in" size="tiny" onClick={() => zoom(1.5)}>
            <ZoomIn size={16} />
          </IconButton>
          <IconButton
            label="Fit all bars"
            hint="All bars at once"
            size="tiny"
            onClick={() => showBars(store, 0, store.getState().part.bars, stemsFacts(store).width)}
          >
            <MoveHorizontal size={16} />
          </IconButton>
          <IconButton label="Next different bar" size="tiny" onClick={() => jump((b) => phrase()[b]?.shape !== phrase()[b - 1]?.shape)}>
            <ChevronsRight size={16} />
          </IconButton>
          <IconButton label="Next bar with uncertain hits" size="tiny" onClick={() => jump((b) => (phrase()[b]?.doubtful ?? 0) > 0)}>
            <Split size={16} />
          </IconButton>
          <FollowSwitch />
          <Help about="the whole part" text={ABOUT} />
        </div>
      </div>
      <div className="min-w-0 flex-1">
        {ideas && <IdeasStrip />}
        <SectionBrackets width={width} />
        <canvas
          ref={canvas}
          data-testid="phrase"
          style={{ height: HEIGHT }}
          className="w-full cursor-pointer touch-none"
          role="img"
          aria-label="The whole part, bar by bar; drag to choose the loop"
          onPointerDown={onDown}
          onPointerMove={onMove}
          onPointerUp={onUp}
          onContextMenu={(e) => {
            e.preventDefault();
            setMenu({ x: e.clientX, y: e.clientY, bar: barAt(e) });
          }}
          onDoubleClick={() => showBars(store, 0, store.getState().part.bars, stemsFacts(store).width)}
        />
      </div>
      {menu && <BarMenu at={menu} bar={menu.bar} onClose={() => setMenu(null)} />}
    </div>
  );
}
