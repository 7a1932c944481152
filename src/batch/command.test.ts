import { execFileSync } from 'node:child_process';
import { existsSync, linkSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { midiFile, noteEvents, tempoEvent, trackChunk } from '@tests/support/midi-bytes';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { READY_FEELS } from '@/core/moves/ready-feels';
import { readSmf } from '@/core/smf/read';
import { writeFeelFile } from '@/formats/feel-format';
import { writeGrooveFile } from '@/formats/groove-format';
import { writeKitFile } from '@/formats/kit-format';
import { perform } from '@/api/perform';
import { EXIT, performCommand, USAGE } from './command';
import { accountOf, accountWords, partOfFile, withGiven } from './perform-file';

const late = READY_FEELS.find((f) => f.name === 'Late Ferry')!.feel;
/** Eighths of the hat, backbeat and kicks: one file a number. */
const beat = (n: number): Uint8Array =>
  midiFile(0, 480, [
    trackChunk([
      tempoEvent(0, 500_000 + n * 1000),
      ...noteEvents(
        Array.from(
          { length: 16 },
          (_, s) => [[s * 240, 42, 90 + n], ...(s % 4 === 2 ? [[s * 240, 38, 100]] : [])] as [number, number, number][],
        ).flat(),
        60,
      ),
    ]),
  ]);

/** A folder with files in it. */
function folder(files: Record<string, string | Uint8Array>): string {
  const dir = mkdtempSync(join(tmpdir(), 'perform-'));
  for (const [name, data] of Object.entries(files)) writeFileSync(join(dir, name), data);
  return dir;
}

function run(...args: string[]): { code: number; out: string[]; error: string[] } {
  const out: string[] = [];
  const error: string[] = [];
  return { code: performCommand(args, { out: (l) => out.push(l), error: (l) => error.push(l) }), out, error };
}

async function fromApi(midi: Uint8Array, fields: Record<string, string>): Promise<Buffer> {
  const form = new FormData();
  form.set('midi', new File([midi as Uint8Array<ArrayBuffer>], 'x.mid'));
  for (const [name, value] of Object.entries(fields)) form.set(name, value);
  const response = await perform(new Request('http://127.0.0.1/api/perform', { method: 'POST', body: form }));
  expect(response.status).toBe(200);
  return Buffer.from(await response.arrayBuffer());
}

test('a folder with good and bad files: a line a file, the good ones as the API writes them, and an exit code that says so', async () => {
  const dir = folder({ 'a.mid': beat(1), 'b.mid': beat(2), 'no.mid': 'no MIDI', 'late.json': writeFeelFile(late) });
  const at = (name: string) => join(dir, name);
  const { code, out, error } = run('--feel', at('late.json'), at('a.mid'), at('no.mid'), at('b.mid'), at('gone.mid'), '--out', at('out'));
  expect(code).toBe(EXIT.someFailed);
  expect(out).toHaveLength(3);
  expect(out[0]).toMatch(/a\.mid -> .*out.a\.mid {2}20 hits: \d+ moved, .* ms on average/);
  expect(out.at(-1)).toBe('2 written, 2 failed');
  expect(error).toEqual([expect.stringMatching(/no\.mid: not-midi: /), expect.stringMatching(/gone\.mid: .*ENOENT/)]);
  expect(readdirSync(at('out')).sort()).toEqual(['a.mid', 'b.mid']);
  for (const [n, name] of [
    [1, 'a.mid'],
    [2, 'b.mid'],
  ] as const)
    expect(Buffer.compare(readFileSync(join(at('out'), name)), await fromApi(beat(n), { feel: writeFeelFile(late) }))).toBe(0);
});

test('all good is 0; what is there already is not written over, unless it is asked for', () => {
  const dir = folder({ 'a.mid': beat(1), 'late.json': writeFeelFile(late) });
  const at = (name: string) => join(dir, name);
  const args = ['--feel', at('late.json'), at('a.mid'), '--out', at('out')];
  expect(run(...args).code).toBe(EXIT.good);
  const first = readFileSync(join(at('out'), 'a.mid'));
  writeFileSync(at('a.mid'), beat(9));
  expect(run(...args)).toMatchObject({ code: EXIT.someFailed, error: [expect.stringContaining('is there already')] });
  expect(readFileSync(join(at('out'), 'a.mid')).equals(first)).toBe(true);
  expect(run(...args, '--overwrite').code).toBe(EXIT.good);
  expect(readFileSync(join(at('out'), 'a.mid')).equals(first)).toBe(false);
  // Never the file that it reads.
  expect(run('--feel', at('late.json'), at('a.mid'), '--out', dir, '--overwrite')).toMatchObject({
    code: EXIT.someFailed,
    error: [expect.stringContaining('one of the files that are read')],
  });
});

describe('what is read is never written over, and links are not followed', () => {
  const feel = writeFeelFile(late);
  const setUp = () => {
    const dir = folder({ 'a.mid': beat(1), 'late.json': feel });
    mkdirSync(join(dir, 'out'));
    return { dir, at: (name: string) => join(dir, name) };
  };
  const refused = (result: ReturnType<typeof run>, why: RegExp) =>
    expect(result).toMatchObject({ code: EXIT.someFailed, error: [expect.stringMatching(why)] });

  test('a symbolic or a hard link to an input in the folder', () => {
    const { at } = setUp();
    symlinkSync(at('a.mid'), at('out/a.mid'));
    refused(run('--feel', at('late.json'), at('a.mid'), '--out', at('out'), '--overwrite'), /is a link/);
    expect(readFileSync(at('a.mid')).equals(Buffer.from(beat(1)))).toBe(true);
    rmSync(at('out/a.mid'));
    linkSync(at('a.mid'), at('out/a.mid'));
    refused(run('--feel', at('late.json'), at('a.mid'), '--out', at('out'), '--overwrite'), /one of the files that are read/);
    expect(readFileSync(at('a.mid')).equals(Buffer.from(beat(1)))).toBe(true);
    // A hard link to what is not read: that file stays, and the name in the folder has the new one.
    rmSync(at('out/a.mid'));
    writeFileSync(at('kept.mid'), 'kept');
    linkSync(at('kept.mid'), at('out/a.mid'));
    expect(run('--feel', at('late.json'), at('a.mid'), '--out', at('out'), '--overwrite').code).toBe(EXIT.good);
    expect([readFileSync(at('kept.mid'), 'utf8'), readFileSync(at('out/a.mid')).length > 100]).toEqual(['kept', true]);
  });

  test('an input that lies in the folder under the name of another, and the feel under that of an input', () => {
    const { at } = setUp();
    writeFileSync(at('out/a.mid'), beat(2));
    const { code, error } = run('--feel', at('late.json'), at('a.mid'), at('out/a.mid'), '--out', at('out'), '--overwrite');
    expect([code, error.length]).toEqual([EXIT.someFailed, 2]);
    expect(readFileSync(at('out/a.mid')).equals(Buffer.from(beat(2)))).toBe(true);
    rmSync(at('out/a.mid'));
    writeFileSync(at('out/a.mid'), feel);
    refused(run('--feel', at('out/a.mid'), at('a.mid'), '--out', at('out'), '--overwrite'), /one of the files that are read/);
    expect(readFileSync(at('out/a.mid'), 'utf8')).toBe(feel);
  });

  test('two inputs of one name: the second does not replace the first', () => {
    const { at } = setUp();
    mkdirSync(at('sub'));
    writeFileSync(at('sub/a.mid'), beat(2));
    refused(run('--feel', at('late.json'), at('a.mid'), at('sub/a.mid'), '--out', at('out'), '--overwrite'), /were written already/);
    const first = readFileSync(at('out/a.mid'));
    expect(run('--feel', at('late.json'), at('a.mid'), '--out', at('again')).code).toBe(EXIT.good);
    expect(readFileSync(at('again/a.mid')).equals(first)).toBe(true);
  });

  test('a link to nowhere, a pipe, a folder of that name; nothing half written stays', () => {
    const { at } = setUp();
    symlinkSync(at('outside.mid'), at('out/a.mid'));
    refused(run('--feel', at('late.json'), at('a.mid'), '--out', at('out')), /is a link/);
    refused(run('--feel', at('late.json'), at('a.mid'), '--out', at('out'), '--overwrite'), /is a link/);
    expect(existsSync(at('outside.mid'))).toBe(false);
    rmSync(at('out/a.mid'));
    execFileSync('mkfifo', [at('out/a.mid'), at('pipe.mid')]);
    refused(run('--feel', at('late.json'), at('a.mid'), '--out', at('out'), '--overwrite'), /not a plain file/);
    refused(run('--feel', at('late.json'), at('pipe.mid'), '--out', at('out')), /not a plain file/);
    expect(run('--feel', at('pipe.mid'), at('a.mid'), '--out', at('out')).code).toBe(EXIT.wrongCall);
    rmSync(at('out/a.mid'));
    mkdirSync(at('out/a.mid'));
    refused(run('--feel', at('late.json'), at('a.mid'), '--out', at('out'), '--overwrite'), /not a plain file/);
    expect(readdirSync(at('out'))).toEqual(['a.mid']);
  });

  test('control characters in names are shown by their numbers', () => {
    const dir = folder({ 'a\u001b[2J\n\u202eb.mid': beat(1), 'late.json': feel });
    const { out, code } = run(
      '--feel',
      join(dir, 'late.json'),
      join(dir, 'a\u001b[2J\n\u202eb.mid'),
      join(dir, 'a\u0007.mid'),
      '--out',
      join(dir, 'out'),
    );
    expect(code).toBe(EXIT.someFailed);
    expect(out[0]).toContain('a\\u{1b}[2J\\u{a}\\u{202e}b.mid -> ');
    for (const line of out) expect(line).not.toMatch(/[\u0000-\u001f]/);
    expect(run('--feel', 'x\u001b', 'y', '--out', dir).error[0]!.split('\n')[0]).toContain('x\\u{1b}');
  });
});

test('a wrong call writes nothing and says how it is done', () => {
  const dir = folder({ 'a.mid': beat(1), 'late.json': writeFeelFile(late), 'bad.json': '{"format":"nod-sway/feel@9"}' });
  const at = (name: string) => join(dir, name);
  const feel = ['--feel', at('late.json')];
  const calls = [
    [],
    [at('a.mid'), '--out', at('o')],
    [...feel, at('a.mid')],
    [...feel, '--out', at('o')],
    ['--feel', at('bad.json'), at('a.mid'), '--out', at('o')],
    ['--feel', at('gone.json'), at('a.mid'), '--out', at('o')],
    [...feel, '--groove', at('late.json'), at('a.mid'), '--out', at('o')],
    [...feel, at('a.mid'), '--out', at('o'), '--ppq', '7'],
    [...feel, at('a.mid'), '--out', at('o'), '--channels', '10,17'],
    [...feel, at('a.mid'), '--out', at('o'), '--loud'],
  ];
  for (const call of calls) {
    const { code, error, out } = run(...call);
    expect([call, code, out]).toEqual([call, EXIT.wrongCall, []]);
    expect(error[0]).toContain(USAGE);
  }
  expect(readdirSync(dir).sort()).toEqual(['a.mid', 'bad.json', 'late.json']);
  expect(run('--help')).toEqual({ code: EXIT.good, out: [USAGE], error: [] });
});

test('a groove and a key map are given likewise', () => {
  const groove = HOUSE_GROOVES.find((g) => g.name === 'Tide Race')!;
  const dir = folder({
    'a.mid': beat(1),
    'g.json': writeGrooveFile(groove),
    'k.json': writeKitFile({ name: 'Cellar', voices: { 60: 'hat-closed', 61: 'snare' } }),
  });
  const at = (name: string) => join(dir, name);
  expect(run('--groove', at('g.json'), '--lean', '0.5', at('a.mid'), '--out', at('g')).code).toBe(EXIT.good);
  expect(run('--key-map', at('k.json'), at('a.mid'), '--out', at('k')).out[0]).toContain('20 on other keys');
  const keys = new Set(partOfFile(readSmf(readFileSync(join(at('k'), 'a.mid'))), 'k').hits.map((h) => h.key));
  expect([...keys].sort()).toEqual([60, 61]);
  const flat = partOfFile(readSmf(readFileSync(at('a.mid'))), 'a');
  const half = accountOf(flat, withGiven(flat, { kind: 'groove', groove, lean: 0.5, level: 1 }));
  const whole = accountOf(flat, withGiven(flat, { kind: 'groove', groove, lean: 1, level: 1 }));
  expect(half.mostMs).toBeCloseTo(whole.mostMs / 2, 5);
});

test('the account tells what a listener could notice', () => {
  const flat = partOfFile(readSmf(beat(0)), 'a');
  expect(accountWords(accountOf(flat, flat))).toBe('20 hits: nothing changes');
  // Eighths at two thirds, 120 BPM: every second of sixteen hats is 1/6 of a beat late, 83.3 ms; no snare stands between.
  const swung = withGiven(flat, { kind: 'feel', feel: { ...flat.feel, moves: [{ kind: 'swing', division: '1/8', percent: 200 / 3 }] } });
  expect(accountWords(accountOf(flat, swung))).toBe('20 hits: 8 moved, 83.3 ms on average, 83.3 at most');
});
