import { freshBreak, hearStrokes, layerBreak } from '@/core/breaks/edit';
import type { Break, HeardStrokes } from '@/core/model/break';
import type { Part } from '@/core/model/part';
import { seconds } from '@/core/units';
import recorded from './recorded-breaks.json';

/** A break that comes along, as it was recorded and heard: see breaks.ts. */
export interface OwnBreak {
  /** Of its file under /breaks. */
  id: string;
  name: string;
  sample: string;
  seconds: number;
  heard: Omit<HeardStrokes, 'break'>;
}

export const OWN_BREAKS = recorded as unknown as readonly OwnBreak[];

/** @example ownBreak('harbour').name // 'Harbour break' */
export function ownBreak(id: string): OwnBreak {
  const found = OWN_BREAKS.find((b) => b.id === id);
  if (!found) throw new Error(`no break is called ${id}`);
  return found;
}

/** Where its recording is fetched from. */
export const addressOf = ({ id }: Pick<OwnBreak, 'id'>): string => `/breaks/${id}.wav`;

export const freshOwnBreak = ({ name, sample, seconds: length }: OwnBreak, id: string): Break =>
  freshBreak({ id, name, sample, seconds: seconds(length) });

/** A part with a break of ours under it, listened to. */
export function withOwnBreak(part: Part, of: OwnBreak, id: string): Part {
  return hearStrokes(layerBreak(part, freshOwnBreak(of, id)), id, of.heard);
}
