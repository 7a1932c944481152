import { ticksOfBars } from '@/core/commands/settings';
import { placeLines } from '@/core/perform/line-places';
import { playedByKey } from '@/core/breaks/rows';
import { strokesHeld } from '@/core/take/held-strokes';
import { clampVelocity, seconds } from '@/core/units';
import type { InputEvent } from '@/devices/input';
import type { SoundEngine } from '@/sound/engine';
import type { BenchStore } from '../store/bench-store';
import type { RecordingState } from './recording-state';

const LOOK_MS = 8;

interface Held {
  velocity: number;
  /** Up to here it has struck: seconds from the start of the first pass. */
  until: number;
}

interface Deps {
  bench: BenchStore;
  engine: SoundEngine;
  stateOf: () => RecordingState;
  /** What a held pad strikes, by the line's own time. */
  onStroke: (event: InputEvent) => void;
}

/** Pads that are held go on striking on the grid, as swung; pressure sets how hard. */
export class HeldPads {
  private readonly held = new Map<number, Held>();
  private timer: ReturnType<typeof setInterval> | null = null;

  constructor(private readonly deps: Deps) {}

  hear({ kind, key, value, page }: InputEvent): void {
    const { engine, stateOf } = this.deps;
    const start = engine.startedAt;
    if (kind === 'off') this.held.delete(key);
    else if (kind === 'pressure') {
      const held = this.held.get(key);
      if (held && value > 0) held.velocity = clampVelocity(value);
    } else if (kind === 'note' && stateOf().holdGrid !== null && start !== null) {
      this.held.set(key, { velocity: value, until: engine.heardAt(page) - start });
      this.timer ??= setInterval(() => this.look(), LOOK_MS);
    }
    if (this.held.size === 0) this.stop();
  }

  private look() {
    const { bench, engine, stateOf, onStroke } = this.deps;
    const { holdGrid, pieces } = stateOf();
    const start = engine.startedAt;
    const { part, transport } = bench.getState();
    if (holdGrid === null || start === null) return this.stop();
    const now = engine.heardNow() - start;
    const loop = ticksOfBars(part, transport.loop ? transport.fromBar : 0, transport.loop ? transport.toBar : part.bars);
    for (const [key, held] of this.held) {
      const { voice } = playedByKey(part, stateOf().input.pads?.[key] ?? key, pieces ?? undefined);
      const moments = strokesHeld(part, loop, holdGrid, voice, held.until, now, (row, lines) => placeLines(part, row, lines));
      // A stroke that was stamped ahead of the clock strikes nothing before its own moment.
      held.until = Math.max(held.until, now);
      for (const at of moments) onStroke({ kind: 'note', key, value: held.velocity, page: engine.pageTimeOf(seconds(start + at)) });
    }
  }

  stop(): void {
    if (this.timer !== null) clearInterval(this.timer);
    this.timer = null;
    this.held.clear();
  }
}
