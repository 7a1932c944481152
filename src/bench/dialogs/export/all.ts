import { audio } from './audio';
import { breakPieces } from './break-pieces';
import type { ExporterSpec, ExportSource } from './exporter';
import { midiPart } from './midi-part';
import { midiSong } from './midi-song';
import { soundKit } from './sound-kit';
import { wholePart } from './whole-part';

/** Every way to take a part out, in the order in which they are offered. */
export const EXPORTERS = [midiSong, midiPart, audio, breakPieces, wholePart, soundKit] as unknown as readonly ExporterSpec[];

/** Those that fit what is taken out. */
export const offeredOf = (exporters: readonly ExporterSpec[], source: ExportSource): readonly ExporterSpec[] =>
  exporters.filter((e) => e.isAvailable(source));

/** The exporter that the dialog opens with: the last one used if it works for this part, else the first that works. */
export function firstChosen(
  offered: readonly ExporterSpec[],
  source: ExportSource,
  last: { chosen: string | null; options: Record<string, unknown> },
): string | undefined {
  const works = offered.filter((e) => !e.refusal?.(source, last.options));
  return (works.find((e) => e.id === last.chosen) ?? works[0] ?? offered[0])?.id;
}

/** The options of all at first: those that are named alike are shared. */
export const optionsOf = (exporters: readonly ExporterSpec[], source: ExportSource): Record<string, unknown> =>
  Object.assign({}, ...exporters.map((e) => e.initial(source))) as Record<string, unknown>;
