import { open, type FileHandle } from 'node:fs/promises';
import { HttpError } from '../http-error';

/** What waits in memory and on disk for those who send and read slowly: bounded in all, whoever they are. */
export const MOST_WAITING = { bodies: 256 * 2 ** 20, memory: 64 * 2 ** 20, files: 2 ** 30 };
export type WaitingRoom = keyof typeof MOST_WAITING;

/** By which a reader's share of the memory is taken back. */
type Release = () => void;

const AGAIN_SECONDS = 5;
const CHUNK = 256 * 1024;

export class Waiting {
  private readonly held: Record<WaitingRoom, number> = { bodies: 0, memory: 0, files: 0 };

  constructor(private readonly most: Readonly<Record<WaitingRoom, number>> = MOST_WAITING) {}

  /** @throws HttpError 503 where a place is full */
  check(place: WaitingRoom, more = 0): void {
    if (this.held[place] + more > this.most[place])
      throw new HttpError(
        503,
        'full',
        'Too many answers are waiting for slow connections. Try again in a moment.',
        { retryAfter: AGAIN_SECONDS },
        { 'Retry-After': String(AGAIN_SECONDS) },
      );
  }

  /** Counts bytes until they are released, which happens once however often it is asked for. */
  hold(place: WaitingRoom, bytes: number): Release {
    this.held[place] += bytes;
    let held = true;
    return () => {
      if (held) this.held[place] -= bytes;
      held = false;
    };
  }

  /** Bytes as they are read, counted until the last of them is taken or the reader is gone. */
  ofBytes(bytes: Uint8Array): ReadableStream<Uint8Array> {
    const release = this.hold('memory', bytes.length);
    let at = 0;
    return new ReadableStream<Uint8Array>(
      {
        pull(controller) {
          if (at < bytes.length) controller.enqueue(bytes.slice(at, (at += CHUNK)));
          if (at < bytes.length) return;
          release();
          controller.close();
        },
        cancel: release,
      },
      { highWaterMark: 0 },
    );
  }

  /** A file as it is read; `file` has no name any more, so that nothing of it stays whatever happens. */
  ofFile(file: FileHandle, bytes: number): ReadableStream<Uint8Array> {
    const release = this.hold('files', bytes);
    const end = async () => {
      release();
      await file.close();
    };
    return new ReadableStream<Uint8Array>(
      {
        async pull(controller) {
          const { bytesRead, buffer } = await file.read(new Uint8Array(CHUNK), 0, CHUNK);
          if (bytesRead > 0) return controller.enqueue(buffer.subarray(0, bytesRead));
          await end();
          controller.close();
        },
        cancel: end,
      },
      { highWaterMark: 0 },
    );
  }
}

export const openToRead = (path: string): Promise<FileHandle> => open(path, 'r');
