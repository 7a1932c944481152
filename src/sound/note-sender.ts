import type { Program } from '@/core/playback/program';
import { PRE_ROLL_SECONDS, Sequencer } from '@/core/playback/sequencer';
import { seconds, type Seconds } from '@/core/units';

/** A note to be sent: which of the program's hits, how loud, and when it is heard on the audio clock. */
export interface DueNote {
  slot: number;
  voice: number;
  velocity: number;
  at: Seconds;
}

/** What is played, as the engine tells it. */
export interface Sounding {
  program: Program;
  anchorFrame: number;
}

/** Notes are handed over so long before they are heard: more than a page is ever held up, less than a hand notices in an edit. */
export const AHEAD_SECONDS = 0.25;

/**
 * Decides ahead of time which notes an output has to be given: the same sequencer as the audio thread's, run a quarter of a second
 * ahead. Each note is given once; an edit reaches the output with the notes that are not given yet.
 */
export class NoteSender {
  private readonly sequencer: Sequencer;
  private anchor: number | null = null;
  private program: Program | null = null;
  /** Frames up to here have been given. */
  private until = 0;

  constructor(private readonly sampleRate: number) {
    this.sequencer = new Sequencer(sampleRate);
  }

  /**
   * The notes that have become due to be given.
   * @param now the audio clock
   */
  due(sounding: Sounding | null, now: Seconds): DueNote[] {
    if (!sounding) {
      this.anchor = null;
      this.program = null;
      this.sequencer.stop();
      return [];
    }
    const frame = Math.floor(now * this.sampleRate);
    if (this.anchor === null) this.until = frame;
    const from = Math.max(this.until, frame);
    if (sounding.program !== this.program) {
      this.sequencer.setProgram(sounding.program, from);
      this.program = sounding.program;
    }
    if (sounding.anchorFrame !== this.anchor) {
      // Another start, or another tempo: the place in the music is the engine's.
      this.anchor = sounding.anchorFrame;
      this.sequencer.play(sounding.program.startTick, this.anchor - Math.round(PRE_ROLL_SECONDS * this.sampleRate));
    }
    const to = frame + Math.round(AHEAD_SECONDS * this.sampleRate);
    if (to <= from) return [];
    this.until = to;
    return this.sequencer
      .advance(from, to - from)
      .map((o) => ({ slot: o.slot, voice: o.voice, velocity: o.velocity, at: seconds(o.frame / this.sampleRate) }));
  }
}
