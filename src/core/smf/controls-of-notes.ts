import type { Companion, Hit } from '../model/part';
import type { OutputMap } from '../model/output-map';
import type { Ornamented } from '../ornament/ornament-spec';
import { tempoMapOf } from '../part/part-time';
import { pedalOfOpenness } from '../articulation/openness';
import type { TempoMap } from '../time/tempo-map';
import { roundHalfUp, seconds, ticks } from '../units';

/** A pedal, pressure or position value written before a note. */
export interface Control {
  kind: Companion['kind'] | 'position';
  value: number;
  tick: number;
  /** Index of its note. */
  note: number;
  /** States the pedal's value at its note: left out if the pedal already has that value. */
  holds?: true;
}

/**
 * The controllers of all notes. Companions keep their distance to the stroke but never lie before the file's start; openness (where it
 * changes) and positions are written at the note's tick.
 * @param byLane keep repeated pedal values: the writer of the song knows what its other events have set
 */
export function controlsOfNotes(
  part: Ornamented,
  notes: { hits: Uint32Array; numbers: Uint16Array; ticks: Float64Array },
  perTick: number,
  { articulation = 'controllers' }: Pick<OutputMap, 'articulation'>,
  channelOf: (note: number) => number,
  byLane: boolean,
): Control[] {
  const controls: Control[] = [];
  let tempo: TempoMap | null = null;
  for (let k = 0; k < notes.hits.length; k++) {
    const { companions, openness, position } = part.hits[notes.hits[k] as number] as Hit;
    if (notes.numbers[k] !== 0) continue;
    if (articulation === 'controllers') {
      const tick = notes.ticks[k] as number;
      if (openness !== undefined) controls.push({ kind: 'pedal', value: pedalOfOpenness(openness), note: k, tick, holds: true });
      if (position !== undefined) controls.push({ kind: 'position', value: position, note: k, tick });
    }
    if (!companions) continue;
    tempo ??= tempoMapOf(part);
    const at = (notes.ticks[k] as number) / perTick;
    for (const { kind, value, aheadMs } of companions) {
      const before = tempo.toTicks(seconds(tempo.toSeconds(ticks(at)) - aheadMs / 1000));
      controls.push({ kind, value, note: k, tick: Math.max(0, Math.min(notes.ticks[k] as number, roundHalfUp(before * perTick))) });
    }
  }
  // At the same tick companions come first: they may already set the pedal's value.
  controls.sort((a, b) => a.tick - b.tick || a.note - b.note || rankOf(a) - rankOf(b));
  return byLane ? controls : withoutRepeats(controls, channelOf);
}

const rankOf = ({ kind, holds }: Control): number => (kind === 'position' ? 2 : holds ? 1 : 0);

/** Leaves out pedal values that their channel already has. */
function withoutRepeats(controls: readonly Control[], channelOf: (note: number) => number): Control[] {
  const pedals = new Map<number, number>();
  return controls.filter(({ kind, value, note, holds }) => {
    if (kind !== 'pedal') return true;
    const channel = channelOf(note);
    if (holds && pedals.get(channel) === value) return false;
    pedals.set(channel, value);
    return true;
  });
}
