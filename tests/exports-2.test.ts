import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { exportPart } from '@/core/smf/export-part';
import { exportSong } from '@/core/smf/export-song';
import { readSmf } from '@/core/smf/read';
import { readFeelFile } from '@/formats/feel-format';
import { readPartFile } from '@/formats/part-file';

/** Parts of part@2 with feels of feel@2, and the bytes that they were exported to before any later format: they stay the same. */
const FOLDER = join(__dirname, 'fixtures', 'exports-2');
const read = (name: string): Buffer => readFileSync(join(FOLDER, name));
const feel = readFeelFile(read('all-moves.nodfeel.json').toString('utf8'));
const names = readdirSync(FOLDER).flatMap((file) => /^(.*)\.nodsway\.json$/.exec(file)?.[1] ?? []);

test.each(names)('%s: old parts and feels give the bytes that they gave', (name) => {
  const { part, song } = readPartFile(read(`${name}.nodsway.json`).toString('utf8'));
  const felt = { ...part, feel };
  expect(read(`${name}.mid`).equals(exportPart(part).bytes)).toBe(true);
  expect(read(`${name}-felt.mid`).equals(exportPart(felt).bytes)).toBe(true);
  if (song) expect(read(`${name}-song.mid`).equals(exportSong(felt, readSmf(song)).bytes)).toBe(true);
});
