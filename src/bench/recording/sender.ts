import { createStore, type StoreApi } from 'zustand/vanilla';
import { breakOfRow } from '@/core/breaks/rows';
import { ClockOut } from '@/core/playback/clock-out';
import { outputMapOf } from '@/core/commands/output-map';
import type { Part } from '@/core/model/part';
import { channelFor, keysOfHits, velocityFor } from '@/core/output-map/leaving';
import { tempoMapOf } from '@/core/part/part-time';
import { TICKS_PER_QUARTER, seconds } from '@/core/units';
import type { OutputDevice } from '@/devices/output';
import { HeldNotes } from '@/sound/held-notes';
import type { NoteSender } from '@/sound/note-sender';
import type { SoundEngine } from '@/sound/engine';
import { showError } from '@/ui/notify';
import { ArticulationOut } from './articulation-out';

/** Where performed hits go; how, the part's target says. */
export interface SendingState {
  output: OutputDevice | null;
  sent: number;
  /** Clock, start, stop and position go out too. */
  clock: boolean;
}

export interface Sender {
  state: StoreApi<SendingState>;
  set(change: Partial<SendingState>): void;
  dispose(): void;
}

const LOOK_MS = 20;
/** Clocks are given so long before they are due, as notes are. */
const AHEAD_SECONDS = 0.25;
const NOTE_ON = 0x90;

/** What a part's hits leave as, found once a part. */
function leavingOf(part: Part) {
  const target = outputMapOf(part);
  const keyOf = keysOfHits(part, target);
  const hits = new Map(part.hits.map((h) => [h.id, h]));
  const tempo = tempoMapOf(part);
  const msOf = (length: number): number => (length / TICKS_PER_QUARTER) * (60_000 / tempo.bpmAt(part.origin));
  return {
    part,
    offsetMs: target.offsetMs,
    /** Undefined for what is not the part's, and for what plays a recording, which has no key elsewhere. */
    noteOf(id: string | undefined, velocity: number) {
      const hit = hits.get(id ?? '');
      if (!hit || breakOfRow(part, hit.voice)) return undefined;
      return {
        channel: channelFor(target, hit.voice) - 1,
        key: keyOf(hit, hit.voice, hit.key),
        velocity: velocityFor(target, velocity),
        ms: target.noteMs ?? msOf(hit.length),
        ...(target.articulation === 'keys' ? {} : { openness: hit.openness, position: hit.position }),
      };
    },
  };
}

/** Sends what is played to an output, time-stamped, as long as one is chosen. */
export function createSender(engine: SoundEngine, partOf: () => Part, hitOfSlot: (slot: number) => string | undefined): Sender {
  const state = createStore<SendingState>(() => ({ output: null, sent: 0, clock: false }));
  // What decides which notes are due comes with the first output that is chosen.
  let notes: NoteSender | null = null;
  const clock = new ClockOut();
  const begin = async () => {
    const { NoteSender: Decider } = await import('@/sound/note-sender');
    notes ??= new Decider(engine.sampleRate);
  };
  const held = new HeldNotes((bytes, page) => state.getState().output?.send(bytes, page));
  const articulation = new ArticulationOut();
  let leaving: ReturnType<typeof leavingOf> | null = null;
  const look = () => {
    const { output, sent, clock: clocked } = state.getState();
    const sounding = output ? engine.sounding : null;
    const due = notes?.due(sounding, seconds(engine.heardNow())) ?? [];
    const now = seconds(engine.heardNow());
    const { startedAt } = engine;
    const offset = outputMapOf(partOf()).offsetMs;
    for (const { bytes, at } of clock.due(
      clocked && sounding && startedAt !== null ? { program: sounding.program, startedAt } : null,
      now,
      seconds(now + AHEAD_SECONDS),
    ))
      output?.send(bytes, engine.pageTimeOf(at) + offset);
    if (!sounding) held.endAll(performance.now());
    else held.endUntil(performance.now() + LOOK_MS * 2);
    if (!output || due.length === 0) return;
    const part = partOf();
    if (leaving?.part !== part) leaving = leavingOf(part);
    let count = 0;
    for (const { slot, velocity, at } of due) {
      const note = leaving.noteOf(hitOfSlot(slot), velocity);
      if (!note) continue;
      const page = engine.pageTimeOf(at) + leaving.offsetMs;
      for (const bytes of articulation.before(note)) output.send(bytes, page);
      held.begin(note.channel, note.key, page, page + note.ms);
      output.send([NOTE_ON | note.channel, note.key, note.velocity], page);
      count++;
    }
    state.setState({ sent: sent + count });
  };
  let timer: ReturnType<typeof setInterval> | null = null;
  const set = (change: Partial<SendingState>) => {
    if ('output' in change) {
      held.endAll(performance.now());
      state.getState().output?.clear();
      articulation.forget();
      if (change.output && timer === null) {
        timer = setInterval(look, LOOK_MS);
        begin().catch(showError);
      }
      if (!change.output && timer !== null) {
        clearInterval(timer);
        timer = null;
        notes?.due(null, seconds(0));
      }
    }
    state.setState(change);
  };
  return { state, set, dispose: () => set({ output: null }) };
}
