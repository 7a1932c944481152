'use client';

import dynamic from 'next/dynamic';
import { useEffect, useRef, useState, type MouseEvent } from 'react';
import { meterMapOf } from '@/core/part/part-time';
import type { MenuPlace } from '@/ui/menu-place';
import type { Playback } from '../playback/use-playback';
import { useRecorded } from '../recording/context';
import { useBench, useBenchStore } from '../store/context';
import { same, sceneInputs } from '../store/inputs';
import { followPlayhead, fitView, pauseFollowing, revealBar, revealRow, wheelView } from '../actions/view-control';
import { describeHits } from '../words/describe';
import { calmPart, shownPart } from '../store/derived';
import { stemsFacts } from '../store/stems-facts';
import { drawFrame, type StemsOverlay } from './drawing/draw-frame';
import { onThemeChange, readPalette } from './drawing/palette';
import { noteScene } from './last-scene';
import { tickOf } from './geometry/axis';
import { RULER_HEIGHT } from './geometry/rows';
import { findStem, makeScene, type BenchScene } from './geometry/scene';
import { Overlay } from './overlay';
import { RulerMarks } from './RulerMarks';
import { bindPointer } from './bind-pointer';
import { makeGestureContext } from './make-gesture-context';

const BarMenu = dynamic(() => import('./BarMenu'), { ssr: false });
const StemsMenu = dynamic(() => import('./StemsMenu'), { ssr: false });

const NO_OVERLAYS: readonly StemsOverlay[] = [];

