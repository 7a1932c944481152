/** One event of a track: its time in the file's ticks and where its bytes lie, so that it can be copied unchanged. */
export interface TrackEvent {
  tick: number;
  /** Status byte, filled in where the file used running status. */
  status: number;
  /** The bytes behind the status byte are `bytes[start .. end)`. */
  start: number;
  end: number;
}

/**
 * A track's events as growing columns: a song has tens of thousands, and an object for each would cost more than reading the
 * file. Loops over all of them use the columns, everything else iterates.
 */
export class TrackEvents implements Iterable<TrackEvent> {
  length = 0;
  ticks: Float64Array;
  statuses: Uint8Array;
  starts: Uint32Array;
  ends: Uint32Array;

  constructor(capacity = 256) {
    this.ticks = new Float64Array(capacity);
    this.statuses = new Uint8Array(capacity);
    this.starts = new Uint32Array(capacity);
    this.ends = new Uint32Array(capacity);
  }

  push(tick: number, status: number, start: number, end: number) {
    if (this.length === this.ticks.length) this.grow();
    const i = this.length++;
    this.ticks[i] = tick;
    this.statuses[i] = status;
    this.starts[i] = start;
    this.ends[i] = end;
  }

  private grow() {
    const wider = new TrackEvents(this.ticks.length * 2);
    wider.ticks.set(this.ticks);
    wider.statuses.set(this.statuses);
    wider.starts.set(this.starts);
    wider.ends.set(this.ends);
    ({ ticks: this.ticks, statuses: this.statuses, starts: this.starts, ends: this.ends } = wider);
  }

  *[Symbol.iterator](): Generator<TrackEvent> {
    for (let i = 0; i < this.length; i++) {
      yield {
        tick: this.ticks[i] as number,
        status: this.statuses[i] as number,
        start: this.starts[i] as number,
        end: this.ends[i] as number,
      };
    }
  }
}
