import * as Comlink from 'comlink';
import { handsOfPart, type HandsOfPart } from '@/core/analysis/hands-of-part';
import { placementOf, type Placement } from '@/core/analysis/placement';
import type { Handed } from '@/core/hands/sticking';
import type { HitId, Part } from '@/core/model/part';
import type { TakeEvent, Take } from '@/core/model/take';
import { readingsOfTake } from '@/core/take/read-take';
import { readingsOf } from '@/core/reading/read-into';
import { sayReady } from './ready';

/** Measures long parts away from the interface. */
const api = {
  placement: (part: Part, version: 'performed' | 'written'): Placement => placementOf(part, version),
  /** Lines of hits, of some alone where they are named. */
  readings: (part: Part, ids: ReadonlySet<HitId> | null): ReturnType<typeof readingsOf> =>
    readingsOf(part, ids ? (hit) => ids.has(hit.id) : undefined),
  /** Lines of a take's hits, its passes one after another. */
  takeReadings: (part: Part, take: Take, events: readonly TakeEvent[]): ReturnType<typeof readingsOfTake> =>
    readingsOfTake(part, take, events),
  hands: (part: Part, handed: Handed): HandsOfPart => handsOfPart(part, handed),
};

export type MeasureApi = typeof api;

Comlink.expose(api);
sayReady();
