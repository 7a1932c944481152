/**
 * Throws damaged MIDI files and damaged files of ours at the core and the API: any end but an answer or a named error is a failure,
 * and so is one that computes too long, or an accepted import that does not come back from its own part file.
 */
import { isDeepStrictEqual } from 'node:util';
import { groove } from '@/api/groove';
import { perform } from '@/api/perform';
import { report } from '@/api/report';
import { isNamedError } from '@/core/errors';
import { performPart } from '@/core/perform/perform';
import { EMPTY_FEEL } from '@/core/model/feel';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { exportPart } from '@/core/smf/export-part';
import { exportSong } from '@/core/smf/export-song';
import { importPart } from '@/core/smf/import-part';
import { drumLanes, listLanes } from '@/core/smf/lanes';
import { readSmf } from '@/core/smf/read';
import { GALLEY_KIT } from '@/core/key-map';
import { demoCues } from '@/demo/cues';
import { readFeelFile, writeFeelFile } from '@/formats/feel-format';
import { readGrooveFile, writeGrooveFile } from '@/formats/groove-format';
import { readKitFile, writeKitFile } from '@/formats/kit-format';
import { kindOfFile } from '@/formats/kind-of-file';
import { readPartFile, writePartFile } from '@/formats/part-file';
import { DEFAULT_MOVES } from '@/core/moves/all';
import { formRequest } from '../support/multipart';
import { CALLS } from '@/api/children/calls';
import { WORST_FILES } from '../support/worst-files';
import { WORST_REQUESTS } from '../support/worst-parts';
import { partAtLimits, playedAtLimits } from './limits';
import { dice, mutateBytes, mutateJson } from './mutate';

export interface FuzzResult {
  files: number;
  answered: number;
  refused: number;
  failures: string[];
  slowest: { what: string; ms: number }[];
}

const SLOWEST_MS = 2000;
const FEEL = writeFeelFile({
  ...EMPTY_FEEL,
  moves: [DEFAULT_MOVES.quantize, DEFAULT_MOVES.swing, DEFAULT_MOVES.humanize, DEFAULT_MOVES.apart],
});

export async function fuzz(count: number, seed: number, given: readonly Uint8Array[]): Promise<FuzzResult> {
  const result: FuzzResult = { files: 0, answered: 0, refused: 0, failures: [], slowest: [] };
  const cues = demoCues();
  const songs = [...given, ...cues.flatMap((c) => (c.song ? [c.song] : [])), ...cues.map((c) => exportPart(c.part).bytes)];
  const jsons: [string, string, (text: string) => unknown][] = [
    ...cues.map((c): [string, string, typeof tryPart] => [
      'part',
      writePartFile({ part: c.part, ...(c.song ? { song: c.song } : {}), versions: [{ name: 'Before', at: 5, part: c.part }] }),
      tryPart,
    ]),
    ...HOUSE_GROOVES.map((g): [string, string, typeof readGrooveFile] => ['groove', writeGrooveFile(g), readGrooveFile]),
    ['feel', writeFeelFile({ ...EMPTY_FEEL, moves: Object.values(DEFAULT_MOVES) }), readFeelFile],
    ['kit', writeKitFile(GALLEY_KIT), readKitFile],
  ];

  for (const file of WORST_FILES) {
    const bytes = file.bytes();
    await tryMidi(result, file.name, bytes);
    for (const [name, call] of [
      ['report', report],
      ['groove', groove],
      ['perform', perform],
    ] as const)
      await measure(result, `${file.name}, ${name}`, () => request(call, name, bytes, FEEL));
  }
  for (const { name, call, fields } of WORST_REQUESTS) {
    const asked = formRequest(fields());
    await measure(result, `${name}, ${call}`, () => sent(CALLS[call], asked));
  }
  for (let i = 0; i < count / 20; i++) {
    const part = partAtLimits(dice(seed * 7_000_003 + i));
    for (const call of ['report', 'groove', 'perform'] as const)
      await measure(result, `part at its limits ${i}, ${call}`, () =>
        sent(CALLS[call], formRequest({ part, ...(call === 'perform' ? { order: String(i % 2 === 0) } : {}) })),
      );
    result.files++;
  }
  for (let i = 0; i < count / 20; i++) {
    const fields = playedAtLimits(dice(seed * 11_000_003 + i));
    await measure(result, `played at its limits ${i}, beats`, () => sent(CALLS.beats, formRequest(fields)));
    result.files++;
  }
  for (let i = 0; i < count; i++) {
    const roll = dice(seed * 1_000_003 + i);
    if (i % 2 === 0) {
      const bytes = mutateBytes(songs[Math.floor(roll() * songs.length)] as Uint8Array, roll);
      await tryMidi(result, `MIDI ${i}`, bytes);
      if (i % 8 === 0) await measure(result, `perform ${i}`, () => request(perform, 'perform', bytes, FEEL));
      if (i % 8 === 2) await measure(result, `report ${i}`, () => request(report, 'report', bytes, FEEL));
      if (i % 8 === 4) await measure(result, `groove ${i}`, () => request(groove, 'groove', bytes, FEEL));
    } else {
      const [kind, source, use] = jsons[Math.floor(roll() * jsons.length)] as (typeof jsons)[number];
      const text = mutateJson(source, roll);
      await measure(result, `${kind} ${i}`, () => (kindOfFile(text), use(text)));
      if (kind === 'feel') await measure(result, `feel to perform ${i}`, () => request(perform, 'perform', songs[0] as Uint8Array, text));
    }
    result.files++;
  }
  return result;
}

