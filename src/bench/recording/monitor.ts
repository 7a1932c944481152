import { PLAIN } from '@/core/playback/mixer';
import type { Part } from '@/core/model/part';
import type { HatSettings } from '@/core/model/take';
import { HatPedal } from '@/core/take/hat-pedal';
import { GRAB, type FoldedStroke } from '@/core/take/fold';
import { struckBy } from '@/core/take/hits-of-take';
import { velocity as asVelocity, ticks, type Seconds } from '@/core/units';
import { throughCurve } from '@/core/velocity-curve';
import type { InputEvent } from '@/devices/input';
import type { SoundEngine } from '@/sound/engine';
import type { RecordingState } from './recording-state';

interface Deps {
  engine: SoundEngine;
  partOf: () => Part;
  stateOf: () => RecordingState;
  onError: (e: unknown) => void;
}

/** Sounds what is played in the moment it comes: pads, the hat as its pedal has it, what is damped and grabbed. */
export class Monitor {
  private pedal: { settings: HatSettings; follows: HatPedal } | null = null;
  private ringing: string | null = null;

  constructor(private readonly deps: Deps) {}

  private follows(): HatPedal | null {
    const { hat } = this.deps.stateOf().input;
    if (!hat) return null;
    if (this.pedal?.settings !== hat) this.pedal = { settings: hat, follows: new HatPedal(hat) };
    return this.pedal.follows;
  }

  strike(event: InputEvent): void {
    const { input } = this.deps.stateOf();
    const openness = this.follows()?.openness;
    this.play(
      { key: input.pads?.[event.key] ?? event.key, ...(openness ? { hat: openness } : {}) },
      throughCurve(input.curves?.[event.key] ?? input.curve, event.value),
    );
  }

  move(event: InputEvent, at: Seconds): void {
    if (event.kind === 'pressure' && event.value > GRAB) return this.play({ key: event.key, grab: true }, 1);
    const done = event.kind === 'pedal' ? this.follows()?.move(at, event.value) : null;
    if (done?.kind === 'stroke') this.play({ key: event.key, foot: 'pedal' }, done.velocity);
    else if (done?.kind === 'damp') this.play({ key: event.key, foot: 'damp' }, 1);
    else if (done?.kind === 'splash') this.play({ key: event.key, foot: 'splash' }, 90);
  }

  private play(stroke: Pick<FoldedStroke, 'key' | 'hat' | 'foot' | 'grab'>, velocity: number) {
    const { engine, partOf, stateOf, onError } = this.deps;
    const { monitor, pieces } = stateOf();
    if (!monitor) return;
    const part = partOf();
    const struck = struckBy(
      part,
      { ...stroke, event: 0, pass: 0, tick: ticks(0), velocity: asVelocity(velocity) },
      pieces ?? undefined,
      this.ringing,
    );
    if (!struck) return;
    if (!struck.choke) this.ringing = struck.voice === 'hat-open' || struck.voice === 'hat-half' ? struck.voice : this.ringing;
    engine
      .audition(part, struck.voice, velocity, {
        ...PLAIN,
        choke: struck.choke === true,
        ...(struck.piece === undefined ? {} : { take: struck.piece }),
      })
      .catch(onError);
  }
}
