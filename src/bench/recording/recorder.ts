import { createStore, type StoreApi } from 'zustand/vanilla';
import { clickProgram } from '@/core/playback/clicks';
import { makeProgram } from '@/core/playback/program';
import { writtenPerformance } from '@/core/perform/perform';
import { ticksOfBars } from '@/core/commands/settings';
import { meterMapOf, tempoMapOf } from '@/core/part/part-time';
import type { Hit, HitId, Part } from '@/core/model/part';
import { hitsInRange } from '@/core/homes/ticks-range';
import { foldTake, isRecorded, recordedStrokes, TakeFolder, type FoldedStroke } from '@/core/take/fold';
import { eventOfHit, hitsOfStrokes, withHits } from '@/core/take/hits-of-take';
import { measureLatency, MEASURED_BPM, MEASURED_CLICKS, MEASURED_GAP } from '@/core/take/latency';
import { throughCurve } from '@/core/velocity-curve';
import type { RawEvent, Take } from '@/core/model/take';
import { withoutTake } from '@/core/take/use-take';
import { seconds, ticks, TICKS_PER_QUARTER, type Seconds, type Velocity } from '@/core/units';
import { microsecondsOf } from '@/core/time/tempo-map';
import { playedByKey } from '@/core/breaks/rows';
import { PLAIN } from '@/core/playback/mixer';
import type { VoiceName } from '@/core/row-names';
import type { InputDevice, InputEvent } from '@/devices/input';
import type { Transaction } from '@/editing/document';
import type { SoundEngine } from '@/sound/engine';
import { freshInput, type InputSettings, type InputStore } from '@/storage/input-store';
import type { TakeStore } from '@/storage/take-store';
import { say } from '@/ui/notify';
import type { BenchStore } from '../store/bench-store';
import { newTake } from './new-take';
import { FRESH_RECORDING, type RecordingState } from './recording-state';

/** Everything that is recorded goes through here: from a device's event to raw events in the store and hits on the stems. */
export interface Recorder {
  state: StoreApi<RecordingState>;
  set(change: Partial<RecordingState>): void;
  /** Listens to a device instead of the one before. */
  connect(device: InputDevice): void;
  /** Changes what is known of the device, and keeps it. */
  tune(change: Partial<InputSettings>): void;
  /** Tells of each stroke's velocity as it came. */
  onStroke(listener: (velocity: number) => void): () => void;
  /** Tells of the next struck pad, which is not played; null forgets that. */
  learnPad(onKey: ((key: number) => void) | null): void;
  start(): void;
  /** Ends the recording and keeps it. */
  stop(): void;
  /** Takes the last recording away, from the part and from the takes; the result puts the take back. */
  discard(): Promise<(() => Promise<void>) | null>;
  /** Makes a take of what was played in the last minute without recording. */
  keepLastMinute(): Promise<boolean>;
  measure(): void;
  stopMeasuring(): void;
  /** Called when all is put away. */
  dispose(): void;
}

interface Deps {
  bench: BenchStore;
  engine: SoundEngine;
  takes: TakeStore;
  inputs: InputStore;
  /** Told of refusals. */
  onError: (e: unknown) => void;
  /** Starts playing the loop. */
  play: (lead: number) => void;
  /** A struck pad while step entry is on. */
  onStep: (key: number, velocity: Velocity, page: number) => void;
  /** A pad that calls a section, by its number from 1. */
  onCall: (section: number) => void;
}

/** Kept events reach the store at least so often. */
const FLUSH_MS = 400;
const LOOK_MS = 40;
/** A pass is closed so long after its end: early strokes of the next belong to that. */
const CLOSE_SECONDS = 0.06;
const LAST_MINUTE_SECONDS = 60;
/** Between a measurement's start and the first click that counts; two clicks count in. */
const MEASURE_LEAD = 1;

interface Running {
  take: Take;
  /** Rows that there were before, and hits whose place the recording took. */
  rowsBefore: ReadonlySet<VoiceName>;
  replaced: Map<HitId, Hit>;
  events: RawEvent[];
  kept: number;
  rows: number;
  /** Passes that are closed: their hits are steps of the history. */
  closed: number;
  timer: ReturnType<typeof setInterval>;
  flushed: number;
  writing: Promise<void>;
  refused: boolean;
  /** The edit of the pass that is played in, and how many events it has shown. */
  edit: Transaction<Part> | null;
  shown: number;
  /** Recorded strokes so far; those before `open` are of closed passes. */
  folder: TakeFolder;
  strokes: FoldedStroke[];
  open: number;
  /** Events from here on are shown: those before were kept by another action, or taken back by an undo. */
  from: number;
  /** The music was heard to start. */
  heard: boolean;
}

