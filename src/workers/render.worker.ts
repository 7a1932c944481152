import * as Comlink from 'comlink';
import { ownSoundsOf, type OwnSound, type SampleId } from '@/core/model/own-sound';
import type { Part } from '@/core/model/part';
import { writeWav, type Bits } from '@/core/audio/wav';
import type { OrderRound } from '@/core/song/unroll';
import type { VoiceName } from '@/core/row-names';
import { bpmOf } from '@/core/time/tempo-map';
import { USUAL_VOLUME } from '@/core/playback/mixer';
import { planRender, renderPlan, strokeSource, type RenderAccount, type RenderRange } from '@/core/render/render-part';
import { sayReady } from './ready';

/** What is rendered, and how it is written. */
export interface RenderWish extends Omit<RenderRange, 'from' | 'to'>, Partial<Pick<RenderRange, 'from' | 'to'>> {
  /** The running order, or these rounds alone, instead of bars. */
  order?: boolean;
  rounds?: readonly OrderRound[];
  part: Part;
  bits: Bits;
  passes: number;
  written: boolean;
  /** A file for each row, and one for the room, beside or instead of the mix. */
  split: boolean;
  /** These rows alone; without limiter, so that such files sum up. */
  rows?: readonly VoiceName[];
  /** The user's own sounds that play it, and their recordings. */
  sounds: readonly OwnSound[];
  samples: ReadonlyMap<SampleId, Uint8Array>;
  /** The recordings of its breaks. */
  recordings: ReadonlyMap<SampleId, Blob>;
}

export interface RenderedFile {
  /** The row's name; 'room', or 'mix'. */
  name: string;
  bytes: Uint8Array;
}

export interface RenderedFiles {
  files: RenderedFile[];
  account: RenderAccount;
  seconds: number;
}

const NOTHING = new Uint8Array();

/** Renders audio away from the interface; ending the worker ends the job. */
const api = {
  async render(
    { part, rate, bits, split, sounds, samples, recordings: blobs, ...range }: RenderWish,
    onProgress: (done: number) => void,
  ): Promise<RenderedFiles> {
    const recordings = new Map(
      await Promise.all([...blobs].map(async ([id, blob]) => [id, new Uint8Array(await blob.arrayBuffer())] as const)),
    );
    // The strokes are made first: about a fifth of the work.
    onProgress(0.02);
    const plan = planRender(part, {
      ...range,
      rate,
      volume: USUAL_VOLUME,
      limited: !split && range.rows === undefined,
      sounds: ownSoundsOf(sounds, recordings.keys()),
      strokes: strokeSource(rate, (id) => samples.get(id) ?? recordings.get(id) ?? NOTHING),
    });
    const pieces: (null | 'room' | { sound: number })[] = split
      ? [...plan.rows.map(({ index }) => ({ sound: index })), ...(plan.program.mix.room.amount > 0 ? (['room'] as const) : [])]
      : [null];
    const first = part.tempo[0];
    const rendered = pieces.map((piece, i) => {
      plan.options.onProgress = (done) => onProgress(0.2 + (0.75 * (i + done)) / pieces.length);
      return renderPlan(plan, piece);
    });
    // One length for all.
    const frames = rendered.reduce((most, r) => Math.max(most, r.left.length), 0);
    const same = (side: Float32Array): Float32Array => {
      if (side.length === frames) return side;
      const longer = new Float32Array(frames);
      longer.set(side);
      return longer;
    };
    const files = rendered.map(({ left, right }, i): RenderedFile => {
      const piece = pieces[i];
      const name =
        piece === null || piece === undefined
          ? 'mix'
          : piece === 'room'
            ? 'room'
            : (plan.rows.find((r) => r.index === piece.sound)?.row ?? '');
      return {
        name,
        bytes: writeWav(same(left), same(right), {
          rate,
          bits,
          loop: range.ending === 'fold',
          seed: part.feel.seed,
          ...(first ? { tempo: bpmOf(first) } : {}),
        }),
      };
    });
    onProgress(1);
    return Comlink.transfer(
      { files, account: plan.account, seconds: frames / rate },
      files.map((f) => f.bytes.buffer as ArrayBuffer),
    );
  },
};

export type RenderApi = typeof api;

Comlink.expose(api);
sayReady();
