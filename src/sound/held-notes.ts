/** A note that was begun, and when it is to end: ms of the page's clock. */
interface Held {
  key: number;
  channel: number;
  end: number;
}

const NOTE_OFF = 0x80;

/**
 * Ends notes at an output that takes messages ahead of time and gives none back. An end is held until it is nearly due: a note of the
 * same key that begins before it ends the one before, and its own end stays.
 */
export class HeldNotes {
  private held: Held[] = [];

  constructor(private readonly send: (bytes: readonly number[], page: number) => void) {}

  /** Before a note is begun. @param page when it begins */
  begin(channel: number, key: number, page: number, end: number): void {
    const same = this.held.find((h) => h.channel === channel && h.key === key);
    if (same) this.end(same, Math.min(same.end, page));
    this.held.push({ channel, key, end });
  }

  /** Ends what is due until a moment. */
  endUntil(page: number): void {
    for (const h of this.held.filter(({ end }) => end <= page)) this.end(h, h.end);
  }

  /** Ends all that sounds, now. */
  endAll(page: number): void {
    for (const h of [...this.held]) this.end(h, page);
  }

  private end(held: Held, page: number) {
    this.held = this.held.filter((h) => h !== held);
    this.send([NOTE_OFF | held.channel, held.key, 64], page);
  }
}
