import { createStore } from 'zustand/vanilla';
import { startTempo, ticksOfBars } from '@/core/commands/settings';
import { meterMapOf, tempoMapOf } from '@/core/part/part-time';
import type { Part } from '@/core/model/part';
import { foldTake, isRecorded, recordedStrokes, TakeFolder } from '@/core/take/fold';
import { hitIdOfEvent } from '@/core/take/hits-of-take';
import { throughCurve } from '@/core/velocity-curve';
import type { TakeEvent, Take } from '@/core/model/take';
import { deleteTake, withoutTake } from '@/core/take/use-take';
import { seconds, ticks, type Seconds } from '@/core/units';
import type { InputDevice, InputEvent } from '@/devices/input';
import { freshInput, type InputSettings } from '@/storage/input-store';
import { say } from '@/ui/notify';
import { takesFreeTake } from '@/core/take/free-take';
import { FreeRecording } from './free-recording';
import { HeldPads } from './held-pads';
import { takeOfRecent, type PlayedEvent } from './last-minute';
import { LatencyMeter } from './measuring';
import { Monitor } from './monitor';
import { newTake } from './new-take';
import { countInOf, FRESH_RECORDING, type RecordingState } from './recording-state';
import { laid, stallsOf, type Running } from './running';
import { type Recorder, type RecorderPorts } from './recorder-ports';

/** Kept events reach the store at least so often. */
const FLUSH_MS = 400;
const LOOK_MS = 40;
/** A pass is closed so long after its end: early strokes of the next belong to that. */
const CLOSE_SECONDS = 0.06;
const LAST_MINUTE_SECONDS = 60;

const NEEDS_EMPTY = 'Recording without a click needs an empty part. The grid is made from what you play.';

