import { TempoMap } from '../time/tempo-map';
import { seconds, ticks, type Ticks } from '../units';
import type { RenderedStroke } from '../synth/stroke';
import { Mixer, PLAIN, type Colour, type Sound } from './mixer';
import type { Program } from './program';
import { PRE_ROLL_SECONDS, Sequencer, type ScheduledHit } from './sequencer';

/** What is heard: the feel, the written part, or another feel to compare with. */
export type ProgramVersion = 'performed' | 'written' | 'other';

/** A program for each version, and how loud each is played. */
export interface Versions {
  performed: Program;
  written: Program;
  other?: Program;
  /** Factors that make versions equally loud; 1 without. */
  gains?: Partial<Record<ProgramVersion, number>>;
}

/** When something else takes over from what plays. */
export type When = 'anywhere' | 'bar' | 'end';

/** What plays next: a loop, under a name. */
export interface QueuedLoop {
  name: string;
  versions: Versions;
  when: When;
}

/** Where playback is: enough for a screen to compute the playhead at any later moment. */
export interface PlayState {
  playing: boolean;
  /** The clock runs evenly since the start: the anchor stays where it is. */
  settled: boolean;
  anchorFrame: number;
  /** Factor for the program's durations; 1 is its own tempo. */
  stretch: number;
  version: ProgramVersion;
  /** What plays, by name. */
  name: string;
  /** What comes next, and the frame at which it does. */
  next: { name: string; frame: number } | null;
}

/** Where the clock went on without sound being asked for: from the frame that was due to the one that came. */
export interface Jump {
  from: number;
  to: number;
}

interface Start {
  fromTick: Ticks;
  /** In seconds. */
  lead: number;
}

/** What takes over, once it is known when. */
interface Coming {
  name: string;
  versions: Versions;
  sequencer: Sequencer;
  frame: number;
  /** It has not been asked for hits yet: early ones that are past already start at once. */
  fresh: boolean;
}

/** So many blocks the clock must run evenly before a start stands: a device that has just been woken jumps right after its first. */
const SETTLING_BLOCKS = 8;

/** What was left plays hits that are late for so long, in seconds. */
const LATE_SECONDS = 1;

/** Sequencer and mixer as one: plays the performed or the written program and starts each hit at its sample. */
export class Player {
  private sequencer: Sequencer;
  private name = '';
  private queue: readonly QueuedLoop[] = [];
  private coming: Coming | null = null;
  /** What was left, until its late hits have sounded. */
  private leaving: { sequencer: Sequencer; until: number }[] = [];
  /** Clicks beside the music, in the same time. */
  private readonly clicks: Sequencer;
  private clicking = false;
  private readonly mixer: Mixer;
  private versions: Versions | null = null;
  private version: ProgramVersion = 'performed';
  private auditions: { sound: number; velocity: number; colour: Colour }[] = [];
  /** The next frame that is mixed: so far ahead of what leaves as the limiter looks. */
  private frame = 0;
  private stretch = 1;
  private jumps: Jump[] = [];
  /** Playing that starts with the next block: the clock may jump until it comes. */
  private starting: Start | null = null;
  /** A start that a jump of the clock would still put off, and the blocks until it stands. */
  private settling: { start: Start; blocks: number } | null = null;

  constructor(
    private readonly sampleRate: number,
    sounds: readonly Sound[],
  ) {
    this.sequencer = new Sequencer(sampleRate);
    this.clicks = new Sequencer(sampleRate);
    this.mixer = new Mixer(sampleRate, sounds);
  }

  /** Gives a row's number its sound, or another. */
  setSound(index: number, sound: Sound) {
    this.mixer.setSound(index, sound);
  }

  /** A stroke of a sound that is ready now, or is not kept any longer. */
  setStroke(index: number, layer: number, take: number, stroke: RenderedStroke | undefined) {
    this.mixer.setStroke(index, layer, take, stroke);
  }

  /** How far the level was turned down since it was last asked: 1 is not at all. */
  takeLimited(): number {
    return this.mixer.takeLimited();
  }