async function measure<T>(result: FuzzResult, what: string, work: () => T): Promise<Awaited<T> | undefined> {
  const start = process.cpuUsage();
  let made: Awaited<T> | undefined;
  try {
    made = await work();
    result.answered++;
  } catch (e) {
    if (isNamedError(e)) result.refused++;
    else result.failures.push(`${what}: ${e instanceof Error ? (e.stack ?? e.message) : String(e)}`);
  }
  const ms = computed(start);
  if (ms > SLOWEST_MS) result.failures.push(`${what}: took ${Math.round(ms)} ms`);
  result.slowest.push({ what, ms });
  if (result.slowest.length > 200) result.slowest = result.slowest.sort((a, b) => b.ms - a.ms).slice(0, 12);
  return made;
}

/** An accepted import, saved as a part file and read again, is the same part, and can be written as MIDI. */
async function tryMidi(result: FuzzResult, what: string, bytes: Uint8Array) {
  const imported = await measure(result, `${what}, imported`, () => {
    const file = readSmf(bytes);
    const all = listLanes(file);
    const drums = drumLanes(file, all);
    return {
      file,
      part: importPart(file, { name: 'fuzzed', fileName: 'fuzzed.mid', lanes: drums.length > 0 ? drums : all.slice(0, 1) }).part,
    };
  });
  if (!imported) return;
  const { file, part } = imported;
  const text = await measure(result, `${what}, written as a part file`, () => writePartFile({ part, song: bytes }));
  const again = await measure(result, `${what}, read again`, () => readPartFile(text as string).part);
  if (!isDeepStrictEqual(again, part)) result.failures.push(`${what}: the part file gives another part back`);
  await measure(result, `${what}, exported with its song`, () => exportSong(part, file));
}

function tryPart(text: string) {
  const { part } = readPartFile(text);
  performPart(part);
  exportPart(part);
  if (!isDeepStrictEqual(readPartFile(writePartFile({ part })).part, part)) throw new Error('the part file gives another part back');
}

/** Milliseconds of computing since: other work of the machine does not count. */
function computed(since: NodeJS.CpuUsage): number {
  const { user, system } = process.cpuUsage(since);
  return (user + system) / 1000;
}

const request = (call: (r: Request) => Promise<Response>, name: string, midi: Uint8Array, feel: string) =>
  sent(call, formRequest(name === 'perform' ? { midi, feel } : { midi }));

async function sent(call: (r: Request) => Promise<Response>, asked: Request) {
  const response = await call(asked);
  const text = response.status === 200 ? '' : await response.text();
  if (response.status >= 500 || text.length > 16 * 1024 || text.includes('unreadable'))
    throw new Error(`answered ${response.status} with ${text.slice(0, 300)}`);
}
