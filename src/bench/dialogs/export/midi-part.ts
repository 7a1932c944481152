import { counted, plural } from '@/core/plurals';
import { labelOfRow } from '@/core/part/rows';
import type { Part } from '@/core/model/part';
import { exportPart, type PartExportOptions } from '@/core/smf/export-part';
import { roundOfSection, roundsOfBars, roundsOfOrder } from '@/core/song/unroll';
import { fileNameOf } from '@/ui/download';
import { uniqueName } from '@/ui/unique-name';
import { account, drawnWords, silenceWords } from './account';
import type { ExporterSpec, ExportSource } from './exporter';
import { midiName, plainName } from './file-name';
import { FileChoices, firstFile, SELECTION, type FileOptions, type ExportRange } from './midi-options';

export const midiPart: ExporterSpec<FileOptions> = {
  id: 'part',
  title: 'the drum part alone',
  about: 'as a standard MIDI file, bar line to bar line',
  isAvailable: () => true,
  isQuick: true,
  initial: firstFile,
  Options: FileChoices,
  async run(source, chosen) {
    const { part } = source;
    const { version, stretch } = chosen;
    const options = exportOptions(source, chosen);
    const name = (of: string): string => [part.name, of, version === 'written' ? 'written' : ''].filter(Boolean).join(' ');
    if (stretch === 'sections' && part.sections) {
      const { zipSync } = await import('fflate');
      const names = new Set<string>();
      const files = part.sections.map((section) => {
        const result = exportPart(part, { ...options, rounds: [roundOfSection(section)] });
        return [`${uniqueName(plainName(midiName(section.name, result).replace(/\.mid$/, '')), names)}.mid`, result.bytes] as const;
      });
      return {
        data: zipSync(Object.fromEntries(files)),
        fileName: `${fileNameOf(part.name)}-sections.zip`,
        type: 'application/zip',
        said: [`Wrote ${files.length} sections, each as a file.`],
      };
    }
    const result = exportPart(part, { ...options, ...stretchOf(source, chosen) });
    const { only } = chosen;
    const empty = result.notes > 0 ? {} : { empty: emptyWords(source, chosen) };
    const said = account(result, part, { song: false, written: version === 'written', pitch: chosen.pitch });
    return {
      data: result.bytes,
      fileName: midiName(name(only === SELECTION ? 'selection' : only ? labelOfRow(part, only) : ''), result),
      type: 'audio/midi',
      said: [...orderSaid(part, chosen), ...said],
      ...empty,
    };
  },
};

/** Why no note would be written. */
function emptyWords({ part }: ExportSource, { only }: FileOptions): string {
  if (part.hits.length === 0) return 'The part has no hits yet.';
  if (only) return 'The selected hits have no notes to export in these bars.';
  return silenceWords(part) ?? 'There are no notes to export in these bars.';
}

function exportOptions(
  { part, selection }: ExportSource,
  { version, ppq, early, withMuted, generalMidi, target, format, pitch, only }: FileOptions,
): PartExportOptions {
  return {
    written: version === 'written',
    ppq,
    early,
    withMuted,
    generalMidi,
    format: format === '1' ? 1 : 0,
    pitch,
    ...(target ? { target } : {}),
    ...(only === SELECTION && selection.size > 0
      ? { onlyHits: selection }
      : only && part.rows.some((r) => r.voice === only)
        ? { onlyRows: new Set([only]) }
        : {}),
  };
}

/** The bars that are written, or the running order; a part from first to last bar is written as it stands. */
function stretchOf({ part, isIdea }: ExportSource, { stretch, fromBar, toBar, passes }: FileOptions): PartExportOptions {
  if (stretch === 'order') return { order: true };
  const isWhole = fromBar === 1 && toBar >= part.bars && passes === 1;
  return isWhole && !isIdea ? {} : { rounds: roundsOfBars(fromBar - 1, Math.min(toBar, part.bars), passes) };
}

/** What was written of the order, and what of chance and cycles. */
function orderSaid(part: Part, { stretch, passes }: { stretch: ExportRange; passes: number }): string[] {
  const rounds = stretch === 'order' ? roundsOfOrder(part).length : 0;
  return [
    ...(rounds > 0
      ? [
          `Unrolled the running order: ${counted(rounds, 'entry', 'entries')}, marked by ${plural(rounds, 'its section', 'their sections')}.`,
        ]
      : []),
    ...drawnWords(part, rounds > 0 || (stretch === 'bars' && passes > 1)),
  ];
}