export function createRecorder({ bench, engine, takes, inputs, onError, play, onStep, onCall }: Deps): Recorder {
  const state = createStore<RecordingState>(() => FRESH_RECORDING);
  const set = (change: Partial<RecordingState>) => state.setState(change);
  const known = (): InputSettings => state.getState().input;
  let unlisten: () => void = () => {};
  let running: Running | null = null;
  let measuring: { taps: Seconds[]; timer: ReturnType<typeof setInterval> } | null = null;
  /** What was played lately, recording or not, with the start of the playing that it belongs to. */
  let recent: { at: Seconds; startedAt: Seconds | null; event: InputEvent }[] = [];
  let struck = 0;
  const loopOf = (part: Part) => {
    const { transport } = bench.getState();
    return transport.loop ? ticksOfBars(part, transport.fromBar, transport.toBar) : ticksOfBars(part, 0, part.bars);
  };
  let device: InputDevice | null = null;
  const strokeListeners = new Set<(velocity: number) => void>();
  /** Told of the next struck key alone. */
  let learning: ((key: number) => void) | null = null;

  const onEvent = (event: InputEvent) => {
    const at = engine.heardAt(event.page);
    const input = known();
    if (event.kind === 'note' && learning) {
      const learn = learning;
      learning = null;
      return learn(event.key);
    }
    const called = input.calls?.[event.key];
    if (called !== undefined) return event.kind === 'note' ? onCall(called) : undefined;
    const key = input.pads?.[event.key] ?? event.key;
    recent = [...recent.filter((r) => r.at > at - LAST_MINUTE_SECONDS), { at, startedAt: engine.startedAt, event }];
    if (event.kind === 'note') {
      set({ struck: { key, n: ++struck } });
      for (const listener of strokeListeners) listener(event.value);
      if (measuring) return void measuring.taps.push(at);
      const { part } = bench.getState();
      const { voice, piece } = playedByKey(part, key, state.getState().pieces ?? undefined);
      if (state.getState().monitor) void engine.audition(part, voice, throughCurve(input.curve, event.value), { ...PLAIN, ...(piece === undefined ? {} : { take: piece }) }).catch(onError);
      if (state.getState().stepEntry && !running) return onStep(key, throughCurve(input.curve, event.value), event.page);
    }
    const start = engine.startedAt;
    if (!running || start === null) return;
    running.events.push({ at: seconds(at - start), kind: event.kind, key: event.key, value: event.value });
    show();
  };

  /** Hits of the strokes of a pass laid into the part. */
  const laid = (r: Running, base: Part, strokes: readonly FoldedStroke[]): Part => {
    const { mode, rows } = state.getState();
    const hits = hitsOfStrokes(base, r.take, strokes, rows.size > 0 ? rows : undefined);
    if (mode === 'layer' || hits.length === 0) return withHits(base, hits);
    const inLoop = hitsInRange(base, r.take);
    const goes = (h: Hit): boolean => inLoop.has(h.id) && (rows.size === 0 || rows.has(h.voice));
    for (const h of base.hits) if (goes(h) && eventOfHit(h.id)?.take !== r.take.id) r.replaced.set(h.id, h);
    return withHits(base, hits, (h: Hit) => !goes(h));
  };

  /** Shows what the pass that is not closed holds; one edit each. */
  const show = () => {
    const r = running;
    if (!r) return;
    const { passes } = state.getState();
    while (r.shown < r.events.length) {
      const stroke = r.folder.add(r.events[r.shown++] as RawEvent);
      if (stroke && isRecorded(stroke, passes)) r.strokes.push(stroke);
    }
    set({ strokes: r.strokes.length });
    // Strokes of a pass come one after the other: those before the first that is open stay closed.
    while ((r.strokes[r.open]?.pass ?? Infinity) < r.closed) r.open++;
    const open = r.strokes.slice(r.open).filter((s) => s.pass === r.closed && s.event >= r.from);
    if (open.length === 0) return;
    r.edit ??= bench.getState().open(`Record pass ${r.closed + 1}`, 'record', () => {
      // What else was done meanwhile has ended it: what it had is in the part, or was taken back. Either stays so.
      r.edit = null;
      r.from = r.shown;
    });
    r.edit.preview((base) => laid(r, base, open));
  };

  const look = () => {
    const r = running;
    if (!r) return;
    const start = engine.startedAt;
    // Stopped by the transport: that ends the recording too.
    if (start === null) return r.heard ? recorder.stop() : undefined;
    r.heard = true;
    if (!sameTime(r.take)) {
      recorder.stop();
      return say('The tempo, the meter or the loop changed: the recording was ended and kept.');
    }
    const tempo = tempoMapOf(r.take);
    const length = tempo.toSeconds(r.take.end) - tempo.toSeconds(r.take.start);
    const place = engine.heardNow() - start;
    if (place >= 0 && state.getState().phase === 'counting') {
      set({ phase: 'recording' });
      // Clicks that only count in are over.
      if (!state.getState().clicking) engine.setClicks(null);
    }
    const late = place - r.take.latencyMs / 1000 - CLOSE_SECONDS;
    while (late > (r.closed + 1) * length) closePass(r);
    const { passes } = state.getState();
    if (passes > 0 && r.closed >= passes) return recorder.stop();
    if (performance.now() - r.flushed > FLUSH_MS) void flush(r);
  };

  /** A take has one loop and one tempo map. */
  const sameTime = (take: Take): boolean => {
    const { part } = bench.getState();
    const { start, end } = loopOf(part);
    return part.tempo === take.tempo && part.meter === take.meter && part.origin === take.origin && start === take.start && end === take.end;
  };

  const endEdit = (r: Running) => {
    r.edit?.commit();
    r.edit = null;
  };

  const closePass = (r: Running) => {
    show();
    endEdit(r);
    r.closed++;
    set({ pass: r.closed });
    // What came early for the next pass shows now.
    show();
  };

  /** Writes what came since; one write after the other, and what was refused is tried again with the next. */
  const flush = (r: Running): Promise<void> => {
    r.flushed = performance.now();
    r.writing = r.writing.then(async () => {
      const until = r.events.length;
      if (until === r.kept) return;
      try {
        await takes.append(r.take.id, r.rows, r.events.slice(r.kept, until));
        r.kept = until;
        r.rows++;
        r.refused = false;
      } catch (e) {
        // Told once, not at every try.
        if (!r.refused) onError(e);
        r.refused = true;
      }
    });
    return r.writing;
  };

  const nextName = async (): Promise<string> => `Take ${(await takes.list(bench.getState().id)).length + 1}`;

  const begin = async () => {
    const { part, transport } = bench.getState();
    if (!transport.loop) bench.getState().setTransport({ loop: true, fromBar: 0, toBar: part.bars });
    const take = newTake(part, loopOf(part), await nextName(), device?.name ?? 'unknown', state.getState());
    await takes.begin(bench.getState().id, take);
    const range = { start: take.start, end: take.end, loop: true };
    const { countIn, click, clicking } = state.getState();
    const lead = meterMapOf(part).barAt(take.start).length * countIn;
    const leadSeconds = Math.max(0.1, (tempoMapOf(part).toSeconds(ticks(take.start)) - tempoMapOf(part).toSeconds(ticks(take.start - lead))));
    engine.setClicks(clicking || countIn > 0 ? clickProgram(part, range, click, engine.rowsOf(part)) : null);
    running = { take, rowsBefore: new Set(part.rows.map((row) => row.voice)), replaced: new Map(), events: [], kept: 0, rows: 0, closed: 0, flushed: performance.now(), writing: Promise.resolve(), refused: false, timer: setInterval(look, LOOK_MS), edit: null, shown: 0, folder: new TakeFolder(take), strokes: [], open: 0, from: 0, heard: false };
    set({ phase: 'counting', take, pass: 0, strokes: 0 });
    bench.setState({ recording: true });
    engine.stop();
    play(leadSeconds);
  };

  const halt = () => {
    const r = running;
    if (!r) return null;
    clearInterval(r.timer);
    show();
    endEdit(r);
    running = null;
    bench.setState({ recording: false });
    engine.stop();
    engine.setClicks(null);
    return r;
  };

  const finish = async (r: Running) => {
    await flush(r);
    const strokes = recordedStrokes(foldTake(r.take, r.events), state.getState().passes);
    const passes = strokes.reduce((most, s) => Math.max(most, s.pass + 1), 0);
    if (r.events.length === 0) {
      await takes.remove(r.take.id);
      return set({ phase: 'idle', take: null });
    }
    const take = { ...r.take, passes, complete: true };
    await takes.update(take);
    set({ phase: 'done', take });
  };

  let last: Running | null = null;

  const recorder: Recorder = {
    state,
    set,
    connect(next) {
      unlisten();
      device = next;
      unlisten = next.listen(onEvent);
      const blank = freshInput(next.id);
      set({ input: blank, found: null });
      // What was tuned meanwhile counts more than what was kept.
      inputs.load(next.id).then((kept) => known() === blank && set({ input: kept }), onError);
    },
    tune(change) {
      set({ input: { ...known(), ...change } });
      inputs.save(known()).catch(onError);
    },
    onStroke(listener) {
      strokeListeners.add(listener);
      return () => strokeListeners.delete(listener);
    },
    learnPad: (onKey) => {
      learning = onKey;
    },
    start() {
      if (running) return;
      recorder.stopMeasuring();
      begin().catch(onError);
    },
    stop() {
      const r = halt();
      if (!r) return;
      last = r;
      finish(r).catch(onError);
    },
    async discard() {
      const r = last;
      last = null;
      set({ phase: 'idle', take: null });
      if (!r) return null;
      bench.getState().run('Delete the take', (p) => withoutTake(p, r.take.id, [...r.replaced.values()], r.rowsBefore));
      return takes.remove(r.take.id);
    },
    async keepLastMinute() {
      const { part, id } = bench.getState();
      const played = recent.filter((p) => p.event.kind === 'note');
      if (played.length === 0) return false;
      const first = played[0] as (typeof played)[number];
      const origin = first.startedAt ?? first.at;
      const take: Take = { ...newTake(part, loopOf(part), await nextName(), device?.name ?? 'unknown', state.getState()), complete: true };
      const tempo = tempoMapOf(part);
      const length = tempo.toSeconds(take.end) - tempo.toSeconds(take.start);
      // Whole passes are taken off, so that what was played long after the start is not in pass a hundred.
      const skipped = Math.floor((first.at - origin) / length) * length;
      const events = recent.map(({ at, startedAt, event }): RawEvent => ({ at: seconds(at - (startedAt ?? origin) - (startedAt === first.startedAt ? skipped : 0)), kind: event.kind, key: event.key, value: event.value }));
      const passes = recordedStrokes(foldTake(take, events)).reduce((most, s) => Math.max(most, s.pass + 1), 0);
      await takes.begin(id, { ...take, passes });
      await takes.append(take.id, 0, events);
      recent = [];
      return true;
    },
    measure() {
      if (running || measuring) return;
      engine.stop();
      const quiet: Part = { ...bench.getState().part, hits: [], tempo: [{ tick: ticks(0), microsecondsPerQuarter: microsecondsOf(MEASURED_BPM) }], meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }], origin: ticks(0), bars: 4 };
      const range = { start: ticks(0), end: ticks(MEASURED_CLICKS * TICKS_PER_QUARTER), loop: true };
      const silence = makeProgram(quiet, writtenPerformance(quiet), range, () => 0, engine.rowsOf(quiet), engine.ownSounds);
      engine.setPrograms({ performed: silence, written: silence });
      engine.setClicks(clickProgram(quiet, range, { ...state.getState().click, perBeat: 1 }, engine.rowsOf(quiet)));
      const timer = setInterval(() => {
        const start = engine.startedAt;
        const m = measuring;
        if (start === null || !m) return;
        const heard = Math.floor((engine.heardNow() - start) / MEASURED_GAP) + 1;
        set({ measuring: { clicks: Math.max(0, Math.min(MEASURED_CLICKS, heard)), taps: m.taps.length } });
        if (heard <= MEASURED_CLICKS) return;
        const clicks = Array.from({ length: MEASURED_CLICKS }, (_, i) => seconds(start + i * MEASURED_GAP));
        const found = measureLatency(clicks, m.taps);
        recorder.stopMeasuring();
        set({ found: found ?? false });
        if (found) recorder.tune({ latencyMs: Math.round(found.latencyMs * 10) / 10, spreadMs: found.spreadMs });
      }, LOOK_MS);
      measuring = { taps: [], timer };
      set({ measuring: { clicks: 0, taps: 0 }, found: null });
      engine.play(ticks(0), MEASURE_LEAD).catch(onError);
    },
    stopMeasuring() {
      if (!measuring) return;
      clearInterval(measuring.timer);
      measuring = null;
      engine.stop();
      engine.setClicks(null);
      set({ measuring: null });
    },
    dispose() {
      recorder.stopMeasuring();
      const r = halt();
      if (r) finish(r).catch(onError);
      unlisten();
    },
  };
  return recorder;
}
