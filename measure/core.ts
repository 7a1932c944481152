import { readFileSync } from 'node:fs';
import { parseMidi, writeMidi, type MidiEvent } from 'midi-file';
import { freeTake } from '@tests/support/free-takes';
import { findBeats } from '@/core/beats/find-beats';
import { performPart } from '@/core/perform/perform';
import { ticksOfBars } from '@/core/commands/settings';
import { OPEN_GUARDS, type Take } from '@/core/model/take';
import { STRAIGHT_CURVE } from '@/core/velocity-curve';
import { tempoMapOf } from '@/core/part/part-time';
import { TakeFolder, type FoldedStroke } from '@/core/take/fold';
import { hitsOfStrokes } from '@/core/take/hits-of-take';
import { learnGroove } from '@/core/learn/learn';
import { addVelocity } from '@/core/commands/hits';
import { strokesOf } from '@/core/ornament/strokes';
import { applyDiff, diffParts, invertDiff, type PartDiff } from '@/core/part/diff';
import type { Part } from '@/core/model/part';
import { exportPart } from '@/core/smf/export-part';
import { importPart } from '@/core/smf/import-part';
import { drumLanes, listLanes } from '@/core/smf/lanes';
import { normalStream, randomStream } from '@/core/random';
import { readHomes } from '@/core/reading/read';
import { readSmf } from '@/core/smf/read';
import { ClockMap } from '@/core/take/clock';
import { alikeBars } from '@/core/analysis/alike';
import { competingIn, togetherOf } from '@/core/analysis/between';
import { stickingOfPart } from '@/core/analysis/playing';
import { milliseconds, seconds } from '@/core/units';
import { collectGarbage, compare, median, say, time } from './measure.mjs';
import { largePart, ornamented, sixMoves } from './large-part';
import { benchHandOver, benchOnsets, benchRender, benchVoices } from './sound';

const HITS = 12_000;
const FRAME_MS = 16.7;
/** 1.2 times what was measured first, 277. */
const BEATS_BAR = 332;

/** A list of hits as new objects: nothing that was computed for the old ones is found again. */
const fresh = (part: Part): Part => ({ ...part, hits: part.hits.map((h) => ({ ...h })), meter: [...part.meter], tempo: [...part.tempo] });

export function benchCore(files: readonly string[]): void {
  const sources = files.length > 0 ? files.map((f) => new Uint8Array(readFileSync(f))) : [exportPart(largePart(HITS)).bytes];
  for (const bytes of sources) {
    const part = fromBytes(bytes);
    benchImport(bytes);
    benchExport(part);
    benchReading(part);
    benchPerform(part);
    benchUndo(part);
    benchOrnaments(part);
    benchLearn(part);
  }
  benchRecordTiming();
  benchRecordFold();
  benchHandOver();
  benchVoices();
  benchBeats();
  benchHands();
  benchOnsets();
  benchRender();
  benchGrowth();
}

function fromBytes(bytes: Uint8Array, unread = false): Part {
  const file = readSmf(bytes);
  return importPart(file, { name: 'part', lanes: drumLanes(file, listLanes(file)), ...(unread ? { unread: true as const } : {}) }).part;
}

function benchImport(bytes: Uint8Array): void {
  const m = compare(
    () => fromBytes(bytes, true),
    () => parseMidi(bytes),
  );
  say('import', m.value, 'ms', m.baseline, 4.5);
}

/** Reading the homes of a part, and of one ten times as long, a hit. */
function benchReading(part: Part): void {
  const m = compare(
    () => readHomes(fresh(part)),
    () => structuredClone(part.hits),
  );
  say('reading', m.value, 'ms', m.baseline, 6);
  const long = fromBytes(exportPart(largePart(5 * HITS)).bytes, true);
  const each = (of: Part, runs: number): number =>
    median(Array.from({ length: runs }, () => time(() => readHomes(fresh(of))))) / of.hits.length;
  const short = fromBytes(exportPart(largePart(HITS)).bytes, true);
  say('reading-growth', each(long, 3) * 1e6, 'ns a hit', each(short, 7) * 1e6, 1.5);
}

