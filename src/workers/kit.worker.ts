import * as Comlink from 'comlink';
import type { RowSource } from '@/core/playback/sources';
import { strokeOfSource } from '@/core/playback/stroke-of-source';
import type { Stroke } from '@/core/synth/stroke';
import { sayReady } from './ready';

export interface StrokeWish {
  source: RowSource;
  layer: number;
  take: number;
  /** The recording, where it is one of the user's own. */
  sample?: Uint8Array;
}

const NOTHING = new Uint8Array();

/** Makes strokes away from the interface. */
const api = {
  render: (wishes: StrokeWish[], sampleRate: number): Stroke[] => {
    const strokes = wishes.map(({ source, layer, take, sample = NOTHING }) => strokeOfSource(source, layer, take, sampleRate, () => sample));
    return Comlink.transfer(strokes, strokes.flatMap(({ samples, right }) => [samples.buffer, ...(right ? [right.buffer] : [])]));
  },
};

export type KitApi = typeof api;

Comlink.expose(api);
sayReady();
