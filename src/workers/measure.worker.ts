import * as Comlink from 'comlink';
import { handsOfPart, type HandsOfPart } from '@/core/analysis/hands-of-part';
import { placementOf, type Placement } from '@/core/analysis/placement';
import type { Handed } from '@/core/hands/sticking';
import type { Part } from '@/core/model/part';
import { sayReady } from './ready';

/** Measures long parts away from the interface. */
const api = {
  placement: (part: Part, version: 'performed' | 'written'): Placement => placementOf(part, version),
  hands: (part: Part, handed: Handed): HandsOfPart => handsOfPart(part, handed),
};

export type MeasureApi = typeof api;

Comlink.expose(api);
sayReady();
