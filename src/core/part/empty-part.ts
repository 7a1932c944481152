import { EMPTY_FEEL } from '../model/feel';
import type { Part } from '../model/part';
import { microsecondsOf } from '../time/tempo-map';
import { bpm, ticks } from '../units';
import { GENERAL_MIDI_KIT, type KitMap } from '../key-map';
import { compareVoices } from '../voices';

/** What an empty part is made from. */
export interface Beginning {
  name: string;
  tempo: number;
  numerator: number;
  denominator: number;
  bars: number;
  kit: KitMap;
}

export const FIRST_BEGINNING: Beginning = {
  name: 'Untitled part',
  tempo: 100,
  numerator: 4,
  denominator: 4,
  bars: 2,
  kit: GENERAL_MIDI_KIT,
};

/** The rows that most grooves need. */
const USUAL = ['crash', 'hat-open', 'hat-closed', 'tom-high', 'tom-floor', 'snare', 'clap', 'kick'];
const FEWEST_USUAL = 3;
const MOST_ROWS = 8;

/** An empty part with the usual rows, as far as the kit has them; a kit of other voices gives its own first ones. */
export function emptyPart({ name, tempo, numerator, denominator, bars, kit }: Beginning): Part {
  const known = new Set(Object.values(kit.voices));
  const usual = USUAL.filter((v) => known.has(v));
  const rows = usual.length >= FEWEST_USUAL ? usual : [...known].sort(compareVoices).slice(0, MOST_ROWS);
  return {
    format: 'nod-sway/part@6',
    name: name.trim() || FIRST_BEGINNING.name,
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: microsecondsOf(bpm(tempo)) }],
    meter: [{ tick: ticks(0), numerator, denominator }],
    origin: ticks(0),
    bars,
    kitMap: kit,
    rows: rows.map((voice) => ({ voice })),
    hits: [],
    feel: EMPTY_FEEL,
  };
}
