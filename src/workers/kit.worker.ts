import * as Comlink from 'comlink';
import type { SampleId } from '@/core/model/own-sound';
import type { RowSource } from '@/core/playback/sources';
import { strokeOfSource } from '@/core/playback/stroke-of-source';
import type { RenderedStroke } from '@/core/synth/stroke';
import { sayReady } from './ready';

export interface StrokeRequest {
  source: RowSource;
  layer: number;
  take: number;
  /** The recording, where it is one of the user's own. */
  sample?: Uint8Array | Blob;
}

const NOTHING = new Uint8Array();

/** The break whose pieces were made last. */
let recording: { sample: SampleId; bytes: Uint8Array } | null = null;

async function bytesFor({ source: { pieces }, sample }: StrokeRequest): Promise<Uint8Array> {
  if (!(sample instanceof Blob)) return sample ?? NOTHING;
  if (pieces && recording?.sample === pieces.sample) return recording.bytes;
  const bytes = new Uint8Array(await sample.arrayBuffer());
  if (pieces) recording = { sample: pieces.sample, bytes };
  return bytes;
}

/** Makes strokes away from the interface. */
const api = {
  render: async (wishes: StrokeRequest[], sampleRate: number): Promise<RenderedStroke[]> => {
    const strokes: RenderedStroke[] = [];
    for (const wish of wishes) {
      const bytes = await bytesFor(wish);
      strokes.push(strokeOfSource(wish.source, wish.layer, wish.take, sampleRate, () => bytes));
    }
    return Comlink.transfer(
      strokes,
      strokes.flatMap(({ samples, right }) => [samples.buffer, ...(right ? [right.buffer] : [])]),
    );
  },
};

export type KitApi = typeof api;

Comlink.expose(api);
sayReady();
