import { fork, type ChildProcess } from 'node:child_process';
import type { Socket } from 'node:net';
import { HttpError } from '../http-error';
import type { Answered, Asked } from './messages';
import { MOST_SLOWDOWN, slowdown, usageOf, type Usage } from './usage';

/** Limits of a kind of work. */
export interface SlotLimits {
  /** Calls that run at once. */
  slots: number;
  /** Calls that may wait for a slot. */
  waiting: number;
  /** CPU time; on a busy machine up to four times as much on the clock. */
  seconds: number;
  /** The V8 heap; `megabytes` limits the whole process (resident set). */
  heapMegabytes: number;
  megabytes: number;
}

const LOOK_MS = 100;
/** Young generation of the heap: with less, garbage collection takes as long as the work. */
const YOUNG_MEGABYTES = 32;
const AGAIN_SECONDS = 2;
/** After this many requests a child is replaced by a new one. */
const MOST_ANSWERS = 200;

interface Child {
  process: ChildProcess;
  answers: number;
}

const busy = (): HttpError =>
  new HttpError(
    429,
    'busy',
    'The server is busy. Try again in a moment.',
    { retryAfter: AGAIN_SECONDS },
    { 'Retry-After': String(AGAIN_SECONDS) },
  );
const tooLarge = (): HttpError => new HttpError(422, 'too-large', 'The call needs too much memory.');

/**
 * Child processes for one kind of work. Each has its own limits of time and memory; one that exceeds them is stopped, its request is
 * refused, and the next request gets a new one.
 */
export class ChildSlots {
  private idle: Child[] = [];
  private running = 0;
  private queue: (() => void)[] = [];

  /** @param code the bundle that children run */
  constructor(
    private readonly code: string,
    readonly limits: SlotLimits,
  ) {}

  /** @throws HttpError 429 where all slots and places in the queue are taken; 422 where the work takes too long or too much memory */
  async run(asked: Asked): Promise<Answered> {
    await this.turn();
    const child = this.idle.pop() ?? this.started();
    try {
      const answer = await this.answerOf(child, asked);
      if (++child.answers < MOST_ANSWERS && !this.isHeavy(child)) this.idle.push(rested(child));
      else child.process.kill();
      return answer;
    } catch (e) {
      child.process.kill('SIGKILL');
      throw e;
    } finally {
      // The slot goes to whoever waits: no other call comes between.
      const next = this.queue.shift();
      if (next) next();
      else this.running--;
    }
  }

  /** What is left of large work is given back to the machine. */
  private isHeavy({ process: { pid } }: Child): boolean {
    return ((pid === undefined ? null : usageOf(pid))?.megabytes ?? 0) > this.limits.megabytes / 2;
  }

  private async turn(): Promise<void> {
    if (this.running >= this.limits.slots) {
      if (this.queue.length >= this.limits.waiting) throw busy();
      return new Promise<void>((go) => this.queue.push(go));
    }
    this.running++;
  }

  private started(): Child {
    const child: Child = {
      process: fork(this.code, [], {
        execArgv: [`--max-old-space-size=${this.limits.heapMegabytes}`, `--max-semi-space-size=${YOUNG_MEGABYTES}`],
        serialization: 'advanced',
        stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
      }),
      answers: 0,
    };
    logErrors(child.process);
    child.process.once('exit', () => (this.idle = this.idle.filter((c) => c !== child)));
    return child;
  }

  private answerOf({ process: child }: Child, asked: Asked): Promise<Answered> {
    child.ref();
    child.channel?.ref();
    return new Promise<Answered>((done, failed) => {
      const start = performance.now();
      const before = child.pid === undefined ? null : usageOf(child.pid);
      const over = (end: () => void) => {
        clearInterval(watch);
        child.off('message', onMessage).off('error', onEnd).off('exit', onEnd);
        end();
      };
      const onMessage = (answer: Answered) => over(() => done(answer));
      // What ends without an answer ran out of memory.
      const onEnd = () => over(() => failed(tooLarge()));
      const watch = setInterval(() => {
        const problem = this.problemOf(before, child.pid === undefined ? null : usageOf(child.pid), (performance.now() - start) / 1000);
        if (problem) over(() => failed(problem));
      }, LOOK_MS);
      child.on('message', onMessage).on('error', onEnd).on('exit', onEnd);
      child.send(asked, (e) => {
        if (e) onEnd();
      });
    });
  }

  /**
   * Time is what was computed: by the clock other work of the machine would count as well. Where nothing tells, by the clock and the load.
   */
  private problemOf(before: Usage | null, now: Usage | null, elapsed: number): HttpError | null {
    const { seconds, megabytes } = this.limits;
    const isLate =
      before && now ? now.cpuSeconds - before.cpuSeconds > seconds || elapsed > MOST_SLOWDOWN * seconds : elapsed > slowdown() * seconds;
    if (isLate) return new HttpError(422, 'too-slow', `The call needs more than ${seconds} s of CPU time.`);
    return now && now.megabytes > megabytes ? tooLarge() : null;
  }
}

/** Writes a child's errors to the log when it exits. Running out of memory is an expected end: its trace would fill the log. */
function logErrors(child: ChildProcess): void {
  let text = '';
  child.stderr?.setEncoding('utf8').on('data', (more: string) => {
    if (text.length < MOST_LOGGED) text += more;
  });
  child.once('close', () => {
    if (text && !text.includes('out of memory')) console.error(text.slice(0, MOST_LOGGED));
  });
}
const MOST_LOGGED = 4096;

/** A child that waits keeps nothing going. */
function rested(child: Child): Child {
  child.process.unref();
  child.process.channel?.unref();
  (child.process.stderr as Socket | null)?.unref();
  return child;
}
