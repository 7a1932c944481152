/** What every output takes, a real port like the simulated receiver. */
export interface OutputDevice {
  id: string;
  name: string;
  /** @param page when it shall sound: ms of the page's clock */
  send(bytes: readonly number[], page: number): void;
  /** Forgets what is still to come. */
  clear(): void;
}

/** A message as the receiver got it. */
export interface ReceivedMessage {
  bytes: readonly number[];
  page: number;
}

const KEPT = 20_000;

/** A simulated receiver: shows and keeps what would go out, for those without a port and for tests. */
export class Receiver implements OutputDevice {
  readonly id = 'receiver';
  readonly name = 'Simulated receiver';
  readonly received: ReceivedMessage[] = [];

  send(bytes: readonly number[], page: number) {
    this.received.push({ bytes: [...bytes], page });
    if (this.received.length > KEPT) this.received.splice(0, KEPT / 2);
  }

  clear() {
    // What was sent ahead has been noted; a receiver has nothing to stop.
  }
}
