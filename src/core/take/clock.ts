import { median } from '../statistics';
import { seconds, type Seconds } from '../units';

/** The same instant on both clocks: what is heard at that moment, and the page's clock. */
export interface ClockPair {
  audio: Seconds;
  /** As `performance.now()` and device stamps have it, in ms. */
  page: number;
}

/**
 * So many recent pairs are kept; at some ten a second they span a dozen seconds, in which the clocks drift by a fraction of a millisecond.
 */
const KEPT = 128;

/** A stretch in which the audio clock fell behind the page's: the machine stalled. In ms of the page's clock. */
export interface Stall {
  from: number;
  to: number;
}

/** A clock that falls behind by more, in seconds ... */
const STALL_SECONDS = 0.02;
/** ... in so many pairs running has stalled: a single pair may be off by as much. */
const PAIRS_RUNNING = 3;
/** How fast the usual offset is followed: clocks drift. */
const FOLLOW = 0.05;

/**
 * Maps a device's stamps to the audio clock. Each pair that the browser gives is off by some jitter; the median of the offsets of many
 * is not.
 */
export class ClockMap {
  private readonly offsets: number[] = [];
  private middle: number | null = null;
  private usual: number | null = null;
  private good: ClockPair | null = null;
  private behind: ClockPair[] = [];
  /**
   * Where the audio clock fell behind, oldest first. Stamps are mapped by what was usual before, for seconds: hits keep the device's own
   * times.
   */
  readonly stalls: Stall[] = [];

  get isKnown(): boolean {
    return this.offsets.length > 0;
  }

  add({ audio, page }: ClockPair) {
    this.offsets.push(audio - page / 1000);
    if (this.offsets.length > KEPT) this.offsets.shift();
    this.middle = null;
    this.watch({ audio, page });
  }

  private watch(pair: ClockPair) {
    const offset = pair.audio - pair.page / 1000;
    const usual = (this.usual ??= offset);
    if (usual - offset <= STALL_SECONDS) {
      this.behind = [];
      this.good = pair;
      this.usual = usual + (offset - usual) * FOLLOW;
      return;
    }
    this.behind.push(pair);
    if (this.behind.length < PAIRS_RUNNING) return;
    this.stalls.push({ from: (this.good ?? pair).page, to: (this.behind[0] as ClockPair).page });
    if (this.stalls.length > KEPT) this.stalls.shift();
    this.usual = median(this.behind.map((p) => p.audio - p.page / 1000));
    this.behind = [];
  }

  /** Forgets everything: the audio device was opened anew. */
  reset() {
    this.offsets.length = 0;
    this.middle = null;
    this.usual = this.good = null;
    this.behind = [];
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
