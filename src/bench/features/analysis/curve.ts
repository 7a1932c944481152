import { deviation, mean } from '@/core/statistics';

export interface Dot {
  /** Place in the bar, as it is counted from 0. */
  x: number;
  /** ms, or velocity. */
  y: number;
  /** Index of its hit. */
  hit: number;
}

/** What is struck at one place of the bar. */
export interface AtPlace {
  x: number;
  hits: number[];
  mean: number;
  /** Of the population. */
  deviation: number;
}

/** Dots by their places, in order: the curve through their means, and the band around it. */
export function byPlace(dots: readonly Dot[]): AtPlace[] {
  const places = new Map<number, Dot[]>();
  for (const dot of dots) {
    const here = places.get(dot.x);
    if (here) here.push(dot);
    else places.set(dot.x, [dot]);
  }
  return [...places]
    .map(([x, here]) => {
      const values = here.map((d) => d.y);
      return { x, hits: here.map((d) => d.hit), mean: mean(values), deviation: deviation(values) };
    })
    .sort((a, b) => a.x - b.x);
}
