import { placeLines } from '@/core/perform/line-places';
import { meterMapOf } from '@/core/part/part-time';
import { isCovered } from '@/ui/covered';
import { pauseFollowing, scrollBy, zoomAt } from '../actions/view-control';
import { pointAtBar } from '../actions/pointing';
import type { Playback } from '../playback/use-playback';
import type { BenchStore } from '../store/bench-store';
import { paintVelocity, linesOfStroke } from '../store/tools';
import { shownPart } from '../store/derived';
import { stemsFacts } from '../store/stems-facts';
import { idle, isAboveHead, isOnFoot } from './gestures/idle';
import { DRAG_PIXELS, type Gesture, type GestureContext, type Pointer } from './gestures/types';
import { tickOf, xOf } from './geometry/axis';
import { RULER_HEIGHT } from './geometry/rows';
import { findGrip, findGround, findStem, type BenchScene } from './geometry/scene';
import type { Stem } from './geometry/stems';
import { tipOf } from './tip';
import { isUnderWay } from './make-gesture-context';
import type { HoverStem, Overlay } from './overlay';

interface Binding {
  store: BenchStore;
  playback: Playback;
  overlay: Overlay;
  context: GestureContext;
  scene: () => BenchScene | null;
}

/** Leads pointer and Escape events of the canvas to the gesture that is under way. @returns how to undo it */
export function bindPointer(frame: HTMLElement, { store, playback, overlay, context, scene }: Binding): () => void {
  let gesture: Gesture = idle;
  /** Fingers that are down: with two of them what is in sight is moved and zoomed. */
  const fingers = new Map<number, Pointer>();
  /** A finger that stays where it is opens the menu. */
  let resting = 0;
  /** A drag that scrolls at the edge. */
  let rolling = 0;
  let lastMove: Pointer | null = null;

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
    overlay.setTip(null);
    if (p.touch) {
      fingers.set(e.pointerId, p);
      window.clearTimeout(resting);
      if (fingers.size > 1) return void (gesture = gesture.cancel(context));
      resting = window.setTimeout(() => openMenu(e), LONG_PRESS_MS);
    }
    const { ui, setUi } = store.getState();
    if (ui.touch !== (p.touch === true)) setUi({ touch: p.touch === true });
    if (p.y < RULER_HEIGHT) return pressRuler(p);
    pauseFollowing(store, playback.engine.isPlaying);
    frame.setPointerCapture(e.pointerId);
    gesture = gesture.down?.(p, context) ?? gesture;
  };

  /** The ruler sets where playing starts; while playing it jumps there. */
  const pressRuler = (p: Pointer) => {
    const s = scene();
    if (!s) return;
    const { part, setTransport, transport } = store.getState();
    const map = meterMapOf(part);
    const bar = map.barAt(tickOf(s.axis, p.x));
    if (store.getState().ui.pointing !== null) return pointAtBar(store, bar.index + 1);
    const beat = map.beatAt(bar, tickOf(s.axis, p.x));
    setTransport({
      cursor: beat.start,
      ...(transport.loop && (bar.index < transport.fromBar || bar.index >= transport.toBar) ? { loop: false } : {}),
    });
    if (playback.engine.isPlaying) playback.playFrom(beat.start);
  };

  // Every place the pointer passed between two frames counts: a fast stroke is still one stroke.
  /** A long press is a right click. */
  const openMenu = (e: PointerEvent) => {
    gesture = gesture.cancel(context);
    fingers.delete(e.pointerId);
    frame.dispatchEvent(new MouseEvent('contextmenu', { clientX: e.clientX, clientY: e.clientY, bubbles: true, cancelable: true }));
  };

  /** Two fingers move what is in sight along, and zoom by their distance. */
  const onFingers = (e: PointerEvent, p: Pointer) => {
    const other = [...fingers].find(([id]) => id !== e.pointerId)?.[1];
    const before = fingers.get(e.pointerId);
    if (!other || !before) return;
    fingers.set(e.pointerId, p);
    const distance = (q: Pointer) => Math.max(20, Math.hypot(q.x - other.x, q.y - other.y));
    context.scroll((p.x - before.x) / 2, (p.y - before.y) / 2);
    zoomAt(store, distance(p) / distance(before), (p.x + other.x) / 2, frame.clientWidth);
  };

  /** At the edge the page moves on under a drag, as long as the pointer stays there. */
  const roll = () => {
    rolling = 0;
    if (!lastMove || !gesture.scrolls) return;
    const by = lastMove.x < EDGE ? -EDGE_SPEED : lastMove.x > frame.clientWidth - EDGE ? EDGE_SPEED : 0;
    if (by === 0) return;
    scrollBy(store, by, frame.clientWidth);
    gesture = gesture.move(lastMove, context);
    rolling = requestAnimationFrame(roll);
  };

  const onMove = (e: PointerEvent) => {
    const finger = fingers.get(e.pointerId);
    if (finger) {
      const now = pointerOf(e);
      if (Math.hypot(now.x - finger.x, now.y - finger.y) > 2 * DRAG_PIXELS) window.clearTimeout(resting);
      if (fingers.size > 1) return onFingers(e, now);
    }
    if (isUnderWay(gesture)) for (const part of e.getCoalescedEvents?.() ?? []) gesture = gesture.move(pointerOf(part), context);
    const p = pointerOf(e);
    gesture = gesture.move(p, context);
    lastMove = p;
    if (gesture.scrolls) rolling ||= requestAnimationFrame(roll);
    if (isUnderWay(gesture)) {
      overlay.setHover(null);
      overlay.setTip(null);
    } else if (!p.touch) hoverAt(p);
  };

  const hoverAt = (p: Pointer) => {
    const s = scene();
    if (!s) return;
    const { part, view, ui } = store.getState();
    const grip = ui.tool === 'select' ? findGrip(s, store.getState().selection, p) : undefined;
    const stem = ui.tool === 'select' ? findStem(s, p) : undefined;
    const under = findGround(s, part, view.grid, p, ui.tool === 'hits' ? 'anywhere' : 'near');
    stemsFacts(store).under = under ? { voice: under.voice, tick: under.tick } : null;
    const ground = stem || grip ? undefined : under;
    frame.style.cursor = grip
      ? grip.part === 'end'
        ? 'move'
        : 'ns-resize'
      : ui.tool === 'select'
        ? cursorOver(stem, ground, p)
        : 'crosshair';
    overlay.setTip(stem && ui.tool === 'select' && shownPart(store.getState()) === part ? { ...tipOf(store, s, stem), stem } : null);
    overlay.setHover(ground && (ui.tool === 'select' || ui.tool === 'hits') ? hoverStems(s, ground) : null);
  };

  /** Pale stems: where a click would place a hit, and when painting where it would go on to the end of the bar. */
  const hoverStems = (s: BenchScene, ground: { voice: string; tick: number; x: number }): { row: number; stems: HoverStem[] } => {
    const { part, view, ui } = store.getState();
    const row = s.rows.findIndex((r) => r.voice === ground.voice);
    const at = ground.tick as Parameters<typeof linesOfStroke>[3];
    const bar = meterMapOf(part).barAt(at);
    const end = (bar.start + bar.length - 1) as typeof at;
    const lines = ui.tool === 'hits' ? linesOfStroke(part, view.grid, ui.paint.stride, at, end) : [at];
    const places = placeLines(s.lined, ground.voice, lines);
    return {
      row,
      stems: lines.map((tick, i) => ({
        x: xOf(s.axis, places[i] as number),
        velocity: ui.tool === 'hits' ? paintVelocity(part, ui.paint, view.grid, tick) : ui.velocity,
      })),
    };
  };

  const onUp = (e: PointerEvent) => {
    window.clearTimeout(resting);
    fingers.delete(e.pointerId);
    lastMove = null;
    gesture = gesture.up(pointerOf(e), context);
  };
  const onCancel = () => {
    window.clearTimeout(resting);
    fingers.clear();
    lastMove = null;
    gesture = gesture.cancel(context);
  };
  const onLeave = () => {
    overlay.setHover(null);
    overlay.setTip(null);
    if (!isCovered()) stemsFacts(store).under = null;
  };
  /** Escape takes back one thing at a time: what is being done, suggested, chosen. */
  const onKey = (e: KeyboardEvent) => {
    if (e.key !== 'Escape' || e.defaultPrevented) return;
    const { underway, putBack, ui, setUi, selection, select } = store.getState();
    const focused = document.activeElement as HTMLElement | null;
    if (isUnderWay(gesture)) onCancel();
    else if (isCovered()) return;
    // What was reached by Tab gives the keys back to the stems first.
    else if (focused && focused !== document.body) focused.blur();
    else if (underway) putBack();
    else if (ui.pointing !== null) setUi({ pointing: null });
    else if (ui.proposal) setUi({ proposal: null });
    else if (ui.tool !== 'select') setUi({ tool: 'select' });
    else if (selection.size > 0) select([]);
    else if (ui.step) setUi({ step: null });
  };

  const listening = new AbortController();
  const { signal } = listening;
  frame.addEventListener('pointerdown', onDown, { signal });
  frame.addEventListener('pointermove', onMove, { signal });
  frame.addEventListener('pointerup', onUp, { signal });
  frame.addEventListener('pointercancel', onCancel, { signal });
  frame.addEventListener('pointerleave', onLeave, { signal });
  window.addEventListener('keydown', onKey, { signal });
  return () => {
    listening.abort();
    window.clearTimeout(resting);
    cancelAnimationFrame(rolling);
  };
}

const LONG_PRESS_MS = 500;
/** So near to the edge a drag scrolls, by so many pixels a frame. */
const EDGE = 24;
const EDGE_SPEED = 9;

/** What a drag would do: move the hit to another line, lean or loudness, a rectangle; a click on empty ground places. */
function cursorOver(stem: Stem | undefined, ground: unknown, p: Pointer): string {
  if (!stem) return ground ? 'copy' : 'default';
  if (isOnFoot(p.y, stem.footY)) return 'ew-resize';
  return isAboveHead(p.y, stem.headY) ? 'crosshair' : 'grab';
}
