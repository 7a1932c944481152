import type { BenchScene } from './geometry/scene';
import type { Tip } from './tip';

let last: BenchScene | null = null;

/** The scene that was drawn last, for tests and measurements. */
export const lastScene = (): BenchScene | null => last;

/** What is told of the hit under the pointer, for tests. */
export const lastTip: { tip: Tip | null } = { tip: null };

/** Times at which the stems were drawn, newest last. */
export const drawnTimes: number[] = [];

export function noteScene(scene: BenchScene): void {
  last = scene;
  drawnTimes.push(performance.now());
  if (drawnTimes.length > 4000) drawnTimes.splice(0, 2000);
}
