import { audio } from './audio';
import { breakPieces } from './break-pieces';
import type { ExporterSpec, ExportSource } from './exporter';
import { midiPart } from './midi-part';
import { midiSong } from './midi-song';
import { soundKit } from './sound-kit';
import { wholePart } from './whole-part';

/** Every way to take a part out, in the order in which they are offered; the first that is available is chosen. */
export const EXPORTERS = [midiSong, midiPart, audio, breakPieces, wholePart, soundKit] as unknown as readonly ExporterSpec[];

/** Those that fit what is taken out. */
export const offeredOf = (exporters: readonly ExporterSpec[], source: ExportSource): readonly ExporterSpec[] =>
  exporters.filter((e) => e.isAvailable(source));

/** The options of all at first: those that are named alike are shared. */
export const optionsOf = (exporters: readonly ExporterSpec[], source: ExportSource): Record<string, unknown> =>
  Object.assign({}, ...exporters.map((e) => e.initial(source))) as Record<string, unknown>;