/** The stems. Two canvases: one drawn when something changed, one above it for what moves (playhead, marquee, numbers). */
export function StemCanvas({ playback, overlays = NO_OVERLAYS }: { playback: Playback; overlays?: readonly StemsOverlay[] }) {
  const store = useBenchStore();
  const box = useRef<HTMLDivElement>(null);
  const baseCanvas = useRef<HTMLCanvasElement>(null);
  const overlayCanvas = useRef<HTMLCanvasElement>(null);
  const drawnNow = useRef<BenchScene | null>(null);
  const [menu, setMenu] = useState<(MenuPlace & { bar?: number }) | null>(null);
  const onContextMenu = (e: MouseEvent) => {
    e.preventDefault();
    const box = e.currentTarget.getBoundingClientRect();
    const state = store.getState();
    if (shownPart(state) !== state.part) return;
    const drawnScene = drawnNow.current;
    if (drawnScene && e.clientY - box.top < RULER_HEIGHT) {
      const bar = meterMapOf(state.part).barAt(tickOf(drawnScene.axis, e.clientX - box.left)).index;
      return setMenu({ x: e.clientX, y: e.clientY, bar: Math.max(0, Math.min(state.part.bars - 1, bar)) });
    }
    // What is under the pointer is what is meant.
    const stem = drawnScene && findStem(drawnScene, { x: e.clientX - box.left, y: e.clientY - box.top });
    const id = stem && state.part.hits[stem.index]?.id;
    if (id && !state.selection.has(id)) state.select([id]);
    setMenu({ x: e.clientX, y: e.clientY });
  };

  useEffect(() => {
    const frame = box.current;
    const g = baseCanvas.current?.getContext('2d', { alpha: false });
    const g2 = overlayCanvas.current?.getContext('2d');
    if (!frame || !g || !g2 || !baseCanvas.current || !overlayCanvas.current) return;
    const canvases = [baseCanvas.current, overlayCanvas.current];
    let width = 0;
    let height = 0;
    let scene: BenchScene | null = null;
    let pending = 0;
    let palette = readPalette(frame);
    const overlay = new Overlay(g2, palette, playback, store);

    const draw = () => {
      pending = 0;
      const now = store.getState();
      const state = { ...now, part: shownPart(now) };
      if (state.view.pixelsPerQuarter === 0 || width === 0) return;
      scene = makeScene(state, width, height);
      drawFrame(g, palette, scene, state, width, height, overlays);
      noteScene(scene);
      drawnNow.current = scene;
      overlay.setScene(scene, width, height);
    };
    const ask = () => {
      pending ||= requestAnimationFrame(draw);
    };

    const resize = () => {
      const ratio = window.devicePixelRatio || 1;
      width = frame.clientWidth;
      stemsFacts(store).width = width;
      height = frame.clientHeight;
      for (const c of canvases) {
        c.width = Math.round(width * ratio);
        c.height = Math.round(height * ratio);
      }
      g.setTransform(ratio, 0, 0, ratio, 0, 0);
      g2.setTransform(ratio, 0, 0, ratio, 0, 0);
      fitView(store, width, height);
      ask();
    };
    const observer = new ResizeObserver(resize);
    // It answers with the first layout: asking for the size here would make one more.
    observer.observe(frame);
    void document.fonts.ready.then(ask);
    const stopTheme = onThemeChange(() => {
      palette = readPalette(frame);
      overlay.palette = palette;
      ask();
    });

    const unsubscribe = store.subscribe((state, before) => {
      if (state.focus !== before.focus && height > 0) revealRow(store, height);
      // A loop that is set elsewhere is where the work goes on; one that moves with an idea brings its own view.
      if (state.transport.fromBar !== before.transport.fromBar && state.idea === before.idea && width > 0)
        revealBar(store, state.transport.fromBar, width);
      if (!same(sceneInputs(state), sceneInputs(before))) ask();
    });
    const onWheel = (e: WheelEvent) => {
      e.preventDefault();
      pauseFollowing(store, playback.engine.isPlaying);
      wheelView(store, e, e.clientX - frame.getBoundingClientRect().left, width, height);
    };
    frame.addEventListener('wheel', onWheel, { passive: false });
    // While another version is seen there is nothing here to take hold of.
    const ownScene = () => (shownPart(store.getState()) === store.getState().part ? scene : null);
    const context = makeGestureContext({ store, playback, overlay, scene: ownScene, size: () => ({ width, height }) });
    const unbind = bindPointer(frame, { store, playback, overlay, context, scene: ownScene });
    const stopFollowing = playback.engine.subscribe(() => overlay.wake());
    overlay.onFrame = (tick) => followPlayhead(store, tick, width);

    return () => {
      cancelAnimationFrame(pending);
      observer.disconnect();
      stopTheme();
      unsubscribe();
      stopFollowing();
      overlay.dispose();
      unbind();
      frame.removeEventListener('wheel', onWheel);
    };
  }, [store, playback, overlays]);

  return (
    <div
      ref={box}
      onContextMenu={onContextMenu}
      data-testid="stems"
      data-stems
      className="relative min-w-0 flex-1 cursor-default touch-none overflow-hidden select-none"
      role="img"
      aria-label="The hits of the part"
      aria-describedby="stems-status"
    >
      <canvas ref={baseCanvas} className="absolute inset-0 size-full" />
      <canvas ref={overlayCanvas} className="pointer-events-none absolute inset-0 size-full" />
      <RulerMarks />
      <RecordingFrame />
      <SelectionStatus />
      {menu && menu.bar === undefined && <StemsMenu at={menu} onClose={() => setMenu(null)} />}
      {menu?.bar !== undefined && <BarMenu at={menu} bar={menu.bar} onClose={() => setMenu(null)} />}
    </div>
  );
}

/** While it records the hits stand in a plum frame. */
function RecordingFrame() {
  const recording = useRecorded((s) => s.phase === 'recording' || s.phase === 'counting');
  return recording ? (
    <div data-testid="recording-frame" className="pointer-events-none absolute inset-0 border-[3px] border-accent" />
  ) : null;
}

/** Tells a screen reader what is selected. */
function SelectionStatus() {
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  return (
    <p id="stems-status" className="sr-only" aria-live="polite">
      {selection.size === 0 ? 'Nothing selected' : `${describeHits(part, selection)} selected`}
    </p>
  );
}