function benchExport(part: Part): void {
  const parsed = parseMidi(exportPart(part).bytes);
  const tracks: MidiEvent[][] = parsed.tracks;
  const m = compare(
    () => exportPart(fresh(part)),
    () => writeMidi({ header: parsed.header, tracks }),
    11,
  );
  say('export', m.value, 'ms', m.baseline, 0.5);
}

function benchPerform(part: Part): void {
  const felt = { ...part, feel: { ...part.feel, moves: sixMoves } };
  // As in a sweep: the hits stay, so what depends on them alone (homes) is known.
  const m = compare(
    () => performPart({ ...felt }),
    () => structuredClone(part.hits),
  );
  say('perform', m.value, 'ms', m.baseline, 0.6);
  const cold = compare(
    () => performPart(fresh(felt)),
    () => structuredClone(part.hits),
  );
  say('perform-cold', cold.value, 'ms', cold.baseline, 1.2);
}

const ORNAMENTS = 2_000;

/** The same with 2,000 rolls, flams and echoes; and making their strokes. */
function benchOrnaments(part: Part): void {
  const felt = ornamented({ ...part, feel: { ...part.feel, moves: sixMoves } }, ORNAMENTS);
  const m = compare(
    () => performPart({ ...felt }),
    () => structuredClone(felt.hits),
  );
  say('perform-ornaments', m.value, 'ms', m.baseline, 1);
  const performed = performPart(felt);
  // A copy of what is performed: strokes are remembered by it.
  const strokes = compare(
    () => strokesOf(felt, { ...performed }),
    () => structuredClone(felt.hits),
  );
  say('expand-ornaments', strokes.value, 'ms', strokes.baseline, 1);
}

function benchLearn(part: Part): void {
  const m = compare(
    () => learnGroove(fresh(part), { perVoice: true }),
    () => structuredClone(part.hits),
  );
  say('learn', m.value, 'ms', m.baseline, 2);
}

/** Finding the beats of 12,000 hits that were played freely, and of a quarter of them, a hit. */
function benchBeats(): void {
  const all = freeTake(5, { bars: 2400 }).strokes.slice(0, HITS);
  const m = compare(
    () => findBeats(all),
    () => structuredClone(all),
    3,
  );
  say('beats', m.value, 'ms', m.baseline, BEATS_BAR);
  const few = all.slice(0, HITS / 4);
  const each = (of: typeof all): number => time(() => findBeats(of)) / of.length;
  say('beats-growth', each(all) * 1e6, 'ns a hit', each(few) * 1e6, 1.5);
}

const EVENTS = 1_000;
/** What browsers' pairs of clocks were seen to be off by. */
const PAIR_JITTER_MS = 1;

/**
 * 1,000 simulated strokes over 100 s: stamped by the page's clock, mapped to the audio clock by jittered pairs, kept; the worst distance.
 */
function benchRecordTiming(): void {
  const random = randomStream(7);
  const normal = normalStream(random);
  const clock = new ClockMap();
  // The page's clock runs 20 millionths fast and started 1,234.5 s before the audio clock.
  const pageOf = (audio: number): number => (audio * (1 + 20e-6) + 1234.5) * 1000;
  const sent = Array.from({ length: EVENTS }, () => random() * 100).sort((a, b) => a - b);
  let paired = -6.4;
  const off = sent.map((at) => {
    for (; paired <= at; paired += 0.1) clock.add({ audio: seconds(paired + (PAIR_JITTER_MS / 1000) * normal()), page: pageOf(paired) });
    return Math.abs(clock.toAudio(pageOf(at)) - at) * 1000;
  });
  say('record-timing', Math.max(...off), 'ms at worst', 1, 1);
}

