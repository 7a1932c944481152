import type { ClockMap } from '@/core/take/clock';
import { seconds } from '@/core/units';

const EVERY_MS = 100;

/** Compares the audio clock with the page's some ten times a second: device stamps are mapped by it. */
export function compareClocks(contextOf: () => AudioContext | null, clock: ClockMap, now: () => number): void {
  const compare = () => {
    const context = contextOf();
    if (!context || context.state !== 'running') return;
    // What is heard at a moment of the page's clock; where the browser does not say, its delay is taken off.
    const { contextTime, performanceTime } = context.getOutputTimestamp();
    if (contextTime && performanceTime) clock.add({ audio: seconds(contextTime), page: performanceTime });
    else clock.add({ audio: seconds(now()), page: performance.now() });
  };
  compare();
  setInterval(compare, EVERY_MS);
}
