import { idle } from '../gestures/idle';
import type { Gesture, Hands, Pointer } from '../gestures/types';
import { tickOf } from '../geometry/axis';
import { pixelsPerMs } from '../geometry/stems';
import { RULER_HEIGHT } from '../geometry/rows';
import { findGround, findStem, hitsInRectangle, type BenchScene } from '../geometry/scene';
import { SHORTEST_STEM } from '../geometry/stems';
import type { Playback } from '../playback/use-playback';
import type { BenchStore } from '../store/bench-store';
import { meterMapOf } from '@/core/part/part-time';
import type { Overlay } from './overlay';

interface Binding {
  store: BenchStore;
  playback: Playback;
  overlay: Overlay;
  scene: () => BenchScene | null;
}

/** Leads pointer and Escape events of the canvas to the gesture that is under way. @returns how to undo it */
export function bindPointer(frame: HTMLElement, { store, playback, overlay, scene }: Binding): () => void {
  let gesture: Gesture = idle;

  const hands: Hands = {
    bench: store.getState,
    stemAt: (p) => (scene() ? findStem(scene() as BenchScene, p) : undefined),
    groundAt: (p) => {
      const s = scene();
      const { part, view } = store.getState();
      return s ? findGround(s, part, view.grid, p) : undefined;
    },
    hitsIn: (r) => (scene() ? hitsInRectangle(scene() as BenchScene, store.getState().part, r) : []),
    velocityPerPixel: (stem) => {
      const row = scene()?.rows.find((b) => Math.abs(b.baseline - stem.footY) < 0.5);
      return row ? 126 / (row.tallest - SHORTEST_STEM) : 1;
    },
    msPerPixel: () => {
      const s = scene();
      return s ? 1 / pixelsPerMs(s.axis, store.getState().view.reach) : 1;
    },
    audition: playback.audition,
    showMarquee: (r) => overlay.setMarquee(r),
    showReadout: (text, p) => overlay.setReadout(text, p?.x, p?.y),
  };

  const pointerOf = (e: PointerEvent): Pointer => {
    const box = frame.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top, shift: e.shiftKey, toggle: e.ctrlKey || e.metaKey };
  };

  const onDown = (e: PointerEvent) => {
    if (e.button !== 0) return;
    (document.activeElement as HTMLElement | null)?.blur();
    const p = pointerOf(e);
    overlay.setHover(null);
    if (p.y < RULER_HEIGHT) return pressRuler(p);
    frame.setPointerCapture(e.pointerId);
    gesture = gesture.down?.(p, hands) ?? gesture;
  };

  /** The ruler sets where playing starts; while playing it jumps there. */
  const pressRuler = (p: Pointer) => {
    const s = scene();
    if (!s) return;
    const { part, setTransport, transport } = store.getState();
    const map = meterMapOf(part);
    const bar = map.barAt(tickOf(s.axis, p.x));
    const beat = map.beatAt(bar, tickOf(s.axis, p.x));
    setTransport({ cursor: beat.start, ...(transport.loop && (bar.index < transport.fromBar || bar.index >= transport.toBar) ? { loop: false } : {}) });
    if (playback.engine.isPlaying) playback.playFrom(beat.start);
  };

  const onMove = (e: PointerEvent) => {
    const p = pointerOf(e);
    gesture = gesture.move(p, hands);
    if (gesture === idle) hoverAt(p);
    else overlay.setHover(null);
  };

  const hoverAt = (p: Pointer) => {
    const s = scene();
    if (!s) return;
    const stem = findStem(s, p);
    const { part, view } = store.getState();
    const ground = stem ? undefined : findGround(s, part, view.grid, p);
    frame.style.cursor = stem ? 'grab' : ground ? 'copy' : 'default';
    overlay.setHover(ground ? { x: ground.x, row: s.rows.findIndex((r) => r.voice === ground.voice) } : null);
  };

  const onUp = (e: PointerEvent) => {
    gesture = gesture.up(pointerOf(e), hands);
  };
  const onCancel = () => {
    gesture = gesture.cancel(hands);
  };
  const onLeave = () => overlay.setHover(null);
  const onKey = (e: KeyboardEvent) => {
    if (e.key !== 'Escape') return;
    if (gesture !== idle) onCancel();
    else if (!document.querySelector('[role=dialog]')) store.getState().select([]);
  };

  const listening = new AbortController();
  const { signal } = listening;
  frame.addEventListener('pointerdown', onDown, { signal });
  frame.addEventListener('pointermove', onMove, { signal });
  frame.addEventListener('pointerup', onUp, { signal });
  frame.addEventListener('pointercancel', onCancel, { signal });
  frame.addEventListener('pointerleave', onLeave, { signal });
  window.addEventListener('keydown', onKey, { signal });
  return () => listening.abort();
}
