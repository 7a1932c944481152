import { NO_OWN_SOUNDS, type OwnSounds, type SampleId } from '@/core/model/own-sound';
import { TILT_HZ, type RenderedStroke } from '@/core/synth/stroke';
import { renderStrokes } from '@/workers/clients';
import type { NeededStroke } from './strokes';

/** The user's own sounds, and how their recordings are read; undefined where one is gone. */
export interface OwnSource {
  sounds: OwnSounds;
  read(sample: SampleId): Promise<Uint8Array | undefined>;
  /** The recording of a break. */
  readBreak(sample: SampleId): Promise<Blob | undefined>;
}

const NOTHING = () => Promise.resolve(undefined);
const SILENCE: RenderedStroke = { samples: new Float32Array(1), high: 0, tiltHz: TILT_HZ };

/** Makes strokes in the workers, of the kit's sounds, of the user's own and of pieces of breaks. */
export class StrokeMaker {
  own: OwnSource = { sounds: NO_OWN_SOUNDS, read: NOTHING, readBreak: NOTHING };
  /** Pieces of one break are made one after another: its recording stays at hand. */
  private recording: { sample: SampleId; blob: Promise<Blob | undefined> } | null = null;

  constructor(private readonly sampleRate: number) {}

  make = async (wishes: readonly NeededStroke[]): Promise<RenderedStroke[]> => {
    const samples = await Promise.all(wishes.map((wish) => this.sampleOf(wish)));
    // What was deleted meanwhile is silent: the next program has the kit's own instead.
    const makable = wishes.flatMap(({ source, layer, take }, i) =>
      (source.own || source.pieces) && !samples[i]
        ? []
        : [{ i, wish: { source, layer, take, ...(samples[i] ? { sample: samples[i] } : {}) } }],
    );
    const made = await renderStrokes(
      makable.map(({ wish }) => wish),
      this.sampleRate,
    );
    const strokes = wishes.map(() => SILENCE);
    makable.forEach(({ i }, n) => (strokes[i] = made[n] as RenderedStroke));
    return strokes;
  };

  private sampleOf({ source: { own, pieces }, layer, take }: NeededStroke): Promise<Uint8Array | Blob | undefined> {
    if (pieces) return this.recordingOf(pieces.sample);
    return own ? this.own.read(own.layers[layer]!.takes[take]!.sample) : NOTHING();
  }

  private recordingOf(sample: SampleId): Promise<Blob | undefined> {
    if (this.recording?.sample !== sample) this.recording = { sample, blob: this.own.readBreak(sample) };
    return this.recording.blob;
  }
}
