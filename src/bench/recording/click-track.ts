import type { StoreApi } from 'zustand/vanilla';
import { shallow } from 'zustand/shallow';
import { ticksOfBars } from '@/core/commands/settings';
import { clickProgram, type Clicked } from '@/core/playback/clicks';
import type { ProgramRange } from '@/core/playback/program';
import { endOfPart } from '@/core/part/part-time';
import { ticks } from '@/core/units';
import type { SoundEngine } from '@/sound/engine';
import { unrolledOrder } from '../playback/programs';
import type { BenchState, BenchStore } from '../store/bench-store';
import type { RecordingState } from './recording-state';

/** Whether there are clicks now: while counting in, while recording where that is wished, and always where that is. */
const isWanted = ({ phase, clicking, clickAlways }: RecordingState): boolean =>
  clickAlways || phase === 'counting' || (phase === 'recording' && clicking);

/** What the click goes by, and the stretch that is played. */
function stretchOf({ part, transport }: BenchState): { of: Clicked; range: ProgramRange } {
  if (transport.order && part.order) {
    const { part: of } = unrolledOrder(part).performed;
    return { of, range: { start: ticks(0), end: endOfPart(of), loop: false } };
  }
  if (transport.loop) return { of: part, range: { ...ticksOfBars(part, transport.fromBar, transport.toBar), loop: true } };
  return { of: part, range: { ...ticksOfBars(part, 0, part.bars), loop: false } };
}

/** Keeps the player's clicks in step with the part, the loop and what is wished; ends with the result. */
export function followClicks(bench: BenchStore, recording: StoreApi<RecordingState>, engine: SoundEngine): () => void {
  const inputs = () => {
    const { part, transport } = bench.getState();
    const state = recording.getState();
    const { click } = state;
    return {
      wanted: isWanted(state) && state.measuring === null,
      click,
      tempo: part.tempo,
      meter: part.meter,
      origin: part.origin,
      bars: part.bars,
      order: transport.order ? part.order : null,
      loop: transport.loop,
      from: transport.fromBar,
      to: transport.toBar,
      feel: click.swung ? part.feel : null,
    };
  };
  let told: ReturnType<typeof inputs> | null = null;
  const tell = () => {
    const now = inputs();
    if (told && (shallow(told, now) || (!told.wanted && !now.wanted))) return;
    const measured = recording.getState().measuring !== null;
    told = now;
    // A measurement has clicks of its own.
    if (measured) return;
    if (!now.wanted) return engine.setClicks(null);
    const { of, range } = stretchOf(bench.getState());
    engine.setClicks(clickProgram(of, range, now.click, engine.clickRows));
  };
  const stops = [bench.subscribe(tell), recording.subscribe(tell)];
  tell();
  return () => {
    for (const stop of stops) stop();
    engine.setClicks(null);
  };
}
