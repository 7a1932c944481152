import { writeWav } from '@/core/audio/wav';
import { readWav } from '@/core/audio/read-wav';
import { NamedError } from '@/core/errors';
import { PIECE_VELOCITY, type Break } from '@/core/model/break';
import { amplitudeOf } from '@/core/synth/classes';
import { strokeOfPiece } from '@/core/samples/stroke-of-piece';
import { exportPart } from '@/core/smf/export-part';
import { MOST_SECONDS } from '@/core/limits';
import { breakRecordings } from '@/sounds/used';
import { fileNameOf } from '@/ui/download';
import { uniqueName } from '@/ui/unique-name';
import { account, drawnWords } from './account';
import type { ExporterSpec } from './exporter';

/** A break's pieces as files, and what plays them as MIDI: keys from 36 up in the order of the pieces. */
export const breakPieces: ExporterSpec<object> = {
  id: 'pieces',
  title: 'the slices of its breaks',
  about: 'as WAV files in a zip, with a MIDI file that plays them on keys from 36 up',
  isAvailable: ({ part }) => part.breaks !== undefined,
  initial: () => ({}),
  async run({ part }) {
    const recordings = await breakRecordings(part);
    const { zipSync } = await import('fflate');
    const files: Record<string, [Uint8Array, { level: 0 | 6 }]> = {};
    const names = new Set<string>();
    const said: string[] = [];
    for (const of of part.breaks ?? []) {
      const recording = recordings.get(of.sample);
      if (!recording) {
        said.push(`${of.name} is left out: its recording is not in this browser.`);
        continue;
      }
      const bytes = new Uint8Array(await recording.arrayBuffer());
      const folder = uniqueName(fileNameOf(of.name), names);
      const result = exportPart(part, { pieces: of.id });
      files[`${folder}/${folder}.mid`] = [result.bytes, { level: 6 }];
      for (const [name, wav] of wavsOf(of, bytes)) files[`${folder}/${name}`] = [wav, { level: 0 }];
      said.push(
        `${of.name}: ${of.pieces.length} slices, ${result.notes} notes.`,
        ...account({ ...result, left: { ...result.left, beyond: [], recorded: [] } }, part, { song: false, written: false }).slice(1),
      );
    }
    if (Object.keys(files).length === 0) throw new NamedError('no-recording');
    const tuned = (part.breaks ?? []).some((b) => b.pieces.some((p) => p.tune !== undefined));
    return {
      data: zipSync(files),
      fileName: `${fileNameOf(part.name)}-pieces.zip`,
      type: 'application/zip',
      said: [
        ...said,
        ...(tuned ? ['Slices keep their recorded level and direction; pitch changes are not included.'] : []),
        ...drawnWords(part, false),
      ],
    };
  },
};

/** Each piece as loud as it was recorded, at the recording's own rate. */
function wavsOf(of: Break, bytes: Uint8Array): [string, Uint8Array][] {
  const { rate } = readWav(bytes, MOST_SECONDS + 1, { until: 0, largest: Infinity });
  return of.pieces.map((piece, n) => {
    const { samples, right } = strokeOfPiece(bytes, piece, 'silence', rate);
    const gain = amplitudeOf(piece.velocity) / amplitudeOf(PIECE_VELOCITY);
    const scaled = (side: Float32Array): Float32Array => side.map((x) => x * gain);
    const left = scaled(samples);
    return [`${String(n + 1).padStart(2, '0')}-${piece.kind}.wav`, writeWav(left, right ? scaled(right) : left, { rate, bits: '24' })];
  });
}
