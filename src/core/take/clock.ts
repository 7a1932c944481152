import { median } from '../statistics';
import { seconds, type Seconds } from '../units';

/** The same instant on both clocks: what is heard at that moment, and the page's clock. */
export interface ClockPair {
  audio: Seconds;
  /** As `performance.now()` and device stamps have it, in ms. */
  page: number;
}

/** So many recent pairs are kept; at some ten a second they span a dozen seconds, in which the clocks drift by a fraction of a millisecond. */
const KEPT = 128;

/**
 * Maps a device's stamps to the audio clock. Each pair that the browser gives is off by some jitter; the median of the offsets of many
 * is not.
 */
export class ClockMap {
  private readonly offsets: number[] = [];
  private middle: number | null = null;

  get isKnown(): boolean {
    return this.offsets.length > 0;
  }

  add({ audio, page }: ClockPair) {
    this.offsets.push(audio - page / 1000);
    if (this.offsets.length > KEPT) this.offsets.shift();
    this.middle = null;
  }

  /** Forgets everything: the audio device was opened anew. */
  reset() {
    this.offsets.length = 0;
    this.middle = null;
  }

  private get offset(): number {
    return (this.middle ??= this.offsets.length > 0 ? median(this.offsets) : 0);
  }

  /** @param page ms of the page's clock */
  toAudio(page: number): Seconds {
    return seconds(page / 1000 + this.offset);
  }

  toPage(audio: Seconds): number {
    return (audio - this.offset) * 1000;
  }
}
