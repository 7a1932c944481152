'use client';

import dynamic from 'next/dynamic';
import { useEffect, useMemo, useRef, useState, type MouseEvent } from 'react';
import { useStore } from 'zustand';
import { markStroke } from '@/core/breaks/edit';
import { heardIn, strokesOfBreak } from '@/core/breaks/strokes';
import type { Break } from '@/core/model/break';
import { meterMapOf } from '@/core/part/part-time';
import type { MenuPlace } from '@/ui/menu-place';
import { wheelView } from '../actions/view-control';
import type { Playback } from '../playback/use-playback';
import { useBench, useBenchStore } from '../store/context';
import { axisOf, xOf } from '../stems/geometry/axis';
import { onThemeChange, readPalette, type Palette } from '../stems/drawing/palette';
import { attackAt, onsetDetectorState } from './onset-detector';
import { drawBreak, type BreakScene } from './draw-break';
import { FLAGS, FOOT, momentAtX, PICTURE_HEIGHT, toMicrosecond, type Placed } from './geometry';
import { LineFlags } from './LineFlags';
import { StrokeMarks } from './StrokeMarks';
import { SensitivityThreshold } from './SensitivityThreshold';

const StrokeMenu = dynamic(() => import('./StrokeMenu'), { ssr: false });

/** The picture itself: outline, strokes, sensitivity threshold and flags, on the lines of the stems below. */
export function BreakPicture({ of, playback }: { of: Break; playback: Playback }) {
  const store = useBenchStore();
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const part = useBench((s) => s.part);
  const view = useBench((s) => s.view);
  const { outline, chosen, marked } = useStore(onsetDetectorState);
  const [width, setWidth] = useState(0);
  const [held, setHeld] = useState<Placed | null>(null);
  const [menu, setMenu] = useState<(MenuPlace & { stroke: string }) | null>(null);
  const placed = held ?? of;
  const strokes = useMemo(() => strokesOfBreak(of, heardIn(part, of.id)), [of, part]);
  const axis = axisOf(view);

  const scene = useRef<BreakScene | null>(null);
  const palette = useRef<Palette | null>(null);
  const [theme, setTheme] = useState(0);
  useEffect(() => onThemeChange(() => setTheme((n) => n + 1)), []);
  useEffect(() => {
    const frame = box.current;
    if (!frame) return;
    palette.current = readPalette(frame);
  }, [theme]);
  useEffect(() => {
    const element = canvas.current;
    const g = element?.getContext('2d', { alpha: false });
    if (!element || !g || width === 0 || view.pixelsPerQuarter === 0) return;
    palette.current ??= readPalette(element);
    scene.current = { part, of, placed, strokes, outline, axis: axisOf(view), chosen, marked };
    const pending = requestAnimationFrame(() => {
      const ratio = window.devicePixelRatio || 1;
      const [w, h] = [Math.round(width * ratio), Math.round(PICTURE_HEIGHT * ratio)];
      if (element.width !== w || element.height !== h) Object.assign(element, { width: w, height: h });
      g.setTransform(ratio, 0, 0, ratio, 0, 0);
      if (scene.current && palette.current) drawBreak(g, palette.current, scene.current, width);
    });
    return () => cancelAnimationFrame(pending);
  }, [part, of, placed, strokes, outline, view, chosen, marked, width, theme]);

  useEffect(() => {
    const frame = box.current;
    if (!frame) return;
    const observer = new ResizeObserver(() => setWidth(frame.clientWidth));
    observer.observe(frame);
    const onWheel = (e: WheelEvent) => {
      e.preventDefault();
      wheelView(store, e, e.clientX - frame.getBoundingClientRect().left, frame.clientWidth, frame.clientHeight);
    };
    frame.addEventListener('wheel', onWheel, { passive: false });
    return () => {
      observer.disconnect();
      frame.removeEventListener('wheel', onWheel);
    };
  }, [store]);

  /** A double-click puts a stroke there: at the nearest attack, with Shift just where it is. */
  const add = async (e: MouseEvent) => {
    const { left, top } = e.currentTarget.getBoundingClientRect();
    const y = e.clientY - top;
    if (y < FLAGS || y > FOOT || view.pixelsPerQuarter === 0) return;
    const raw = momentAtX(part, of, axis, e.clientX - left);
    if (raw < 0 || raw >= of.seconds) return;
    const at = e.shiftKey ? raw : await attackAt(raw);
    store.getState().run('Add a hit', (p) => markStroke(p, of.id, null, { at: toMicrosecond(at) }));
  };

  return (
    <div
      ref={box}
      className="relative min-w-0 flex-1 touch-none overflow-hidden select-none"
      onDoubleClick={(e) => void add(e)}
      data-testid="break-picture"
    >
      <canvas
        ref={canvas}
        className="absolute inset-0 size-full"
        role="img"
        aria-label={`The sound of ${of.name}, its hits and the sensitivity threshold`}
      />
      <Playhead playback={playback} />
      {view.pixelsPerQuarter > 0 && width > 0 && (
        <>
          <SensitivityThreshold of={of} width={width} />
          <StrokeMarks
            of={of}
            part={part}
            placed={placed}
            strokes={strokes}
            axis={axis}
            width={width}
            playback={playback}
            onMenu={(stroke, at) => setMenu({ ...at, stroke })}
          />
          <LineFlags of={of} part={part} placed={placed} strokes={strokes} axis={axis} width={width} onHold={setHeld} />
        </>
      )}
      {menu && <StrokeMenu at={menu} of={of} stroke={menu.stroke} playback={playback} onClose={() => setMenu(null)} />}
    </div>
  );
}

/** Where it sounds now, as over the stems; only while the break's first round plays. */
function Playhead({ playback }: { playback: Playback }) {
  const store = useBenchStore();
  const line = useRef<HTMLDivElement>(null);
  useEffect(() => {
    let pending = 0;
    const draw = () => {
      pending = 0;
      const element = line.current;
      const tick = playback.engine.position();
      if (!element) return;
      const { view, part } = store.getState();
      element.hidden = tick === null || tick >= meterMapOf(part).barOf(part.bars).start;
      if (tick !== null) element.style.transform = `translateX(${xOf(axisOf(view), tick)}px)`;
      if (playback.engine.isPlaying) pending = requestAnimationFrame(draw);
    };
    const wake = () => {
      pending ||= requestAnimationFrame(draw);
    };
    const stop = playback.engine.subscribe(wake);
    wake();
    return () => {
      stop();
      cancelAnimationFrame(pending);
    };
  }, [store, playback]);
  return <div ref={line} hidden className="pointer-events-none absolute top-0 left-0 w-px bg-accent" style={{ height: FOOT }} />;
}
