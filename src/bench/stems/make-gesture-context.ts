import type { HitId } from '@/core/model/part';
import { pointAtStep } from '../actions/pointing';
import { clamp } from '@/core/units';
import type { Playback } from '../playback/use-playback';
import type { BenchStore } from '../store/bench-store';
import { scrollBy, scrollRowsBy } from '../actions/view-control';
import type { Gesture, GestureContext } from './gestures/types';
import { columnsOf, findGrip, findGround, findLine, findStem, hitsInRectangle, pointAt, type BenchScene } from './geometry/scene';
import { axisOf, tickOf, xOf } from './geometry/axis';
import { layoutRows, mostRowScroll, rowAt, rowsInView, type RowBox } from './geometry/rows';
import { heightOf, pixelsPerMs, SHORTEST_STEM } from './geometry/stems';

/** What of the overlay above the stems gestures write on. */
export interface OverlayPort {
  setMarquee(r: { left: number; top: number; right: number; bottom: number } | null): void;
  setTrace(points: readonly { x: number; y: number }[] | null): void;
  setReadout(text: string | null, x?: number, y?: number): void;
}

interface Ties {
  store: BenchStore;
  playback: Pick<Playback, 'audition' | 'auditionHit'>;
  overlay: OverlayPort;
  scene: () => BenchScene | null;
  size: () => { width: number; height: number };
}

const NO_HITS: HitId[] = [];

/** Velocity that a pixel of height stands for in a row. */
const perPixelIn = ({ tallest }: Pick<RowBox, 'tallest'>): number => 126 / (tallest - SHORTEST_STEM);

/** Ties gestures to the Bench: what they see is the scene drawn last, what they do goes to the store, the overlay and the sound. */
export function makeGestureContext({ store, playback, overlay, scene, size }: Ties): GestureContext {
  const within = <T>(find: (s: BenchScene) => T, otherwise: T): T => {
    const s = scene();
    return s ? find(s) : otherwise;
  };
  return {
    bench: store.getState,
    stemAt: (p) => within((s) => findStem(s, p), undefined),
    gripAt: (p) => within((s) => findGrip(s, store.getState().selection, p), undefined),
    groundAt: (p) =>
      within(
        (s) =>
          findGround(s, store.getState().part, store.getState().view.grid, p, store.getState().ui.tool === 'hits' ? 'anywhere' : 'near'),
        undefined,
      ),
    hitsIn: (r) => within((s) => hitsInRectangle(s, store.getState().part, r), NO_HITS),
    voiceAt: (p) => within((s) => rowAt(s.rows, p.y)?.voice, undefined),
    lineAt: (voice, x) =>
      within((s) => findLine(s, store.getState().part, store.getState().view.grid, voice, x).tick, store.getState().part.origin),
    columnsOf: (voice) => within((s) => columnsOf(s, store.getState().part, voice), []),
    pointOf: (voice, p) => within((s) => pointAt(s, voice, p), { place: 0, value: 1 }),
    velocityPerPixel: (stem) =>
      within((s) => {
        const row = s.rows.find((b) => Math.abs(b.baseline - stem.footY) < 0.5);
        return row ? perPixelIn(row) : 1;
      }, 1),
    openTall(voice, velocity, y) {
      const { part, view, focus, setFocus, setView } = store.getState();
      const { scrollRows } = view;
      setFocus(voice);
      const rows = rowsInView(part, view.hideEmpty);
      const box = layoutRows(rows, size().height, voice, 0).find((b) => b.voice === voice);
      if (box) setView({ scrollRows: clamp(box.baseline - heightOf(box, velocity) - y, 0, mostRowScroll(rows, size().height, voice)) });
      const close = () => {
        setFocus(focus);
        setView({ scrollRows });
      };
      return { velocityPerPixel: box ? perPixelIn(box) : 1, close };
    },
    tickAt: (x) => tickOf(axisOf(store.getState().view), x),
    xAt: (tick) => xOf(axisOf(store.getState().view), tick),
    pixelsPerTick: () => within((s) => s.axis.pixelsPerTick, 1),
    msPerPixel: () => within((s) => 1 / pixelsPerMs(s.axis, store.getState().view.reach), 1),
    pointAt: (p) => {
      const ground = within((s) => findGround(s, store.getState().part, store.getState().view.grid, p), undefined);
      if (ground) pointAtStep(store, ground.tick);
    },
    scroll: (dx, dy) => {
      scrollBy(store, -dx, size().width);
      scrollRowsBy(store, -dy, size().height);
    },
    audition: playback.audition,
    auditionHit: playback.auditionHit,
    showMarquee: (r) => overlay.setMarquee(r),
    showTrace: (points) => overlay.setTrace(points),
    showReadout: (text, p) => overlay.setReadout(text, p?.x, p?.y),
  };
}

/** True while a press has not led back to rest. */
export const isUnderWay = (gesture: Gesture): boolean => gesture.name !== 'idle';
