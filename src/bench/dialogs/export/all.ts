import type { ExporterSpec } from './exporter';
import { midiPart } from './midi-part';
import { midiSong } from './midi-song';
import { wholePart } from './whole-part';

/** Every way to take a part out, in the order in which they are offered; the first that is available is chosen. */
export const EXPORTERS = [midiSong, midiPart, wholePart] as unknown as readonly ExporterSpec[];
