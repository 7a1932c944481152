import { TempoMap } from '../time/tempo-map';
import { seconds, ticks, TICKS_PER_QUARTER, type Seconds } from '../units';
import type { Program } from './program';

/** A MIDI message, and when it is due on the audio clock. */
export interface ClockMessage {
  bytes: readonly number[];
  at: Seconds;
}

const [CLOCK, START, CONTINUE, STOP, POSITION] = [0xf8, 0xfa, 0xfb, 0xfc, 0xf2];
const CLOCKS_A_QUARTER = 24;
const STEP = TICKS_PER_QUARTER / CLOCKS_A_QUARTER;
/** Song positions count sixteenths. */
const SIXTEENTH = TICKS_PER_QUARTER / 4;
const LAST_POSITION = 0x3fff;

/** What plays: a program, and when its first pass started on the audio clock. */
export interface Clocked {
  program: Pick<Program, 'startTick' | 'endTick' | 'length' | 'loop' | 'tempo'>;
  startedAt: Seconds;
}

/**
 * MIDI clock for what plays: position, start or continue, 24 clocks a quarter, stop. Where a loop comes round it stops, says where it is,
 * and goes on, so that a receiver stands in the same bar. Messages are given ahead of time, each once.
 */
export class ClockOut {
  private running: { of: Clocked; pass: number; next: number } | null = null;
  private tempo: TempoMap | null = null;

  /** The messages that are due until a moment. @param now the audio clock */
  due(playing: Clocked | null, now: Seconds, until: Seconds): ClockMessage[] {
    const messages: ClockMessage[] = [];
    if (!playing) {
      if (this.running) messages.push({ bytes: [STOP], at: now });
      this.running = null;
      return messages;
    }
    const before = this.running;
    const isSame =
      before &&
      before.of.startedAt === playing.startedAt &&
      before.of.program.startTick === playing.program.startTick &&
      before.of.program.endTick === playing.program.endTick &&
      before.of.program.length === playing.program.length;
    if (!this.tempo || before?.of.program !== playing.program) this.tempo = new TempoMap(playing.program.tempo);
    if (!isSame) {
      if (before) messages.push({ bytes: [STOP], at: now });
      const place = Math.max(0, now - playing.startedAt);
      const pass = playing.program.loop && playing.program.length > 0 ? Math.floor(place / playing.program.length) : 0;
      // Clocks stand on whole steps from the start of the part.
      const tick = Math.ceil(this.tickAt(playing, now, pass) / STEP) * STEP;
      this.running = { of: playing, pass, next: tick };
      messages.push(...this.begin(playing, pass, tick, before !== null));
    } else this.running = { ...before, of: playing };
    const { running } = this;
    while (running) {
      if (running.next >= playing.program.endTick) {
        if (!playing.program.loop) break;
        const at = seconds(playing.startedAt + (running.pass + 1) * playing.program.length);
        if (at >= until) break;
        running.pass++;
        running.next = Math.ceil(playing.program.startTick / STEP) * STEP;
        messages.push({ bytes: [STOP], at }, ...this.begin(playing, running.pass, running.next, true));
      }
      const at = this.timeOf(playing, running.pass, running.next);
      if (at >= until) break;
      messages.push({ bytes: [CLOCK], at });
      running.next += STEP;
    }
    return messages;
  }

  private begin(of: Clocked, pass: number, tick: number, again: boolean): ClockMessage[] {
    const at = this.timeOf(of, pass, tick);
    const sixteenths = Math.max(0, Math.min(LAST_POSITION, Math.floor(tick / SIXTEENTH)));
    return sixteenths === 0 && !again
      ? [{ bytes: [START], at }]
      : [
          { bytes: [POSITION, sixteenths & 0x7f, sixteenths >> 7], at },
          { bytes: [CONTINUE], at },
        ];
  }

  private tickAt({ program, startedAt }: Clocked, now: Seconds, pass: number): number {
    const tempo = this.tempo as TempoMap;
    const place = Math.max(0, now - startedAt - pass * program.length);
    return tempo.toTicks(seconds(tempo.toSeconds(program.startTick) + place));
  }

  private timeOf({ program, startedAt }: Clocked, pass: number, tick: number): Seconds {
    const tempo = this.tempo as TempoMap;
    return seconds(startedAt + pass * program.length + tempo.toSeconds(ticks(tick)) - tempo.toSeconds(program.startTick));
  }
}
