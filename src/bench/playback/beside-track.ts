import { sliceOf, type BackingSpan } from '@/core/playback/beside';
import type { Backing } from '@/core/model/backing';
import { seconds } from '@/core/units';
import type { SoundEngine } from '@/sound/engine';

/** What is heard beside a part: a sound, and how it stands to the part. */
export interface Beside extends Pick<Backing, 'firstDownbeat' | 'offsetMs' | 'seconds' | 'level'> {
  buffer: AudioBuffer;
}

/** Rounds are begun so long ahead. */
const AHEAD_SECONDS = 0.6;

/** What is played, stretch by stretch; another key is other playing. */
export interface Stretches {
  key: string;
  /** Counted from 0; null behind the last. */
  at(n: number): BackingSpan | null;
}

interface Sounding {
  /** What it was begun by: when any of it changes, it is begun anew. */
  key: string;
  buffer: AudioBuffer;
  /** The next stretch that is begun. */
  next: number;
  sources: AudioBufferSourceNode[];
}

/** Plays a sound beside what plays, in step with it. It is in no export. */
export class BesideTrack {
  private sounding: Sounding | null = null;
  private gain: GainNode | null = null;

  constructor(private readonly engine: SoundEngine) {}

  /** Begins what is due; called some times a second, and whenever something has changed. @param of null: nothing is heard */
  look(of: Beside | null, stretches: Stretches | null): void {
    const { context, startedAt } = this.engine;
    if (!of || !stretches || !context || startedAt === null) return this.silence();
    const key = [of.firstDownbeat, of.offsetMs, startedAt, stretches.key].join();
    if (this.sounding && (this.sounding.key !== key || this.sounding.buffer !== of.buffer)) this.silence();
    if (!this.gain) {
      this.gain = new GainNode(context);
      this.gain.connect(context.destination);
    }
    this.gain.gain.value = 10 ** (of.level / 20);
    const now = seconds(context.currentTime);
    const sounding = (this.sounding ??= { key, buffer: of.buffer, next: 0, sources: [] });
    for (
      let stretch = stretches.at(sounding.next);
      stretch && startedAt + stretch.begin <= now + AHEAD_SECONDS;
      stretch = stretches.at(++sounding.next)
    ) {
      const slice = sliceOf(of, stretch, startedAt, now);
      if (!slice) continue;
      const source = new AudioBufferSourceNode(context, { buffer: of.buffer });
      source.connect(this.gain);
      source.start(slice.at, slice.offset, slice.length);
      sounding.sources = [...sounding.sources.slice(-3), source];
    }
  }

  silence(): void {
    for (const source of this.sounding?.sources ?? []) source.stop();
    this.sounding = null;
  }

  dispose(): void {
    this.silence();
    this.gain?.disconnect();
    this.gain = null;
  }
}