  /** Jumps of the clock while playing, since they were last asked for: hits in them are late or lost. */
  takeJumps(): Jump[] {
    return this.jumps.splice(0);
  }

  setVolume(volume: number) {
    this.mixer.volume = volume;
  }

  /** Replaces all versions; the one being heard changes at the next due moment of each hit. What does not play any more is not replaced. */
  setPrograms(versions: Versions, name = '') {
    if (this.sequencer.isPlaying && name !== this.name) return;
    this.versions = versions;
    this.name = name;
    this.useProgram();
  }

  /** What takes over, one after another; an empty list takes all back. What is there already under its name is only brought up to date. */
  setQueue(queue: readonly QueuedLoop[]) {
    this.queue = queue;
    const [first] = queue;
    const { coming } = this;
    if (!coming) return;
    if (first?.name === coming.name) {
      coming.versions = first.versions;
      coming.sequencer.setProgram(first.versions[this.version] ?? first.versions.performed, this.frame);
      return;
    }
    this.coming = null;
    this.sequencer.endAt(Infinity);
  }

  /** Decides when the first of the queue takes over. */
  private cue(frame: number) {
    const [first] = this.queue;
    if (!first || this.coming || !this.sequencer.isPlaying) return;
    const at = first.when === 'anywhere' ? frame : this.sequencer.leavingFrame(frame, first.when);
    const sequencer = new Sequencer(this.sampleRate);
    sequencer.setStretch(this.stretch, frame);
    const program = first.versions[this.version] ?? first.versions.performed;
    sequencer.setProgram(program, frame);
    const tempo = new TempoMap(program.tempo);
    const start = tempo.toSeconds(program.startTick);
    const bar = (program.bars[1] ?? program.length) * (first.when === 'anywhere' ? this.sequencer.placeInBar(frame) : 0);
    sequencer.play(bar === 0 ? program.startTick : tempo.toTicks(seconds(start + bar)), at, 0);
    this.sequencer.endAt(at);
    this.coming = { name: first.name, versions: first.versions, sequencer, frame: at, fresh: true };
  }

  /** What was to come plays now. */
  private takeOver(frame: number) {
    const { coming } = this;
    if (!coming || coming.frame >= frame) return;
    this.leaving.push({ sequencer: this.sequencer, until: coming.frame + LATE_SECONDS * this.sampleRate });
    this.sequencer = coming.sequencer;
    this.versions = coming.versions;
    this.name = coming.name;
    this.queue = this.queue.slice(1);
    this.coming = null;
    const program = this.versions[this.version] ?? this.versions.performed;
    this.mixer.setMix(program.mix);
    this.mixer.gain = this.versions.gains?.[this.version] ?? 1;
  }

  /** Scales all durations from the next block on: over 1 is slower. */
  setStretch(stretch: number) {
    this.stretch = stretch;
    const all = [this.sequencer, this.clicks, ...this.leaving.map((l) => l.sequencer), ...(this.coming ? [this.coming.sequencer] : [])];
    for (const sequencer of all) sequencer.setStretch(stretch, this.frame);
  }

  setVersion(version: ProgramVersion) {
    if (version === this.version) return;
    this.version = version;
    this.useProgram();
  }

  private useProgram() {
    if (this.coming) this.coming.sequencer.setProgram(this.coming.versions[this.version] ?? this.coming.versions.performed, this.frame);
    if (!this.versions) return;
    const program = this.versions[this.version] ?? this.versions.performed;
    this.sequencer.setProgram(program, this.frame);
    this.mixer.setMix(program.mix);
    this.mixer.gain = this.versions.gains?.[this.version] ?? 1;
  }

  /** What clicks; null for silence. Their program must have the loop and the tempo of what is played. */
  setClicks(program: Program | null) {
    const wasClicking = this.clicking;
    this.clicking = program !== null;
    if (!program) return;
    this.clicks.setProgram(program, this.frame);
    // Switched on in the midst of the music: in step with what plays.
    if (!wasClicking && this.sequencer.isPlaying && this.frame > this.sequencer.anchorFrame)
      this.clicks.play(this.sequencer.positionAt(this.frame), this.frame, 0);
  }

