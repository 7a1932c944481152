import { placeLines } from '@/core/perform/line-places';
import { meterMapOf } from '@/core/part/part-time';
import { isCovered } from '@/ui/covered';
import { pointAtBar } from '../actions/pointing';
import type { Playback } from '../playback/use-playback';
import type { BenchStore } from '../store/bench-store';
import { brushVelocity, linesOfStroke } from '../store/tools';
import { stemsFacts } from '../store/stems-facts';
import { idle } from './gestures/idle';
import type { Gesture, Hands, Pointer } from './gestures/types';
import { tickOf, xOf } from './geometry/axis';
import { RULER_HEIGHT } from './geometry/rows';
import { findGrip, findGround, findStem, type BenchScene } from './geometry/scene';
import { isUnderWay } from './make-hands';
import type { HoverStem, Overlay } from './overlay';

interface Binding {
  store: BenchStore;
  playback: Playback;
  overlay: Overlay;
  hands: Hands;
  scene: () => BenchScene | null;
}

/** Leads pointer and Escape events of the canvas to the gesture that is under way. @returns how to undo it */
export function bindPointer(frame: HTMLElement, { store, playback, overlay, hands, scene }: Binding): () => void {
  let gesture: Gesture = idle;

  const pointerOf = (e: MouseEvent): Pointer => {
    const box = frame.getBoundingClientRect();
    const touch = 'pointerType' in e && (e as PointerEvent).pointerType === 'touch';
    return { x: e.clientX - box.left, y: e.clientY - box.top, shift: e.shiftKey, toggle: e.ctrlKey || e.metaKey, alt: e.altKey, touch };
  };

  const onDown = (e: PointerEvent) => {
    if (e.button !== 0) return;
    (document.activeElement as HTMLElement | null)?.blur();
    const p = pointerOf(e);
    overlay.setHover(null);
    const { desk, setDesk } = store.getState();
    if (desk.touch !== (p.touch === true)) setDesk({ touch: p.touch === true });
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
    if (store.getState().desk.pointing !== null) return pointAtBar(store, bar.index + 1);
    const beat = map.beatAt(bar, tickOf(s.axis, p.x));
    setTransport({ cursor: beat.start, ...(transport.loop && (bar.index < transport.fromBar || bar.index >= transport.toBar) ? { loop: false } : {}) });
    if (playback.engine.isPlaying) playback.playFrom(beat.start);
  };

  // Every place the pointer passed between two frames counts: a fast stroke is still one stroke.
  const onMove = (e: PointerEvent) => {
    if (isUnderWay(gesture)) for (const part of e.getCoalescedEvents?.() ?? []) gesture = gesture.move(pointerOf(part), hands);
    const p = pointerOf(e);
    gesture = gesture.move(p, hands);
    if (isUnderWay(gesture)) overlay.setHover(null);
    else if (!p.touch) hoverAt(p);
  };

  const hoverAt = (p: Pointer) => {
    const s = scene();
    if (!s) return;
    const { part, view, desk } = store.getState();
    const grip = desk.tool === 'hold' ? findGrip(s, store.getState().selection, p) : undefined;
    const stem = desk.tool === 'hold' ? findStem(s, p) : undefined;
    const under = findGround(s, part, view.grid, p);
    stemsFacts(store).under = under ? { voice: under.voice, tick: under.tick } : null;
    const ground = stem || grip ? undefined : under;
    frame.style.cursor = grip ? (grip.part === 'end' ? 'move' : 'ns-resize') : desk.tool === 'hold' ? (stem ? 'grab' : ground ? 'copy' : 'default') : 'crosshair';
    overlay.setHover(ground && (desk.tool === 'hold' || desk.tool === 'brush') ? hoverStems(s, ground) : null);
  };

  /** Pale stems: where a click would place a hit, and with the brush where it would go on to the end of the bar. */
  const hoverStems = (s: BenchScene, ground: { voice: string; tick: number; x: number }): { row: number; stems: HoverStem[] } => {
    const { part, view, desk } = store.getState();
    const row = s.rows.findIndex((r) => r.voice === ground.voice);
    const at = ground.tick as Parameters<typeof linesOfStroke>[3];
    const bar = meterMapOf(part).barAt(at);
    const end = (bar.start + bar.length - 1) as typeof at;
    const lines = desk.tool === 'brush' ? linesOfStroke(part, view.grid, desk.brush.stride, at, end) : [at];
    const places = placeLines(part, ground.voice, lines);
    return { row, stems: lines.map((tick, i) => ({ x: xOf(s.axis, places[i] as number), velocity: desk.tool === 'brush' ? brushVelocity(part, desk.brush, view.grid, tick) : desk.velocity })) };
  };

  const onUp = (e: PointerEvent) => {
    gesture = gesture.up(pointerOf(e), hands);
  };
  const onCancel = () => {
    gesture = gesture.cancel(hands);
  };
  const onLeave = () => {
    overlay.setHover(null);
    if (!isCovered()) stemsFacts(store).under = null;
  };
  /** Escape takes back one thing at a time: what is being done, suggested, chosen. */
  const onKey = (e: KeyboardEvent) => {
    if (e.key !== 'Escape' || e.defaultPrevented) return;
    const { underway, putBack, desk, setDesk, selection, select } = store.getState();
    const focused = document.activeElement as HTMLElement | null;
    if (isUnderWay(gesture)) onCancel();
    else if (isCovered()) return;
    // What was reached by Tab gives the keys back to the stems first.
    else if (focused && focused !== document.body) focused.blur();
    else if (underway) putBack();
    else if (desk.pointing !== null) setDesk({ pointing: null });
    else if (desk.proposal) setDesk({ proposal: null });
    else if (desk.tool !== 'hold') setDesk({ tool: 'hold' });
    else if (selection.size > 0) select([]);
    else if (desk.step) setDesk({ step: null });
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
