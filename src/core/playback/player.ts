import { ticks, type Ticks } from '../units';
import type { Stroke } from '../synth/stroke';
import { Mixer, PLAIN, type Colour, type Sound } from './mixer';
import type { Program } from './program';
import { PRE_ROLL_SECONDS, Sequencer, type Onset } from './sequencer';

/** What is heard: the feel, the written part, or another feel to compare with. */
export type Version = 'performed' | 'written' | 'other';

/** A program for each version, and how loud each is played. */
export interface Versions {
  performed: Program;
  written: Program;
  other?: Program;
  /** Factors that make versions equally loud; 1 without. */
  gains?: Partial<Record<Version, number>>;
}

/** Where playback is: enough for a screen to compute the playhead at any later moment. */
export interface PlayState {
  playing: boolean;
  anchorFrame: number;
  version: Version;
}

/** Sequencer and mixer as one: plays the performed or the written program and starts each hit at its sample. */
export class Player {
  private readonly sequencer: Sequencer;
  /** Clicks beside the music, in the same time. */
  private readonly clicks: Sequencer;
  private clicking = false;
  private readonly mixer: Mixer;
  private versions: Versions | null = null;
  private version: Version = 'performed';
  private auditions: { sound: number; velocity: number; colour: Colour }[] = [];
  /** The next frame that is mixed: so far ahead of what leaves as the limiter looks. */
  private frame = 0;
  /** Playing that starts with the next block: the clock may jump until it comes. */
  private starting: { fromTick: Ticks; lead: number } | null = null;

  constructor(private readonly sampleRate: number, sounds: readonly Sound[]) {
    this.sequencer = new Sequencer(sampleRate);
    this.clicks = new Sequencer(sampleRate);
    this.mixer = new Mixer(sampleRate, sounds);
  }

  /** Gives a row's number its sound, or another. */
  setSound(index: number, sound: Sound) {
    this.mixer.setSound(index, sound);
  }

  /** A stroke of a sound that is ready now, or is not kept any longer. */
  setStroke(index: number, layer: number, take: number, stroke: Stroke | undefined) {
    this.mixer.setStroke(index, layer, take, stroke);
  }

  /** How far the level was turned down since it was last asked: 1 is not at all. */
  takeLimited(): number {
    return this.mixer.takeLimited();
  }

  setVolume(volume: number) {
    this.mixer.volume = volume;
  }

  /** Replaces all versions; the one being heard changes at the next due moment of each hit. */
  setPrograms(versions: Versions) {
    this.versions = versions;
    this.useProgram();
  }

  setVersion(version: Version) {
    if (version === this.version) return;
    this.version = version;
    this.useProgram();
  }

  private useProgram() {
    if (!this.versions) return;
    const program = this.versions[this.version] ?? this.versions.performed;
    this.sequencer.setProgram(program, this.frame);
    this.mixer.setMix(program.mix);
    this.mixer.gain = this.versions.gains?.[this.version] ?? 1;
  }

  /** What clicks; null for silence. Their program must have the loop and the tempo of what is played. */
  setClicks(program: Program | null) {
    this.clicking = program !== null;
    if (program) this.clicks.setProgram(program, this.frame);
  }

  /** @param lead seconds from the next block until the start: with clicks it is counted in */
  play(fromTick: Ticks, lead: number = PRE_ROLL_SECONDS) {
    this.starting = { fromTick, lead };
  }

  private begin(frame: number) {
    if (!this.starting) return;
    const { fromTick, lead } = this.starting;
    this.starting = null;
    this.frame = frame;
    this.mixer.forgetTakes();
    // What is mixed now leaves later by as much as the limiter looks ahead.
    // A count-in begins with the first frame that can be heard: it has nothing to spare.
    const early = lead > PRE_ROLL_SECONDS ? lead : Math.max(0, lead - this.mixer.latency / this.sampleRate);
    this.sequencer.play(fromTick, frame, early);
    this.clicks.play(fromTick, frame, early, true);
  }

  stop() {
    this.starting = null;
    this.sequencer.stop();
    this.clicks.stop();
    this.mixer.silence();
  }

  /** Sounds a voice with the next block. */
  audition(sound: number, velocity: number, colour: Colour = PLAIN) {
    this.auditions.push({ sound, velocity, colour });
  }

  get state(): PlayState {
    return { playing: this.sequencer.isPlaying, anchorFrame: this.sequencer.anchorFrame, version: this.version };
  }

  positionAt(frame: number): Ticks {
    return this.sequencer.isPlaying ? this.sequencer.positionAt(frame) : ticks(0);
  }

  /**
   * Renders the block that starts at the frame `heard`. Where the clock has jumped since the last block, what fell into the last tenth of a
   * second of the jump starts at once: a late hit is better than a lost one, a burst of them is not.
   * @returns the hits that start in it
   */
  render(left: Float32Array, right: Float32Array, heard: number): Onset[] {
    const frame = heard + this.mixer.latency;
    this.begin(frame);
    const jumped = Math.min(Math.max(0, frame - this.frame), PRE_ROLL_SECONDS * this.sampleRate);
    const onsets = this.sequencer.advance(frame, left.length, jumped);
    for (const onset of onsets) this.mixer.start(onset.voice, onset.velocity, Math.max(0, onset.frame - frame), onset.colour);
    const clicks = this.clicks.advance(frame, left.length);
    if (this.clicking) for (const c of clicks) this.mixer.start(c.voice, c.velocity, Math.max(0, c.frame - frame), c.colour);
    for (const a of this.auditions.splice(0)) this.mixer.start(a.sound, a.velocity, 0, a.colour);
    this.mixer.render(left, right);
    this.frame = frame + left.length;
    return onsets;
  }
}
