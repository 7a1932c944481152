/** Measurements of what is heard: handing over, mixing, rendering, listening. */
import { performPart, writtenPerformance } from '@/core/perform/perform';
import { ticksOfBars } from '@/core/commands/settings';
import { Mixer, oneTake, PLAIN } from '@/core/playback/mixer';
import { PLAIN_MIX_OF_PART } from '@/core/playback/row-mix';
import { Player } from '@/core/playback/player';
import { endOfPart } from '@/core/part/part-time';
import { makeProgram } from '@/core/playback/program';
import { handOver } from '@/sound/hand-over';
import { HitNumbers } from '@/sound/slots';
import type { Part } from '@/core/model/part';
import { randomStream } from '@/core/random';
import { demoBreaks } from '@/demo/breaks';
import { recordBreak } from '@/demo/record-break';
import { onsetTimes, scored } from '@tests/support/breaks';
import { listenTo } from '@/core/onsets/listen';
import { renderPart, strokeSource } from '@/core/render/render-part';
import { ticks, velocity } from '@/core/units';
import { collectGarbage, median, say } from './measure.mjs';
import { largePart, sixMoves } from './large-part';

const HITS = 12_000;

const RATE = 48_000;
const BLOCK = 128;

/**
 * What the audio thread does when a part of 12,000 hits is handed over while it plays: takes its place in it and renders on; the memory is
 * handed over, not copied.
 */
export function benchHandOver(): void {
  const part = { ...largePart(HITS), feel: { ...largePart(1).feel, moves: sixMoves } };
  const range = { ...ticksOfBars(part, 0, part.bars), loop: true };
  const slots = new HitNumbers();
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
export function benchRender(): void {
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
export function benchVoices(): void {
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

/** A minute of noise bursts on sixteenths, listened to: how much faster than it lasts. */
export function benchOnsets(): void {
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
