import { readFileSync } from 'node:fs';
import { parseMidi, writeMidi, type MidiEvent } from 'midi-file';
import { performPart, writtenPerformance } from '@/core/perform/perform';
import { ticksOfBars } from '@/core/commands/settings';
import { OPEN_GUARDS, type Take } from '@/core/model/take';
import { STRAIGHT_CURVE } from '@/core/velocity-curve';
import { tempoMapOf } from '@/core/part/part-time';
import { Mixer, oneTake, PLAIN } from '@/core/playback/mixer';
import { PLAIN_MIX_OF_PART } from '@/core/playback/row-mix';
import { Player } from '@/core/playback/player';
import { endOfPart } from '@/core/part/part-time';
import { makeProgram } from '@/core/playback/program';
import { handOver } from '@/sound/hand-over';
import { Slots } from '@/sound/slots';
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
import { demoBreaks } from '@/demo/breaks';
import { recordBreak } from '@/demo/record-break';
import { onsetTimes, scored } from '@tests/support/breaks';
import { alikeBars } from '@/core/analysis/alike';
import { competingIn, togetherOf } from '@/core/analysis/between';
import { stickingOfPart } from '@/core/analysis/playing';
import { listenTo } from '@/core/onsets/listen';
import { renderPart, strokeSource } from '@/core/render/render-part';
import { milliseconds, seconds, ticks, velocity } from '@/core/units';
import { collectGarbage, compare, median, say, time } from './measure.mjs';
import { largePart, ornamented, sixMoves } from './large-part';

const HITS = 12_000;
const FRAME_MS = 16.7;

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

const RATE = 48_000;
const BLOCK = 128;

/**
 * What the audio thread does when a part of 12,000 hits is handed over while it plays: takes its place in it and renders on; the memory is
 * handed over, not copied.
 */
function benchHandOver(): void {
  const part = { ...largePart(HITS), feel: { ...largePart(1).feel, moves: sixMoves } };
  const range = { ...ticksOfBars(part, 0, part.bars), loop: true };
  const slots = new Slots();
  const performed = makeProgram(part, performPart(part), range, slots.of, () => 0);
  const written = makeProgram(part, writtenPerformance(part), range, slots.of, () => 0);
  const player = new Player(RATE, [oneTake(new Float32Array(RATE))]);
  const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
  player.setPrograms({ performed, written });
  player.play(ticks(0), 0);
  let frame = 0;
  const block = () => {
    player.render(left, right, frame);
    frame += BLOCK;
  };
  for (let i = 0; i < 400; i++) block();
  const times: number[] = [];
  for (let i = 0; i < 60; i++) {
    const { versions } = handOver({ performed, written });
    collectGarbage();
    const t0 = performance.now();
    player.setPrograms(versions);
    block();
    times.push(performance.now() - t0);
  }
  say('hand-over', median(times.slice(10)), 'ms', (BLOCK / RATE) * 1000, 0.3);
}

/** 64 bars of twelve rows as audio, all strokes made anew, against the time they last; and the mixing alone. */
function benchRender(): void {
  const rows = [
    'crash',
    'ride',
    'hat-open',
    'hat-closed',
    'hat-pedal',
    'tambourine',
    'tom-high',
    'tom-floor',
    'rim',
    'snare',
    'clap',
    'kick',
  ];
  const random = randomStream(5);
  const hits = Array.from({ length: 64 * 16 }, (_, step) =>
    rows.flatMap((voice, i) =>
      random() < (i === 0 ? 0.02 : i < 3 ? 0.1 : i === 3 ? 0.6 : 0.15)
        ? [
            {
              id: `${voice}${step}`,
              voice,
              key: 36 + i,
              tick: ticks(step * 20_160),
              home: ticks(step * 20_160),
              length: ticks(10_080),
              velocity: velocity(30 + Math.floor(random() * 97)),
            },
          ]
        : [],
    ),
  ).flat();
  const part: Part = {
    ...largePart(1),
    bars: 64,
    meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
    origin: ticks(0),
    rows: rows.map((voice) => ({ voice })),
    hits,
  };
  const options = { rate: RATE, ending: 'ring', volume: 0.8 } as const;
  const strokes = strokeSource(RATE);
  const time = (run: () => void): number => {
    collectGarbage();
    const t0 = performance.now();
    run();
    return (performance.now() - t0) / 1000;
  };
  const cold = time(() => renderPart(part, { ...options, strokes }));
  const warm = median([0, 1, 2].map(() => time(() => renderPart(part, { ...options, strokes }))));
  say('render', 128 / warm, 'x real time', 1, 50, true);
  say('render-cold', 128 / cold, 'x real time, strokes made anew', 1, 0, true);
}

/** A block with as many sounds ringing as ever do, half of them pitched, the room on: against how long it lasts. */
function benchVoices(): void {
  const random = randomStream(3);
  const mixer = new Mixer(RATE, [oneTake(Float32Array.from({ length: 20 * RATE }, () => 0.02 * (random() - 0.5)))]);
  mixer.setMix({ ...PLAIN_MIX_OF_PART, room: { size: 40, amount: 0.3 } });
  const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
  for (let i = 0; i < 64; i++) mixer.start(0, 100, 0, { ...PLAIN, pitch: i % 2 === 0 ? 0 : (i % 7) - 3.5 });
  const times: number[] = [];
  for (let i = 0; i < 600; i++) {
    const t0 = performance.now();
    mixer.render(left, right);
    times.push(performance.now() - t0);
  }
  say('voices', median(times.slice(100)), 'ms a block, 64 ringing, half of them pitched', (BLOCK / RATE) * 1000, 1);
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

/** A minute of noise bursts on sixteenths, listened to: how much faster than it lasts. */
function benchOnsets(): void {
  const random = randomStream(11);
  const mono = new Float32Array(60 * RATE);
  for (let at = 0; at < mono.length; at += Math.round(RATE * 0.13)) {
    const level = 0.2 + 0.8 * random();
    for (let i = 0; i < RATE / 10 && at + i < mono.length; i++)
      mono[at + i] = (mono[at + i] as number) + level * Math.exp(-i / 1500) * (random() * 2 - 1) * 0.8;
  }
  const times = [0, 1, 2].map(() => {
    collectGarbage();
    const t0 = performance.now();
    listenTo(mono, RATE);
    return (performance.now() - t0) / 1000;
  });
  say('onsets', 60 / median(times), 'x real time', 1, 100, true);
  for (const { id, part } of demoBreaks()) {
    const { heard, seconds: length } = recordBreak(part);
    const { offsets } = makeProgram(
      part,
      performPart(part),
      { start: ticks(0), end: endOfPart(part), loop: true },
      (h) => part.hits.indexOf(h),
      () => 0,
    );
    const { f, medianError } = scored(
      heard.at.filter((_, i) => (heard.over[i] as number) >= 1),
      onsetTimes([...offsets].map((t) => (t + length) % length)),
    );
    say(`onsets-${id}`, f, 'F at 25 ms', 1, 0.995, true);
    say(`onsets-${id}-error`, medianError * 1000, 'ms, the median', 1, 0.6);
  }
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
