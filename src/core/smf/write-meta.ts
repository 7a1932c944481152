/** Writing meta events: what MIDI files say of themselves, of tempo and of meter. */
import type { MeterChange } from '../time/meter-map';
import { roundHalfUp } from '../units';
import { META, META_METER, META_TEMPO } from './read';
import type { SmfWriter } from './write';

export function writeMeta(w: SmfWriter, type: number, data: readonly number[]) {
  w.byte(META);
  w.byte(type);
  w.quantity(data.length);
  for (const b of data) w.byte(b);
}

export function writeTempo(w: SmfWriter, microseconds: number) {
  const us = Math.min(0xffffff, roundHalfUp(microseconds));
  writeMeta(w, META_TEMPO, [us >> 16, (us >> 8) & 0xff, us & 0xff]);
}

/** MIDI clocks a metronome click: a dotted quarter where beats are three eighths, else a unit of the meter. */
export function writeMeter(w: SmfWriter, m: MeterChange) {
  const compound = m.denominator === 8 && m.numerator % 3 === 0;
  writeMeta(w, META_METER, [m.numerator, Math.log2(m.denominator), compound ? 36 : Math.max(1, 96 / m.denominator), 8]);
}
