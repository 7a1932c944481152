import { struckLayers } from '@/core/playback/kit-sounds';
import { AHEAD_SECONDS } from '@/core/playback/limiter';
import { PLAIN, tonedVelocity, type Colour } from '@/core/playback/mixer';
import type { QueuedLoop, Jump, PlayState, ProgramVersion, Versions } from '@/core/playback/player';
import type { Program } from '@/core/playback/program';
import { rowMixOf } from '@/core/playback/row-mix';
import { layerAt, layersOfSource, nameOfSource, sourceOfRow } from '@/core/playback/sources';
import type { OwnSounds } from '@/core/model/own-sound';
import type { ScheduledHit } from '@/core/playback/sequencer';
import { ClockMap, type Stall } from '@/core/take/clock';
import { TempoMap } from '@/core/time/tempo-map';
import { seconds, type Seconds, type Ticks } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import { compareClocks } from './compare-clocks';
import { tickPlayedAt } from './place-in-program';
import { PLAYER_PROCESSOR, type FromPlayer, type ToPlayer } from './protocol';
import { handOver } from './hand-over';
import { StrokeMaker, type OwnSource } from './own-strokes';
import { StrokeCache, type MadeStroke } from './strokes';
import { type EngineRows, type Known, type NumberedRow, numbered } from './engine-rows';

/** The layer of this velocity is made first of each sound. */
const FIRST_VELOCITY = 100;

export type SoundStatus = 'off' | 'loading' | 'ready' | 'blocked' | 'failed';

/** Fixed, so that the kit can be rendered before the device is opened; the browser converts to the device's own rate. */
const SAMPLE_RATE = 44_100;

const CLICK_PART: EngineRows = { rows: [] };

const WORKLET_URL = '/worklet/player.js';
/** How many onsets the log keeps; at 16 hits a second more than an hour. */
const LOG_LIMIT = 60_000;

/** The page's end of the player: owns the audio context, sends programs and commands, knows where the playhead is. */
export class SoundEngine {
  /** Null until sound was asked for; what is heard beside the player connects to it. */
  context: AudioContext | null = null;
  private node: AudioWorkletNode | null = null;
  private starting: Promise<void> | null = null;
  /** Rows by the player's numbers, each with what plays it. */
  private readonly rows: NumberedRow[] = [];
  private readonly maker = new StrokeMaker(SAMPLE_RATE);
  /** Strokes that were made before the device was opened. */
  private readonly held: MadeStroke[] = [];
  private readonly strokes = new StrokeCache(
    this.maker.make,
    (made) => {
      if (this.node) this.send({ type: 'strokes', strokes: made });
      else this.held.push(...made);
      this.changed();
    },
    (source, layer, take) => this.send({ type: 'forget', source, layer, take }),
  );
  /** What plays and what is to come, by name. */
  private readonly known = new Map<string, Known>();
  /** The name of what was set last. */
  private latest = '';
  /** True while an external clock is followed: program times then differ from audio clock times. */
  isFollowing = false;
  private state: PlayState = { playing: false, settled: true, anchorFrame: 0, stretch: 1, version: 'performed', name: '', next: null };
  private clicks: Program | null = null;
  private readonly clock = new ClockMap();
  private readonly listeners = new Set<() => void>();
  private captured: ((m: Extract<FromPlayer, { type: 'captured' }>) => void) | null = null;
  status: SoundStatus = 'off';
  /** Every hit that started, in order: what tests and measurements read. */
  readonly log: ScheduledHit[] = [];
  /** Every jump of the audio clock while playing: what a busy machine did to the sound. */
  readonly jumps: Jump[] = [];

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  private changed(status?: SoundStatus) {
    if (status) this.status = status;
    for (const listener of this.listeners) listener();
  }

  get isPlaying(): boolean {
    return this.state.playing;
  }

  get sampleRate(): number {
    return SAMPLE_RATE;
  }

  /**
   * Opens the audio device and loads what was asked for of the kit; called again it only wakes the device. Must come from a user's action.
   */
  start(): Promise<void> {
    this.starting ??= this.open().catch((e: unknown) => {
      this.starting = null;
      this.changed('failed');
      throw e;
    });
    return this.starting.then(() => this.wake());
  }

