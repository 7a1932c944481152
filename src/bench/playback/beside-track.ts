import { sliceOfPass } from '@/core/playback/beside';
import type { Backing } from '@/core/model/backing';
import type { Part } from '@/core/model/part';
import { seconds } from '@/core/units';
import type { SoundEngine } from '@/sound/engine';

/** What is heard beside a part: a sound, and how it stands to the part. */
export interface Beside extends Pick<Backing, 'firstDownbeat' | 'offsetMs' | 'seconds' | 'level'> {
  buffer: AudioBuffer;
}

/** Rounds are begun so long ahead. */
const AHEAD_SECONDS = 0.6;

interface Sounding {
  /** What it was begun by: when any of it changes, it is begun anew. */
  key: string;
  buffer: AudioBuffer;
  pass: number;
  sources: AudioBufferSourceNode[];
}

/** Plays a sound beside what plays, in step with the loop. It is in no export. */
export class BesideTrack {
  private sounding: Sounding | null = null;
  private gain: GainNode | null = null;

  constructor(private readonly engine: SoundEngine) {}

  /** Begins what is due; called some times a second, and whenever something has changed. @param of null: nothing is heard */
  look(part: Pick<Part, 'tempo' | 'origin'>, of: Beside | null): void {
    const { context, sounding: playing, startedAt } = this.engine;
    if (!of || !context || !playing || startedAt === null) return this.silence();
    const { program } = playing;
    const key = [of.firstDownbeat, of.offsetMs, startedAt, program.startTick, program.endTick, program.length, program.loop].join();
    if (this.sounding && (this.sounding.key !== key || this.sounding.buffer !== of.buffer)) this.silence();
    if (!this.gain) {
      this.gain = new GainNode(context);
      this.gain.connect(context.destination);
    }
    this.gain.gain.value = 10 ** (of.level / 20);
    const now = context.currentTime;
    const passAt = (time: number): number => (program.loop && program.length > 0 ? Math.max(0, Math.floor((time - startedAt) / program.length)) : 0);
    const sounding = (this.sounding ??= { key, buffer: of.buffer, pass: passAt(now) - 1, sources: [] });
    while (sounding.pass < passAt(now + AHEAD_SECONDS)) {
      sounding.pass++;
      const slice = sliceOfPass(part, of, program, startedAt, sounding.pass, seconds(now));
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
