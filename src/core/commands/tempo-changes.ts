/** Commands on single tempo changes; the tempo as a whole is {@link setTempo}. */
import type { Part } from '../model/part';
import { microsecondsOf } from '../time/tempo-map';
import { clamp, MAX_BPM, MIN_BPM, type Bpm, type Ticks } from '../units';

const limited = (tempo: Bpm): number => microsecondsOf(clamp(tempo, MIN_BPM, MAX_BPM) as Bpm);

/** Sets one change, 20 to 300 BPM, and leaves the others as they are. @param index into the part's tempo changes */
export function setTempoChange(part: Part, index: number, tempo: Bpm): Part {
  const microsecondsPerQuarter = limited(tempo);
  return part.tempo[index] ? { ...part, tempo: part.tempo.map((t, i) => (i === index ? { ...t, microsecondsPerQuarter } : t)) } : part;
}

/** Puts a change on a tick, in place of one that is there. */
export function addTempoChange(part: Part, tick: Ticks, tempo: Bpm): Part {
  const others = part.tempo.filter((t) => t.tick !== tick);
  return { ...part, tempo: [...others, { tick, microsecondsPerQuarter: limited(tempo) }].sort((a, b) => a.tick - b.tick) };
}

/** Takes a change out; the tempo before it goes on. The first stays, since a part has a tempo from its start on. */
export const deleteTempoChange = (part: Part, index: number): Part =>
  index > 0 && part.tempo[index] ? { ...part, tempo: part.tempo.filter((_, i) => i !== index) } : part;