  private async open() {
    this.changed('loading');
    const context = new AudioContext({ latencyHint: 'interactive', sampleRate: SAMPLE_RATE });
    this.context = context;
    await context.audioWorklet.addModule(WORKLET_URL);
    const node = new AudioWorkletNode(context, PLAYER_PROCESSOR, { numberOfInputs: 0, outputChannelCount: [2] });
    node.port.onmessage = (event: MessageEvent<FromPlayer>) => this.receive(event.data);
    node.connect(context.destination);
    this.node = node;
    context.onstatechange = () => this.changed(context.state === 'running' ? 'ready' : 'blocked');
    this.send({ type: 'sounds', sounds: this.rows.map(numbered) });
    this.send({ type: 'strokes', strokes: this.held.splice(0) });
    await this.strokes.firstReady();
    const latest = this.known.get(this.latest);
    if (latest) this.send({ type: 'programs', versions: latest.versions, name: this.latest });
    if (this.clicks) this.send({ type: 'clicks', program: this.clicks });
    compareClocks(
      () => this.context,
      this.clock,
      () => this.now,
    );
  }

  /** Where the audio clock fell behind while the machine stalled, in ms of the page's clock. */
  get stalls(): readonly Stall[] {
    return this.clock.stalls;
  }

  /** The audio clock's time that was heard at a moment of the page's clock (ms, as devices stamp). */
  heardAt(page: number): Seconds {
    return this.clock.isKnown ? this.clock.toAudio(page) : seconds(this.now + (page - performance.now()) / 1000);
  }

  /** The audio clock's time that is heard now. */
  heardNow(): Seconds {
    return this.heardAt(performance.now());
  }

  /** The moment of the page's clock at which an audio time is heard. */
  pageTimeOf(audio: Seconds): number {
    return this.clock.isKnown ? this.clock.toPage(audio) : performance.now() + (audio - this.now) * 1000;
  }

  /** From what is asked for to what is heard, in ms; null before there is sound. */
  get delayMs(): number | null {
    const c = this.context;
    return c ? (c.outputLatency || c.baseLatency || 0) * 1000 + AHEAD_SECONDS * 1000 : null;
  }

  /**
   * What plays now, for those who send it elsewhere: the version that is heard, and where its first pass started; null until that is sure.
   */
  get sounding(): { program: Program; anchorFrame: number } | null {
    const versions = this.known.get(this.state.name)?.versions;
    if (!this.state.playing || !this.state.settled || !versions || this.isFollowing) return null;
    return { program: versions[this.state.version] ?? versions.performed, anchorFrame: this.state.anchorFrame };
  }

  /** When the first pass started, or will start, on the audio clock; null while stopped, and while another clock is followed. */
  get startedAt(): Seconds | null {
    return this.state.playing && this.context && !this.isFollowing ? seconds(this.state.anchorFrame / this.context.sampleRate) : null;
  }

  private async wake() {
    if (!this.context) return;
    // A blocked page leaves resume() pending for ever: do not wait for it.
    void this.context.resume();
    this.changed(this.context.state === 'running' ? 'ready' : 'blocked');
  }

  /** Renders the sounds of a part's rows in the background, so that the first Play need not wait for them. */
  prepare(part: EngineRows) {
    this.strokes.need(
      part.rows
        .map(({ voice }) => this.rows[this.rowIndex(part, voice)]!)
        .map(({ source, layers }) => ({ source, layers: [layerAt(layers, FIRST_VELOCITY)] })),
      { takes: 1 },
    );
  }

  /** Which sounds of the user's own there are; programs made from now on use them. */
  setOwn(own: OwnSource) {
    this.maker.own = own;
  }

  get ownSounds(): OwnSounds {
    return this.maker.own.sounds;
  }

  /** The player's numbers for a part's rows. */
  rowsOf =
    (part: EngineRows) =>
    (row: VoiceName): number =>
      this.rowIndex(part, row);

