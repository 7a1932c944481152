import type { StoreApi } from 'zustand/vanilla';
import { clickProgram } from '@/core/playback/clicks';
import { makeProgram } from '@/core/playback/program';
import { writtenPerformance } from '@/core/perform/perform';
import type { Part } from '@/core/model/part';
import { measureLatency, MEASURED_BPM, MEASURED_CLICKS, MEASURED_GAP } from '@/core/take/latency';
import { microsecondsOf } from '@/core/time/tempo-map';
import { seconds, ticks, TICKS_PER_QUARTER, type Seconds } from '@/core/units';
import type { SoundEngine } from '@/sound/engine';
import type { InputSettings } from '@/storage/input-store';
import type { RecordingState } from './recording-state';

const LOOK_MS = 40;
/** Between a measurement's start and the first click that counts; two clicks count in. */
const MEASURE_LEAD = 1;

interface Deps {
  engine: SoundEngine;
  state: StoreApi<RecordingState>;
  partOf: () => Part;
  onError: (e: unknown) => void;
  tune: (change: Partial<InputSettings>) => void;
}

/** Measures how late a device tells of strokes: the user taps along with clicks. */
export class LatencyMeter {
  private under: { taps: Seconds[]; timer: ReturnType<typeof setInterval> } | null = null;

  constructor(private readonly deps: Deps) {}

  get isOn(): boolean {
    return this.under !== null;
  }

  /** @param at on the audio clock */
  tap(at: Seconds): void {
    this.under?.taps.push(at);
  }

  start(): void {
    if (this.under) return;
    const { engine, state, partOf, onError } = this.deps;
    engine.stop();
    const quiet: Part = {
      ...partOf(),
      hits: [],
      tempo: [{ tick: ticks(0), microsecondsPerQuarter: microsecondsOf(MEASURED_BPM) }],
      meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
      origin: ticks(0),
      bars: 4,
    };
    const range = { start: ticks(0), end: ticks(MEASURED_CLICKS * TICKS_PER_QUARTER), loop: true };
    const silence = makeProgram(quiet, writtenPerformance(quiet), range, () => 0, engine.rowsOf(quiet), engine.ownSounds);
    engine.setPrograms({ performed: silence, written: silence });
    engine.setClicks(clickProgram(quiet, range, { ...state.getState().click, perBeat: 1 }, engine.clickRows));
    this.under = { taps: [], timer: setInterval(() => this.look(), LOOK_MS) };
    state.setState({ measuring: { clicks: 0, taps: 0 }, found: null });
    engine.play(ticks(0), MEASURE_LEAD).catch(onError);
  }

  private look() {
    const { engine, state, tune } = this.deps;
    const start = engine.startedAt;
    const m = this.under;
    if (start === null || !m) return;
    const heard = Math.floor((engine.heardNow() - start) / MEASURED_GAP) + 1;
    state.setState({ measuring: { clicks: Math.max(0, Math.min(MEASURED_CLICKS, heard)), taps: m.taps.length } });
    if (heard <= MEASURED_CLICKS) return;
    const clicks = Array.from({ length: MEASURED_CLICKS }, (_, i) => seconds(start + i * MEASURED_GAP));
    const found = measureLatency(clicks, m.taps);
    this.stop();
    state.setState({ found: found ?? false });
    if (found) tune({ latencyMs: Math.round(found.latencyMs * 10) / 10, spreadMs: found.spreadMs });
  }

  stop(): void {
    if (!this.under) return;
    clearInterval(this.under.timer);
    this.under = null;
    this.deps.engine.stop();
    this.deps.engine.setClicks(null);
    this.deps.state.setState({ measuring: null });
  }
}
