import { mkdirSync } from 'node:fs';
import { basename, join } from 'node:path';
import { parseArgs } from 'node:util';
import { isNamedError } from '@/core/errors';
import { MAX_FILE_BYTES, readSmf } from '@/core/smf/read';
import { versionOf } from '@/formats/migrate';
import { parseJson } from '@/formats/validate';
import { readFeelFile } from '@/formats/feel-format';
import { readGrooveFile } from '@/formats/groove-format';
import { readKitFile } from '@/formats/kit-format';
import { accountOf, accountWords, partOfFile, withGiven, writePart, type Given } from './perform-file';
import { fileIdOf, readPlainFile, shownName, whyNotWritten, writeWhole, type FileId } from './real-files';

/** Everything went well; some files did not; the call itself is wrong. */
export const EXIT = { good: 0, someFailed: 1, wrongCall: 2 } as const;

export const USAGE = `npm run perform -- --feel x.nodfeel.json in/*.mid --out dir

One of these is given to every file:
  --feel FILE       a feel (.nodfeel.json)
  --groove FILE     a groove (.nodgroove.json), on all rows
  --key-map FILE    a drum map (.nodkit.json): written for its keys

  --out DIR         where the files go, under their own names; made where it is missing
  --lean N          how much of a groove's lean is used, 0 to 1.5 (1)
  --level N         how much of its level, 0 to 1.5 (1)
  --song            the other tracks of each file go along
  --ppq N           ticks a quarter note, 24 to 32767
  --channels LIST   channels that carry the drums, as 10,11; by default found in the file
  --overwrite       files that are in DIR already are written over; never those that are read, and never through links

A line a file. Exit code 0: all were written; 1: some were not; 2: the call is wrong, and nothing was written.`;

/** Where lines go. */
export interface CommandOutput {
  out(line: string): void;
  error(line: string): void;
}

class WrongCall extends Error {}

const OPTIONS = {
  feel: { type: 'string' },
  groove: { type: 'string' },
  'key-map': { type: 'string' },
  out: { type: 'string' },
  lean: { type: 'string' },
  level: { type: 'string' },
  song: { type: 'boolean' },
  ppq: { type: 'string' },
  channels: { type: 'string' },
  overwrite: { type: 'boolean' },
  help: { type: 'boolean', short: 'h' },
} as const;

const parse = (args: readonly string[]) => parseArgs({ args: [...args], options: OPTIONS, allowPositionals: true });
type Values = ReturnType<typeof parse>['values'];

/** Gives a feel, a groove or a key map to MIDI files in a folder: the bytes are those of the HTTP API. @returns the exit code */
export function performCommand(args: readonly string[], lines: CommandOutput): number {
  try {
    const { values, positionals: files } = parse(args);
    if (values.help) {
      lines.out(USAGE);
      return EXIT.good;
    }
    return performAll(values, files, lines);
  } catch (e) {
    // What the option parser refuses is named in its own words.
    const isWrongCall = e instanceof WrongCall || String((e as { code?: unknown }).code).startsWith('ERR_PARSE_ARGS');
    if (!isWrongCall) throw e;
    lines.error(`${shownName((e as Error).message)}\n\n${USAGE}`);
    return EXIT.wrongCall;
  }
}

function performAll(values: Values, files: readonly string[], lines: CommandOutput): number {
  const given = givenOf(values);
  const { out } = values;
  if (out === undefined) throw new WrongCall('--out is missing.');
  if (files.length === 0) throw new WrongCall('No MIDI files are named.');
  const ppq = wholeOf('ppq', values.ppq, 24, 32767);
  const channels = values.channels?.split(',').map((c) => wholeOf('channels', c.trim(), 1, 16) as number);
  try {
    mkdirSync(out, { recursive: true });
  } catch (e) {
    throw new WrongCall(`${out} is no folder that can be written to: ${(e as Error).message}`);
  }
  const spared = new Set<FileId>(
    [...files, values.feel, values.groove, values['key-map']].flatMap((path) => (path === undefined ? [] : (fileIdOf(path) ?? []))),
  );
  const overwrite = values.overwrite === true;
  let failed = 0;
  for (const path of files) {
    const target = join(out, basename(path));
    try {
      const problem = whyNotWritten(target, spared, overwrite);
      if (problem) throw new Error(problem);
      const { bytes, words } = performOne(readPlainFile(path, MAX_FILE_BYTES), given, { song: values.song === true, ppq, channels });
      spared.add(writeWhole(target, bytes, overwrite));
      lines.out(`${shownName(path)} -> ${shownName(target)}  ${words}`);
    } catch (e) {
      failed++;
      lines.error(shownName(`${path}: ${isNamedError(e) ? `${e.code}: ${e.message} ${e.remedy}` : (e as Error).message}`));
    }
  }
  lines.out(`${files.length - failed} written, ${failed} failed`);
  return failed > 0 ? EXIT.someFailed : EXIT.good;
}

function performOne(
  bytes: Uint8Array,
  given: Given,
  { song, ppq, channels }: { song: boolean; ppq: number | undefined; channels: readonly number[] | undefined },
): { bytes: Uint8Array; words: string } {
  const file = readSmf(bytes);
  // Named as the API names it: the bytes are the same.
  const before = partOfFile(file, 'part', channels);
  const after = withGiven(before, given);
  return { bytes: writePart(after, file, { song, ppq }), words: accountWords(accountOf(before, after)) };
}

/** What to apply to every file. @throws WrongCall */
function givenOf(values: Values): Given {
  const named = (['feel', 'groove', 'key-map'] as const).filter((name) => values[name] !== undefined);
  const [name, ...others] = named;
  if (!name || others.length > 0) throw new WrongCall('Name one of --feel, --groove and --key-map.');
  const path = values[name] as string;
  try {
    const text = readPlainFile(path, MAX_FILE_BYTES).toString('utf8');
    if (name === 'feel')
      return { kind: 'feel', feel: readFeelFile(text), version: versionOf('feel', parseJson(text, 'bad-feel')) ?? undefined };
    if (name === 'key-map') return { kind: 'drum map', kit: readKitFile(text) };
    return { kind: 'groove', groove: readGrooveFile(text), lean: shareOf('lean', values.lean), level: shareOf('level', values.level) };
  } catch (e) {
    if (e instanceof WrongCall) throw e;
    throw new WrongCall(`${path}: ${(e as Error).message}`);
  }
}

function wholeOf(name: string, text: string | undefined, low: number, high: number): number | undefined {
  if (text === undefined) return undefined;
  const n = Number(text);
  if (text === '' || !Number.isInteger(n) || n < low || n > high)
    throw new WrongCall(`--${name} must be a whole number from ${low} to ${high}.`);
  return n;
}

function shareOf(name: string, text = '1'): number {
  const n = Number(text);
  if (text === '' || !(n >= 0 && n <= 1.5)) throw new WrongCall(`--${name} must be a number from 0 to 1.5.`);
  return n;
}
