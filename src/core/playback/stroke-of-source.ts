import { readWav } from '../audio/read-wav';
import type { OwnLayer, OwnTake, SampleId } from '../model/own-sound';
import { strokeOfPiece } from '../samples/stroke-of-piece';
import { strokeOfRecording } from '../samples/stroke-of-recording';
import { strokeOf } from '../synth/kits/all';
import type { RenderedStroke } from '../synth/stroke';
import type { RowSource } from './sources';

/** The bytes of a recording, as a WAV file. */
export type SampleSource = (sample: SampleId) => Uint8Array;

/**
 * Makes a stroke of what plays a row.
 * @param samples recordings of the user's own; only asked for those that the source names
 * @param rate frames a second
 */
export function strokeOfSource(
  { kit, voice, own, pieces }: RowSource,
  layer: number,
  take: number,
  rate: number,
  samples: SampleSource,
): RenderedStroke {
  if (pieces) return strokeOfPiece(samples(pieces.sample), pieces.pieces[take], pieces.gap, rate);
  if (!own) return strokeOf(kit, voice, layer, take, rate);
  const { upTo, takes } = own.layers[layer] as OwnLayer;
  return strokeOfRecording(readWav(samples((takes[take] as OwnTake).sample)), upTo, rate);
}