/** One event of a take as it is played: folded, and its pass made into hits; at the end of a long take and of a short one. */
function benchRecordFold(): void {
  const part = largePart(16);
  const range = ticksOfBars(part, 0, 4);
  const take: Take = {
    id: 'measured',
    name: 'Take 1',
    recordedAt: 0,
    input: 'none',
    tempo: part.tempo,
    meter: part.meter,
    origin: part.origin,
    ...range,
    latencyMs: milliseconds(0),
    curve: STRAIGHT_CURVE,
    guards: OPEN_GUARDS,
    passes: 0,
    complete: false,
  };
  const length = tempoMapOf(part).toSeconds(range.end) - tempoMapOf(part).toSeconds(range.start);
  const PER_PASS = 64;
  const ofTake = (count: number): number => {
    const times: number[] = [];
    for (let round = 0; round < 40; round++) {
      const folder = new TakeFolder(take);
      let pass: FoldedStroke[] = [];
      let spent = 0;
      for (let i = 0; i < count; i++) {
        const last = i >= count - PER_PASS / 2;
        const t0 = performance.now();
        const stroke = folder.add({ at: seconds((i * length) / PER_PASS), kind: 'note', key: 36 + (i % 8), value: 1 + (i % 127) });
        if (stroke) pass.push(stroke);
        const hits = hitsOfStrokes(part, take, pass.length > PER_PASS ? (pass = pass.slice(-PER_PASS)) : pass);
        if (last && hits.length > 0) spent += performance.now() - t0;
      }
      times.push((spent / (PER_PASS / 2)) * 1000);
    }
    return median(times.slice(10));
  };
  ofTake(100);
  const long = ofTake(HITS);
  say('record-fold', long, 'us an event', ofTake(100), 2);
}

/** Who plays what, of 12,000 hits, and how it grows. */
function benchHands(): void {
  const part = largePart(HITS);
  const m = compare(
    () => stickingOfPart(fresh(part)),
    () => structuredClone(part.hits),
  );
  say('hands', m.value, 'ms', m.baseline, 20);
  const perHit = (count: number): number => {
    const long = largePart(count);
    const times = [0, 1, 2].map(() => {
      collectGarbage();
      const t0 = performance.now();
      stickingOfPart(fresh(long));
      return (performance.now() - t0) / count;
    });
    return median(times) * 1e6;
  };
  perHit(10_000);
  say('hands-growth', perHit(100_000), 'ns a hit', perHit(10_000), 1.5);
  const between = compare(
    () => [togetherOf(fresh(part)), competingIn(part), alikeBars(part)],
    () => structuredClone(part.hits),
  );
  say('between-rows', between.value, 'ms', between.baseline, 20);
}

function benchGrowth(): void {
  const perHit = (count: number): number => {
    const part = { ...largePart(count), feel: { ...largePart(1).feel, moves: sixMoves } };
    const times: number[] = [];
    for (let i = 0; i < 15; i++) {
      const copies = Array.from({ length: Math.max(1, Math.round(20_000 / count)) }, () => fresh(part));
      collectGarbage();
      const t0 = performance.now();
      for (const copy of copies) performPart(copy);
      times.push((performance.now() - t0) / (copies.length * count));
    }
    return median(times.slice(3)) * 1e6;
  };
  perHit(1_000);
  perHit(100_000);
  say('growth', perHit(100_000), 'ns a hit', perHit(1_000), 1.5);
}

/** One step back of an edit of all hits, to the new performance that the screen needs. */
function benchUndo(part: Part): void {
  const all = new Set(part.hits.map((h) => h.id));
  const after = addVelocity(part, all, -3);
  const back = invertDiff(diffParts(part, after) as PartDiff);
  const one = new Set([part.hits[100]!.id]);
  const little = addVelocity(part, one, -3);
  const backOne = invertDiff(diffParts(part, little) as PartDiff);
  const wait = () => undefined;
  say('undo', compare(() => performPart(applyDiff(little, backOne)), wait).value, 'ms', FRAME_MS, 1);
  say('undo-all', compare(() => performPart(applyDiff(after, back)), wait).value, 'ms', FRAME_MS, 1);
}
