/** Commands on a part's settings: tempo, origin, rows and sway. */
import { shortName } from '../limits';
import type { Feel } from '../model/feel';
import { clamp, withoutSign, MAX_BPM, MIN_BPM, ticks, type Bpm, type Ticks } from '../units';
import type { VoiceName } from '../row-names';
import { bpmOf, LONGEST_QUARTER, microsecondsOf, SHORTEST_QUARTER, type TempoChange } from '../time/tempo-map';
import { gridOfPlayer } from '../part/grid-of-player';
import { endOfPart, meterMapOf } from '../part/part-time';
import type { Hit, Part, Row } from '../model/part';
import { stepOf } from '../time/grid';

export const renamePart = (part: Part, name: string): Part =>
  name.trim() && name.trim() !== part.name ? { ...part, name: shortName(name.trim()) } : part;

/** Sets the tempo at the start, 20 to 300 BPM; later changes keep their proportion to it. */
/** @param later what becomes of changes that follow: all keep their proportion, or stay as they are */
export function setTempo(part: Part, tempo: Bpm, later: 'proportion' | 'here' = 'proportion'): Part {
  const first = part.tempo[0] as TempoChange;
  const wanted = microsecondsOf(clamp(tempo, MIN_BPM, MAX_BPM) as Bpm);
  if (Math.abs(wanted - first.microsecondsPerQuarter) < 1e-9) return part;
  const factor = wanted / first.microsecondsPerQuarter;
  const changed = part.tempo.map((t, i) =>
    later === 'here' && i > 0
      ? t
      : { ...t, microsecondsPerQuarter: clamp(t.microsecondsPerQuarter * factor, SHORTEST_QUARTER, LONGEST_QUARTER) },
  );
  // The player's tempo scales along.
  const isPlayers = later === 'proportion' && gridOfPlayer(part) === 'follows';
  return { ...part, tempo: changed, ...(isPlayers ? { playerTempo: changed } : {}) };
}

export const startTempo = (part: Pick<Part, 'tempo'>): Bpm => bpmOf(part.tempo[0] as TempoChange);

/**
 * Moves the grid; the hits stay, and their homes follow it by less than half a sixteenth: whole sixteenths are other lines of the same
 * grid.
 * The part grows by bars where its last hit would fall outside.
 */
export function setOrigin(part: Part, origin: Ticks): Part {
  if (origin === part.origin) return part;
  const sixteenth = stepOf('1/16');
  const d = origin - part.origin;
  const by = d - Math.round(d / sixteenth) * sixteenth;
  const hits =
    by === 0
      ? part.hits
      : part.hits.map((h): Hit => ({ ...h, home: ticks(h.home + by), ...(h.other === undefined ? {} : { other: ticks(h.other + by) }) }));
  const moved = { ...part, origin, hits };
  const last = part.hits[part.hits.length - 1];
  if (last && last.tick >= endOfPart(moved)) moved.bars = meterMapOf(moved).barAt(last.tick).index + 1;
  return moved;
}

export function setRow(part: Part, voice: VoiceName, change: Partial<Omit<Row, 'voice'>>): Part {
  return { ...part, rows: part.rows.map((row) => (row.voice === voice ? { ...row, ...change } : row)) };
}

/** How much of the feel is used, 0 to 1. */
export const setSway = (part: Part, sway: number): Part => withFeel(part, { ...part.feel, sway: withoutSign(clamp(sway, 0, 1)) });

const withFeel = (part: Part, feel: Feel): Part => ({ ...part, feel });

/** Ticks of a bar range, 0-based and without `to`. */
export function ticksOfBars(part: Pick<Part, 'meter' | 'origin'>, from: number, to: number): { start: Ticks; end: Ticks } {
  const map = meterMapOf(part);
  return { start: map.barOf(from).start, end: ticks(map.barOf(to).start) };
}

/** Goes back to how the part once stood; its name and the song that it came from stay. */
export function restoreVersion({ name, source }: Part, { name: _name, source: _source, ...version }: Part): Part {
  // What the version has not, a section or a kit, is not there any more.
  return { ...version, name, ...(source ? { source } : {}) };
}
