import { META_END_OF_TRACK, META_TRACK_NAME } from '../smf/read';
import { encodeText } from '../smf/text';
import { SmfWriter } from '../smf/write';
import { writeMeta, writeMeter, writeTempo } from '../smf/write-meta';
import { meterMapOf, tempoMapOf } from '../part/part-time';
import { MeterMap, type MeterChange } from '../time/meter-map';
import { TempoMap, type TempoChange } from '../time/tempo-map';
import { milliseconds, ticks, TICKS_PER_QUARTER, type Ticks } from '../units';
import type { TakeEvent, Take } from '../model/take';
import { FOOT_CONTROLLER, POSITION_CONTROLLER } from '../articulation/controllers';

/** Ticks a quarter in the file: finer than a tenth of a millisecond from 60 BPM on. */
const RAW_PPQ = 10_080;

type Played = Pick<Take, 'name' | 'tempo' | 'meter' | 'origin' | 'start' | 'end'>;

/**
 * The raw events as a standard MIDI file in the part's tempo and meter, one pass of the loop after the other: nothing is folded, moved,
 * taken off or left out. Strokes of the count-in lie before the first downbeat: whole bars are put in front, and the name says how many.
 */
export function rawMidi(take: Played, events: readonly TakeEvent[]): Uint8Array {
  const { tempo, meter, leadBars, lead } = unrolled(take, events);
  const map = new TempoMap(tempo);
  const sorted = [...events].sort((a, b) => a.at - b.at);
  const ended = endedNotes(sorted);
  const placed = sorted.map((e) => ({
    tick: map.shift(lead, milliseconds(e.at * 1000)),
    write: (w: SmfWriter) => writeEvent(w, e, ended.has(e)),
  }));
  const all = [
    ...meter.map((m) => ({ tick: m.tick, write: (w: SmfWriter) => writeMeter(w, m) })),
    ...tempo.map((t) => ({ tick: t.tick, write: (w: SmfWriter) => writeTempo(w, t.microsecondsPerQuarter) })),
    ...placed,
  ].sort((a, b) => a.tick - b.tick);
  const w = new SmfWriter();
  w.header(0, 1, RAW_PPQ);
  w.track(() => {
    w.quantity(0);
    writeMeta(w, META_TRACK_NAME, encodeText(`${take.name}, raw${leadBars > 0 ? `, first downbeat in bar ${leadBars + 1}` : ''}`));
    let now = 0;
    for (const { tick, write } of all) {
      const at = Math.round((tick * RAW_PPQ) / TICKS_PER_QUARTER);
      w.quantity(at - now);
      now = at;
      write(w);
    }
    const end = Math.round((endOf(meter, all.at(-1)?.tick ?? 0) * RAW_PPQ) / TICKS_PER_QUARTER);
    w.quantity(Math.max(0, end - now));
    writeMeta(w, META_END_OF_TRACK, []);
  });
  return w.finish();
}

/** The bar line behind the last event. */
function endOf(meter: readonly MeterChange[], last: number): number {
  const bar = new MeterMap(meter).barAt(ticks(last));
  return bar.start >= last && last > 0 ? bar.start : bar.start + bar.length;
}

/**
 * Tempo and meter of all passes from the file's start on, with whole bars in front where something was played before the first downbeat.
 */
function unrolled(
  take: Played,
  events: readonly TakeEvent[],
): { tempo: TempoChange[]; meter: MeterChange[]; leadBars: number; lead: Ticks } {
  const bars = meterMapOf(take);
  const time = tempoMapOf(take);
  const length = take.end - take.start;
  let [earliest, latest] = [0, 0];
  for (const e of events) {
    earliest = Math.min(earliest, e.at);
    latest = Math.max(latest, e.at);
  }
  const firstBar = bars.barAt(take.start);
  const firstTempo = 60e6 / time.bpmAt(take.start);
  const secondsOfBar = ((firstBar.length / TICKS_PER_QUARTER) * firstTempo) / 1e6;
  const leadBars = Math.ceil(-earliest / secondsOfBar);
  const lead = leadBars * firstBar.length;
  const passes = Math.max(1, Math.ceil(latest / (time.between(take.start, take.end) / 1000)));

  const tempo: TempoChange[] = [{ tick: ticks(0), microsecondsPerQuarter: firstTempo }];
  const meter: MeterChange[] = [{ ...firstBar.meter, tick: ticks(0) }];
  const inside = take.tempo.filter((t) => t.tick > take.start && t.tick < take.end);
  const changes: MeterChange[] = [];
  for (let at: number = take.start; at < take.end;) {
    const bar = bars.barAt(ticks(at));
    if (
      changes[changes.length - 1]?.numerator !== bar.meter.numerator ||
      changes[changes.length - 1]?.denominator !== bar.meter.denominator
    )
      changes.push({ ...bar.meter, tick: bar.start });
    at = bar.start + bar.length;
  }
  for (let pass = 0; pass < passes; pass++) {
    const shift = lead + pass * length - take.start;
    if (pass > 0 && inside.length > 0) tempo.push({ tick: ticks(take.start + shift), microsecondsPerQuarter: firstTempo });
    for (const t of inside) tempo.push({ ...t, tick: ticks(t.tick + shift) });
    if (pass === 0 || changes.length > 1) for (const m of changes) meter.push({ ...m, tick: ticks(m.tick + shift) });
  }
  return { tempo, meter: dropRepeated(meter), leadBars, lead: ticks(lead) };
}

/** Without changes to the meter that holds already. */
const dropRepeated = (meter: readonly MeterChange[]): MeterChange[] =>
  meter.filter((m, i) => i === 0 || m.numerator !== meter[i - 1]?.numerator || m.denominator !== meter[i - 1]?.denominator);

/** Notes that the device ended itself, before it struck their key again, and those ends. */
function endedNotes(events: readonly TakeEvent[]): ReadonlySet<TakeEvent> {
  const ended = new Set<TakeEvent>();
  const held = new Map<number, TakeEvent>();
  for (const e of events) {
    if (e.kind === 'note') held.set(e.key, e);
    const note = e.kind === 'off' ? held.get(e.key) : undefined;
    if (!note) continue;
    held.delete(e.key);
    ended.add(note).add(e);
  }
  return ended;
}

/** @param ended a note whose end comes later, or such an end; other notes end at once, other ends end nothing */
function writeEvent(w: SmfWriter, e: TakeEvent, ended: boolean) {
  if (e.kind === 'pedal') return bytes(w, 0xb9, FOOT_CONTROLLER, e.value);
  if (e.kind === 'position') return bytes(w, 0xb9, POSITION_CONTROLLER, e.value);
  if (e.kind === 'pressure') return bytes(w, 0xa9, e.key, e.value);
  if (e.kind === 'off') return bytes(w, 0x89, e.key, e.value);
  bytes(w, 0x99, e.key, e.value);
  if (ended) return;
  w.quantity(0);
  bytes(w, 0x89, e.key, 64);
}

function bytes(w: SmfWriter, ...values: number[]) {
  for (const v of values) w.byte(v);
}