  /** @param lead seconds from the next block until the start: with clicks it is counted in */
  play(fromTick: Ticks, lead: number = PRE_ROLL_SECONDS) {
    this.starting = { fromTick, lead };
  }

  private begin(frame: number) {
    // Nothing has sounded yet: it begins when the clock has jumped, and loses nothing.
    if (this.settling && frame > this.frame) this.starting = this.settling.start;
    if (!this.starting) return;
    const { fromTick, lead } = this.starting;
    this.settling = { start: this.starting, blocks: SETTLING_BLOCKS };
    this.starting = null;
    this.frame = frame;
    this.mixer.forgetTakes();
    this.leaving = [];
    this.coming = null;
    // What is mixed now leaves later by as much as the limiter looks ahead.
    // A count-in begins with the first frame that can be heard: it has nothing to spare.
    const early = lead > PRE_ROLL_SECONDS ? lead : Math.max(0, lead - this.mixer.latency / this.sampleRate);
    this.sequencer.play(fromTick, frame, early);
    this.clicks.play(fromTick, frame, early, true);
  }

  /** After a block: the clock ran evenly, or something sounded and the start stands as it is. */
  private settle(sounded: boolean) {
    if (this.settling && (sounded || --this.settling.blocks <= 0)) this.settling = null;
  }

  stop() {
    this.starting = null;
    this.settling = null;
    this.queue = [];
    this.coming = null;
    this.leaving = [];
    this.sequencer.stop();
    this.clicks.stop();
    this.mixer.silence();
  }

  /** Sounds a voice with the next block. */
  audition(sound: number, velocity: number, colour: Colour = PLAIN) {
    this.auditions.push({ sound, velocity, colour });
  }

  get state(): PlayState {
    const { coming } = this;
    return {
      playing: this.sequencer.isPlaying,
      settled: this.settling === null,
      anchorFrame: this.sequencer.anchorFrame,
      stretch: this.stretch,
      version: this.version,
      name: this.name,
      next: coming && { name: coming.name, frame: coming.frame },
    };
  }

  positionAt(frame: number): Ticks {
    return this.sequencer.isPlaying ? this.sequencer.positionAt(frame) : ticks(0);
  }

  /**
   * Renders the block that starts at the frame `heard`. Where the clock has jumped since the last block, what fell into the last tenth of a
   * second of the jump starts at once: a late hit is better than a lost one, a burst of them is not.
   * @returns the hits that start in it
   */
  render(left: Float32Array, right: Float32Array, heard: number): ScheduledHit[] {
    const frame = heard + this.mixer.latency;
    this.begin(frame);
    if (frame > this.frame && this.sequencer.isPlaying) this.jumps.push({ from: this.frame, to: frame });
    const jumped = Math.min(Math.max(0, frame - this.frame), PRE_ROLL_SECONDS * this.sampleRate);
    this.cue(frame);
    const onsets = [this.sequencer, ...this.leaving.map((l) => l.sequencer)].flatMap((s) => s.advance(frame, left.length, jumped));
    if (this.coming) {
      onsets.push(...this.coming.sequencer.advance(frame, left.length, this.coming.fresh ? PRE_ROLL_SECONDS * this.sampleRate : jumped));
      this.coming.fresh = false;
    }
    this.leaving = this.leaving.filter((l) => l.until > frame);
    this.takeOver(frame + left.length);
    for (const onset of onsets) this.mixer.start(onset.voice, onset.velocity, Math.max(0, onset.frame - frame), onset.colour);
    const clicks = this.clicks.advance(frame, left.length);
    if (this.clicking) for (const c of clicks) this.mixer.start(c.voice, c.velocity, Math.max(0, c.frame - frame), c.colour);
    this.settle(onsets.length > 0 || (this.clicking && clicks.length > 0));
    for (const a of this.auditions.splice(0)) this.mixer.start(a.sound, a.velocity, 0, a.colour);
    this.mixer.render(left, right);
    this.frame = frame + left.length;
    return onsets;
  }
}
