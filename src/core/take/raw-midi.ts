import { META, META_END_OF_TRACK, META_TEMPO, META_TRACK_NAME } from '../smf/read';
import { encodeText } from '../smf/text';
import { SmfWriter } from '../smf/write';
import type { RawEvent, Take } from './take';

/** Ticks a second in the file: 1,000 a quarter at 60 BPM, so that a tick is a millisecond. */
const PER_SECOND = 1000;
const HAT_PEDAL = 4;

/**
 * The raw events as a standard MIDI file: a tick is a millisecond, nothing is folded, moved or left out. Events of the count-in, which
 * lie before the first downbeat, move the whole file by whole seconds; the name says by how many.
 */
export function rawMidi(take: Pick<Take, 'name'>, events: readonly RawEvent[]): Uint8Array {
  const earliest = Math.min(0, ...events.map((e) => e.at));
  const lead = Math.ceil(-earliest);
  const w = new SmfWriter();
  w.header(0, 1, PER_SECOND);
  w.track(() => {
    meta(w, 0, META_TRACK_NAME, encodeText(`${take.name}, raw${lead > 0 ? `, first downbeat at ${lead} s` : ''}`));
    meta(w, 0, META_TEMPO, [0x0f, 0x42, 0x40]);
    let now = 0;
    for (const e of [...events].sort((a, b) => a.at - b.at)) {
      const tick = Math.max(now, Math.round((e.at + lead) * PER_SECOND));
      w.quantity(tick - now);
      now = tick;
      if (e.kind === 'pedal') bytes(w, 0xb9, HAT_PEDAL, e.value);
      else if (e.kind === 'pressure') bytes(w, 0xa9, e.key, e.value);
      else {
        bytes(w, 0x99, e.key, e.value);
        w.quantity(0);
        bytes(w, 0x89, e.key, 64);
      }
    }
    meta(w, 0, META_END_OF_TRACK, []);
  });
  return w.finish();
}

function bytes(w: SmfWriter, ...values: number[]) {
  for (const v of values) w.byte(v);
}

function meta(w: SmfWriter, delta: number, type: number, data: readonly number[]) {
  w.quantity(delta);
  bytes(w, META, type);
  w.quantity(data.length);
  bytes(w, ...data);
}