  private rowIndex(part: EngineRows, row: VoiceName): number {
    const source = sourceOfRow(part, row, this.maker.own.sounds);
    const name = nameOfSource(source);
    const index = this.rows.findIndex(
      (r) =>
        r.row === row &&
        r.name === name &&
        r.source.level === source.level &&
        r.source.own?.cut === source.own?.cut &&
        r.source.voice === source.voice,
    );
    if (index >= 0) return index;
    const made = { row, source, name, layers: layersOfSource(source) };
    this.rows.push(made);
    this.send({ type: 'sounds', sounds: [numbered(made, this.rows.length - 1)] });
    return this.rows.length - 1;
  }

  /** The player's numbers for the click's tones: always the first kit's, whatever plays the part. */
  clickRows = (row: VoiceName): number => this.rowIndex(CLICK_PART, row);

  /** K-weighted level of a row's hardest stroke, in dB. */
  levelOf = (index: number): number => this.rows[index]?.source.level ?? 0;
  /** How many strokes are still being made; until then the nearest stand in. */
  get strokesLeft(): number {
    return this.strokes.left;
  }
  /** All strokes of what plays are ready: what is heard is what an export has. */
  allReady(): Promise<void> {
    return this.strokes.allReady();
  }

  private send(message: ToPlayer, transfer: Transferable[] = []) {
    this.node?.port.postMessage(message, transfer);
  }

  private receive(message: FromPlayer) {
    if (message.type === 'state') {
      this.state = message.state;
      this.changed();
    } else if (message.type === 'meter') {
      this.level = message;
      for (const listener of this.levelListeners) listener();
    } else if (message.type === 'onsets') {
      this.log.push(...message.onsets);
      if (this.log.length > LOG_LIMIT) this.log.splice(0, this.log.length - LOG_LIMIT);
      for (const listener of this.onsetListeners) listener(message.onsets);
    } else if (message.type === 'jumps') {
      this.jumps.push(...message.jumps);
      if (this.jumps.length > LOG_LIMIT) this.jumps.splice(0, this.jumps.length - LOG_LIMIT);
    } else this.captured?.(message);
  }

  /** How loud the last twentieth of a second was: peaks, and how far the limiter turned down. */
  level = { left: 0, right: 0, limited: 1 };
  private readonly levelListeners = new Set<() => void>();

  onLevel = (listener: () => void): (() => void) => {
    this.levelListeners.add(listener);
    return () => this.levelListeners.delete(listener);
  };

  private readonly onsetListeners = new Set<(onsets: readonly ScheduledHit[]) => void>();

  /** Told of each hit when the audio thread starts it. */
  onOnsets(listener: (onsets: readonly ScheduledHit[]) => void): () => void {
    this.onsetListeners.add(listener);
    return () => this.onsetListeners.delete(listener);
  }

  /**
   * Sets what plays, by name; while something else plays it is only what comes after a stop.
   * @param tickOf the part's tick of a program's, where these differ
   */
  setPrograms(versions: Versions, name = '', tickOf?: (tick: Ticks) => Ticks) {
    this.latest = name;
    this.know(name, versions, tickOf);
    // Who only edits needs no strokes: they are asked for when the sound is.
    if (this.starting !== null) this.needForAll();
    const handed = handOver(versions);
    this.send({ type: 'programs', versions: handed.versions, name }, handed.transfer);
  }

  /** Sets what takes over, one after another; nothing with an empty list. */
  setQueue(queue: readonly (QueuedLoop & { tickOf?: (tick: Ticks) => Ticks })[]) {
    for (const { name, versions, tickOf } of queue) this.know(name, versions, tickOf);
    const needed = new Set([this.state.name, this.latest, ...queue.map((c) => c.name)]);
    for (const name of this.known.keys()) if (!needed.has(name)) this.known.delete(name);
    if (this.starting !== null) this.needForAll();
    const handed = queue.map(({ name, versions, when }) => ({ name, when, ...handOver(versions) }));
    this.send(
      { type: 'queue', queue: handed.map(({ name, when, versions }) => ({ name, when, versions })) },
      handed.flatMap((h) => h.transfer),
    );
  }

