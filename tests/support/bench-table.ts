import { makeGestureContext } from '@/bench/stems/make-gesture-context';
import { makeScene, type BenchScene } from '@/bench/stems/geometry/scene';
import { xOf } from '@/bench/stems/geometry/axis';
import type { GestureContext, Pointer, Rectangle } from '@/bench/stems/gestures/types';
import { createBenchStore, type BenchStore } from '@/bench/store/bench-store';
import type { Hit, Part } from '@/core/model/part';

/** A Bench without a browser: the real store and geometry, context that remember. */

export const WIDTH = 900;
export const HEIGHT = 400;

export interface Table {
  store: BenchStore;
  context: GestureContext;
  saved: string[];
  auditions: string[];
  readouts: (string | null)[];
  marquees: Rectangle[];
  scene(): BenchScene;
  stem(id: string): { x: number; y: number };
  /** A place on a row: so many quarters in, so many pixels above its feet. */
  place(voice: string, quarter: number, above?: number): { x: number; y: number };
}

export function setTable(of: Part): Table {
  const saved: string[] = [];
  const auditions: string[] = [];
  const readouts: (string | null)[] = [];
  const marquees: Rectangle[] = [];
  const store = createBenchStore('x', { part: of, head: 0 }, false, {
    appendEdits: async (_id: string, _seq: number, edits: { label: string }[]) => void saved.push(...edits.map((e) => e.label)),
    settleHead: async () => {},
  } as never);
  store.getState().setView({ pixelsPerQuarter: 200 });
  const scene = () => makeScene(store.getState(), WIDTH, HEIGHT);
  const overlay = {
    setMarquee: (r: Rectangle | null) => void (r && marquees.push(r)),
    setTrace: () => {},
    setReadout: (text: string | null) => void readouts.push(text),
  };
  const playback = { audition: (voice: string) => void auditions.push(voice), auditionHit: (h: Hit) => void auditions.push(h.voice) };
  const context = makeGestureContext({ store, playback, overlay, scene, size: () => ({ width: WIDTH, height: HEIGHT }) });
  const stem = (id: string) => {
    const found = scene()
      .stems.flat()
      .find((s) => store.getState().part.hits[s.index]?.id === id)!;
    return { x: found.headX, y: found.headY };
  };
  const place = (voice: string, quarter: number, above = 14) => ({
    x: xOf(scene().axis, quarter * 80640),
    y: scene().rows.find((r) => r.voice === voice)!.baseline - above,
  });
  return { store, context, saved, auditions, readouts, marquees, scene, stem, place };
}

export const at = (p: { x: number; y: number }, dx = 0, dy = 0, more: Partial<Pointer> = {}): Pointer => ({
  x: p.x + dx,
  y: p.y + dy,
  shift: false,
  toggle: false,
  alt: false,
  ...more,
});
