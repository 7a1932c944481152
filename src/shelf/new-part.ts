import { EMPTY_FEEL } from '@/core/feel/feel';
import type { Part } from '@/core/part/part';
import { bpm, ticks } from '@/core/units';
import { GENERAL_MIDI_KIT } from '@/core/voices';
import { microsecondsOf } from '@/core/time/tempo-map';

/** An empty part to start from: two bars of 4/4 at 100 BPM with the rows most grooves need. */
export const emptyPart = (name = 'Untitled part'): Part => ({
  format: 'nod-sway/part@1',
  name,
  tempo: [{ tick: ticks(0), microsecondsPerQuarter: microsecondsOf(bpm(100)) }],
  meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
  origin: ticks(0),
  bars: 2,
  kitMap: GENERAL_MIDI_KIT,
  rows: ['crash', 'hat-open', 'hat-closed', 'tom-high', 'tom-floor', 'snare', 'clap', 'kick'].map((voice) => ({ voice })),
  hits: [],
  feel: EMPTY_FEEL,
});