  private know(name: string, versions: Versions, tickOf: ((tick: Ticks) => Ticks) | undefined) {
    this.known.set(name, { versions, tempo: new TempoMap(versions.performed.tempo), tickOf });
  }

  /** What plays, by name, and what comes next: its name, and in how many seconds. */
  get playing(): { name: string; next: { name: string; seconds: number } | null } | null {
    const { playing, name, next } = this.state;
    if (!playing) return null;
    return { name, next: next && { name: next.name, seconds: next.frame / SAMPLE_RATE - this.now } };
  }

  /** Asks for the strokes that programs strike, and lets go of those that none does. */
  private needForAll() {
    const programs = [...this.known.values()].flatMap(({ versions: { performed, written, other } }) => [
      performed,
      written,
      ...(other ? [other] : []),
    ]);
    if (this.clicks) programs.push(this.clicks);
    const all = programs.map((program) => struckLayers(program, (n) => this.rows[n]!.layers));
    const wanted = new Map<number, Set<number>>();
    for (const struck of all) for (const [index, layers] of struck) wanted.set(index, new Set([...(wanted.get(index) ?? []), ...layers]));
    this.strokes.need(
      [...wanted].map(([index, layers]) => ({ source: this.rows[index]!.source, layers: [...layers] })),
      { only: true },
    );
  }

  setVersion(version: ProgramVersion) {
    this.send({ type: 'version', version });
  }

  setVolume(volume: number) {
    this.send({ type: 'volume', volume });
  }

  /** Clicks beside the music; null for none. */
  setClicks(program: Program | null) {
    this.clicks = program;
    if (program && this.starting !== null) this.needForAll();
    this.send({ type: 'clicks', program });
  }

  /** @param lead seconds until the start, for a count-in; the usual pre-roll without it */
  async play(fromTick: Ticks, lead?: number) {
    this.needForAll();
    await this.start();
    await this.strokes.firstReady();
    this.send({ type: 'play', fromTick, ...(lead === undefined ? {} : { lead }) });
  }

  stop() {
    this.send({ type: 'stop' });
  }

  /** Sounds a row of a part once. */
  async audition(part: EngineRows, row: VoiceName, velocity: number, colour: Colour = PLAIN) {
    const sound = this.rowIndex(part, row);
    const { source, layers } = this.rows[sound]!;
    const { tone } = rowMixOf(part, row, this.maker.own.sounds);
    this.strokes.need([{ source, layers: [layerAt(layers, tonedVelocity(velocity, tone))] }]);
    await this.start();
    await this.strokes.firstReady();
    this.send({ type: 'audition', sound, velocity, colour });
  }

  /** The audio clock in seconds; the screen shows what is heard, so the device's delay is taken off. */
  get now(): number {
    const c = this.context;
    return c ? c.currentTime - (c.outputLatency || c.baseLatency || 0) : 0;
  }

  /** The tick that is heard now, or null while stopped. */
  position(): Ticks | null {
    return this.positionOf(this.now);
  }

  /** The tick that is heard at a moment of the page's clock; null while stopped. */
  positionHeardAt(page: number): Ticks | null {
    return this.positionOf(this.heardAt(page));
  }

  /** Scales durations to follow an external clock (over 1 is slower); null returns to the part's tempo. */
  setStretch(stretch: number | null) {
    this.isFollowing = stretch !== null;
    this.send({ type: 'stretch', stretch: stretch ?? 1 });
  }

  private positionOf(now: number): Ticks | null {
    const known = this.known.get(this.state.name);
    if (!this.state.playing || !known || !this.context) return null;
    return tickPlayedAt({ program: known.versions.performed, ...known }, this.state, this.context.sampleRate, now);
  }

  /** Records the coming seconds of the output as the audio thread makes it. */
  capture(length: number): Promise<{ firstFrame: number; samples: Float32Array; right: Float32Array }> {
    return new Promise((resolve) => {
      this.captured = resolve;
      this.send({ type: 'capture', frames: Math.ceil(length * this.sampleRate) });
    });
  }
}

let shared: SoundEngine | null = null;

/** The page's one engine. */
export const soundEngine = (): SoundEngine => (shared ??= new SoundEngine());
