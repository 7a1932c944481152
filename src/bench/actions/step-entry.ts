/** Entering hits one by one: each struck pad lands on the step cursor, which moves on. */
import { newIdInPart } from '@/editing/ids';
import type { Hit } from '@/core/model/part';
import { playedByKey } from '@/core/breaks/rows';
import { labelOfVoice } from '@/core/voices';
import { stepOf, type GridName } from '@/core/time/grid';
import { ticksOfBars } from '@/core/commands/settings';
import { withHits } from '@/core/take/hits-of-take';
import { ticks, type Ticks, type Velocity } from '@/core/units';
import type { BenchStore } from '../store/bench-store';

/** Pads struck within so many ms fall on one step. */
const TOGETHER_MS = 45;

let last = { at: -Infinity, tick: 0 as Ticks };

/** @param now ms of the page's clock @param pieces the break whose pieces keys play */
export function enterStep(store: BenchStore, key: number, velocity: Velocity, length: GridName, now: number, pieces?: string): void {
  const { part, ui, transport, setUi, setFocus, run } = store.getState();
  const struck = playedByKey(part, key, pieces);
  const { voice } = struck;
  const loop = ticksOfBars(part, transport.loop ? transport.fromBar : 0, transport.loop ? transport.toBar : part.bars);
  const together = now - last.at < TOGETHER_MS;
  const at = together ? last.tick : (ui.step?.tick ?? loop.start);
  const tick = at >= loop.start && at < loop.end ? at : loop.start;
  const hit: Hit = { id: newIdInPart(), ...struck, tick, home: tick, placed: true, length: ticks(stepOf(length) / 2), velocity };
  run(
    `Enter ${labelOfVoice(voice).toLowerCase()}`,
    (p) => withHits(p, [hit], (h) => !(h.voice === voice && h.tick === tick)),
    () => [hit.id],
  );
  last = { at: now, tick };
  const next = tick + stepOf(length);
  setUi({ step: { voice, tick: ticks(next < loop.end ? next : loop.start) } });
  setFocus(voice);
}