export function createRecorder(ports: RecorderPorts): Recorder {
  const { bench, engine, takes, inputs, onError, readLines, play, onStep, onCall, onCounted, finder } = ports;
  const state = createStore<RecordingState>(() => FRESH_RECORDING);
  const set = (change: Partial<RecordingState>) => state.setState(change);
  const known = (): InputSettings => state.getState().input;
  let unlisten: () => void = () => {};
  let running: Running | null = null;
  const measuring = new LatencyMeter({
    engine,
    state,
    partOf: () => bench.getState().part,
    onError,
    tune: (change) => recorder.tune(change),
  });
  /** What was played lately, recording or not, with the start of the playing that it belongs to. */
  let recent: PlayedEvent[] = [];
  let struck = 0;
  const loopOf = (part: Part) => {
    const { transport } = bench.getState();
    return transport.loop ? ticksOfBars(part, transport.fromBar, transport.toBar) : ticksOfBars(part, 0, part.bars);
  };
  let device: InputDevice | null = null;
  const heard = new Monitor({ engine, partOf: () => bench.getState().part, stateOf: () => state.getState(), onError });
  const listeners = new Set<(event: InputEvent) => void>();
  /** Told of the next struck key alone. */
  let learning: ((key: number) => void) | null = null;

  const free = new FreeRecording({
    bench,
    takes,
    state,
    silence: () => (engine.stop(), engine.start()),
    now: () => engine.heardNow(),
    nextName: () => nextName(),
    device: () => device?.name ?? 'unknown',
    onError,
    onPlaced: onCounted,
    finder,
  });

  const held = new HeldPads({ bench, engine, stateOf: () => state.getState(), onStroke: (event) => onEvent(event, true) });

  /** @param again struck by a pad that is held */
  const onEvent = (event: InputEvent, again = false) => {
    const at = engine.heardAt(event.page);
    const input = known();
    for (const listener of listeners) listener(event);
    if (!again) held.hear(event);
    // While pads go on striking, pressure is how hard.
    if (event.kind === 'pressure' && state.getState().holdGrid !== null) return;
    if (event.kind === 'note' && learning) {
      const learn = learning;
      learning = null;
      return learn(event.key);
    }
    const called = input.calls?.[event.key];
    if (called !== undefined) return event.kind === 'note' ? onCall(called) : undefined;
    const key = input.pads?.[event.key] ?? event.key;
    recent = [...recent.filter((r) => r.at > at - LAST_MINUTE_SECONDS), { at, startedAt: engine.startedAt, event }];
    if (event.kind !== 'note') heard.move(event, at);
    if (event.kind === 'note') {
      set({ struck: { key, n: ++struck } });
      if (measuring.isOn) return measuring.tap(at);
      heard.strike(event);
      if (state.getState().stepEntry && !running)
        return onStep(key, throughCurve(input.curves?.[event.key] ?? input.curve, event.value), event.page);
    }
    if (free.isOn) return free.hear({ ...event, key });
    const base = running && baseOf(running);
    if (!running || base === null) return;
    running.events.push({ at: seconds(at - base), kind: event.kind, key: event.key, value: event.value });
    show();
    // At once: a tab that is killed loses no stroke of the pass under way.
    void flush(running);
  };

  /** Shows what the pass that is not closed holds; one edit each. */
  const show = () => {
    const r = running;
    if (!r) return;
    const { passes } = state.getState();
    while (r.shown < r.events.length) {
      const stroke = r.folder.add(r.events[r.shown++] as TakeEvent);
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
    r.edit.preview((base) => laid(r, base, open, state.getState(), engine.position()));
  };

  /** What plays may be made anew meanwhile, as each pass of a loop that varies: the take goes on counting from where it began. */
  const baseOf = (r: Running): Seconds | null => (r.base ??= engine.startedAt);

  const look = () => {
    const r = running;
    if (!r) return;
    // Stopped by the transport: that ends the recording too.
    if (engine.startedAt === null) return r.heard ? recorder.stop() : undefined;
    const start = baseOf(r) as Seconds;
    r.heard = true;
    if (!sameTime(r.take)) {
      recorder.stop();
      return say('The tempo, the meter or the loop changed: the recording was ended and kept.');
    }
    const tempo = tempoMapOf(r.take);
    const length = tempo.toSeconds(r.take.end) - tempo.toSeconds(r.take.start);
    const place = engine.heardNow() - start;
    if (place >= 0 && state.getState().phase === 'counting') set({ phase: 'recording' });
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
    return (
      part.tempo === take.tempo && part.meter === take.meter && part.origin === take.origin && start === take.start && end === take.end
    );
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
    if (r.events.length > r.kept) set({ unkept: true });
    r.writing = r.writing.then(async () => {
      const until = r.events.length;
      // What was written meanwhile went along with an earlier event.
      if (until === r.kept) return set({ unkept: false });
      try {
        await takes.append(r.take.id, r.rows, r.events.slice(r.kept, until));
        r.kept = until;
        r.rows++;
        r.refused = false;
        if (r.kept === r.events.length) set({ unkept: false });
      } catch (e) {
        // Told once, not at every try.
        if (!r.refused) onError(e);
        r.refused = true;
      }
    });
    return r.writing;
  };

  const nextName = async (): Promise<string> => `Take ${(await takes.list(bench.getState().id)).length + 1}`;

  /** How far into a pass of the loop the music is; null where something else plays than that. */
  const passUnderWay = (): Seconds | null => {
    const { program, anchorFrame } = engine.sounding ?? {};
    const { start, end } = loopOf(bench.getState().part);
    if (!program || anchorFrame === undefined || !program.loop || program.startTick !== start || program.endTick !== end) return null;
    const anchor = anchorFrame / engine.sampleRate;
    return seconds(anchor + Math.max(0, Math.floor((engine.heardNow() - anchor) / program.length)) * program.length);
  };

  const begin = async () => {
    // While the loop plays it goes on, and the take begins in its midst.
    const punched = passUnderWay() !== null;
    const pressed = engine.heardNow();
    const { part, transport } = bench.getState();
    if (!transport.loop) bench.getState().setTransport({ loop: true, fromBar: 0, toBar: part.bars });
    const take = newTake(part, loopOf(part), await nextName(), device?.name ?? 'unknown', state.getState());
    await takes.begin(bench.getState().id, take);
    const base = punched ? passUnderWay() : null;
    running = {
      take,
      rowsBefore: new Set(part.rows.map((row) => row.voice)),
      replaced: new Map(),
      events: [],
      kept: 0,
      rows: 0,
      closed: 0,
      flushed: performance.now(),
      writing: Promise.resolve(),
      refused: false,
      timer: setInterval(look, LOOK_MS),
      base,
      punched: base !== null,
      punchedAt: null,
      edit: null,
      shown: 0,
      folder: new TakeFolder(take),
      strokes: [],
      open: 0,
      from: 0,
      heard: false,
    };
    bench.setState({ recording: true });
    if (base !== null) {
      set({ phase: 'recording', take, pass: 0, strokes: 0 });
      // What was struck since the key, while the take was being made.
      const since = recent.filter((r) => r.at >= pressed);
      running.events.push(
        ...since.map(({ at, event }): TakeEvent => ({ at: seconds(at - base), kind: event.kind, key: event.key, value: event.value })),
      );
      running.punchedAt = engine.position() ?? take.start;
      return show();
    }
    const lead = meterMapOf(part).barAt(take.start).length * countInOf(state.getState(), startTempo(part));
    const leadSeconds = Math.max(0.1, tempoMapOf(part).toSeconds(ticks(take.start)) - tempoMapOf(part).toSeconds(ticks(take.start - lead)));
    set({ phase: 'counting', take, pass: 0, strokes: 0 });
    engine.stop();
    play(leadSeconds);
  };

  /** @param goOn the music plays on */
  const halt = (goOn = false) => {
    const r = running;
    if (!r) return null;
    clearInterval(r.timer);
    show();
    endEdit(r);
    running = null;
    bench.setState({ recording: false });
    if (!goOn) engine.stop();
    return r;
  };

  /** Leaves out the last pass that has hits, of the take under way or the last one. */
  const dropLast = (r: Running) => {
    show();
    const { part } = bench.getState();
    const present = new Set(part.hits.map((h) => h.id));
    const passes = r.strokes.filter((s) => present.has(hitIdOfEvent(r.take.id, s.event))).map((s) => s.pass);
    if (passes.length === 0) return say('No pass of this take is left.');
    const last = passes.reduce((most, pass) => Math.max(most, pass));
    r.edit?.cancel();
    r.edit = null;
    r.from = r.shown;
    r.take = { ...r.take, dropped: [...(r.take.dropped ?? []), last] };
    const gone = new Set(r.strokes.filter((s) => s.pass === last).map((s) => hitIdOfEvent(r.take.id, s.event)));
    bench
      .getState()
      .run(`Drop pass ${last + 1}`, (p) =>
        withoutTake(p, r.take.id, passes.every((pass) => pass === last) ? [...r.replaced.values()] : [], r.rowsBefore, gone),
      );
    say(`Pass ${last + 1} is dropped.`);
  };

  const finish = async (r: Running) => {
    await flush(r);
    const strokes = recordedStrokes(foldTake(r.take, r.events), state.getState().passes, r.take.dropped);
    const passes = strokes.reduce((most, s) => Math.max(most, s.pass + 1), 0);
    if (r.events.length === 0) {
      await takes.remove(r.take.id);
      return set({ phase: 'idle', take: null });
    }
    const stalls = stallsOf(r, engine);
    const take = { ...r.take, ...(stalls.length > 0 ? { stalls } : {}), passes, complete: true };
    await takes.update(take);
    set({ phase: 'done', take });
    // Its hits had the nearest sixteenths until now.
    await readLines?.(take, r.events);
  };

  let last: Running | null = null;

  const recorder: Recorder = {
    state,
    set,
    get device() {
      return device;
    },
    connect(next) {
      unlisten();
      device = next;
      unlisten = next.listen((event) => onEvent(event));
      const blank = freshInput(next.id);
      set({ input: blank, found: null });
      // What was tuned meanwhile counts more than what was kept.
      inputs.load(next.id).then((kept) => known() === blank && set({ input: kept }), onError);
    },
    tune(change) {
      const next = Object.entries({ ...known(), ...change }).filter(([, value]) => value !== undefined);
      set({ input: Object.fromEntries(next) as unknown as InputSettings });
      inputs.save(known()).catch(onError);
    },
    onInput: (listener) => (listeners.add(listener), () => listeners.delete(listener)),
    learnPad: (onKey) => void (learning = onKey),
    start() {
      if (running || free.isOn) return;
      if (engine.isFollowing) return say('The part follows a MIDI clock. Choose “no clock” to record.');
      recorder.stopMeasuring();
      if (state.getState().free) return takesFreeTake(bench.getState().part, null) ? void free.start().catch(onError) : say(NEEDS_EMPTY);
      begin().catch(onError);
    },
    dropPass() {
      const r = running ?? last;
      if (!r) return say('Nothing was recorded that could be dropped.');
      dropLast(r);
      if (r !== running) takes.update({ ...r.take, passes: state.getState().take?.passes ?? 0, complete: true }).catch(onError);
    },
    get freeSince() {
      return free.startedAt;
    },
    cancelFinding: () => free.cancelFinding(),
    stop() {
      if (free.isOn) return void free.stop().catch(onError);
      const r = halt(running?.punched === true && engine.isPlaying);
      if (!r) return;
      last = r;
      finish(r).catch(onError);
    },
    discard() {
      const r = last;
      last = null;
      set({ phase: 'idle', take: null });
      if (!r) return false;
      bench
        .getState()
        .run('Delete the take', (p) => deleteTake(withoutTake(p, r.take.id, [...r.replaced.values()], r.rowsBefore), r.take.id));
      return true;
    },
    async keepLastMinute() {
      const { part, id } = bench.getState();
      const played = recent.filter((p) => p.event.kind === 'note');
      if (played.length === 0) return false;
      const empty: Take = { ...newTake(part, loopOf(part), await nextName(), device?.name ?? 'unknown', state.getState()), complete: true };
      const { take, events } = takeOfRecent(empty, recent);
      await takes.begin(id, take);
      await takes.append(take.id, 0, events);
      recent = [];
      return true;
    },
    measure: () => (running ? undefined : measuring.start()),
    stopMeasuring: () => measuring.stop(),
    dispose() {
      recorder.stopMeasuring();
      held.stop();
      free.cancelFinding();
      free.stop(false).catch(onError);
      const r = halt();
      if (r) finish(r).catch(onError);
      unlisten();
    },
  };
  return recorder;
}
