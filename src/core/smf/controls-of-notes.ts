import type { Companion, Hit } from '../model/part';
import type { OutputMap } from '../model/output-map';
import type { Ornamented } from '../ornament/ornament-spec';
import { tempoMapOf } from '../part/part-time';
import { pedalOfOpenness } from '../articulation/openness';
import type { TempoMap } from '../time/tempo-map';
import { roundHalfUp, seconds, ticks } from '../units';

/** A pedal's, a pressure's or a position's value before a note. */
export interface Control {
  kind: Companion['kind'] | 'position';
  value: number;
  tick: number;
  /** Index of its note. */
  note: number;
  /** Says what held when its note was struck: left out where that holds by what came before. */
  holds?: true;
}

/**
 * Each companion as long before its note as it came before its stroke, but never before the file's start; how open the hat was where that
 * changes, and where pads were struck, at the note itself.
 * @param byLane what holds between the notes is known only to who writes the song's other events
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
  // Companions that come with the note itself lead to what holds there.
  controls.sort((a, b) => a.tick - b.tick || a.note - b.note || rankOf(a) - rankOf(b));
  return byLane ? controls : withoutRepeats(controls, channelOf);
}

const rankOf = ({ kind, holds }: Control): number => (kind === 'position' ? 2 : holds ? 1 : 0);

/** Without pedals that say what holds already on their channel. */
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
