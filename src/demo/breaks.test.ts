import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { scored } from '@tests/support/breaks';
import { bpmOf } from '@/core/time/tempo-map';
import { recordBreak } from './record-break';
import { makeProgram } from '@/core/playback/program';
import { performPart } from '@/core/perform/perform';
import { endOfPart } from '@/core/part/part-time';
import { ticks } from '@/core/units';
import { onsetTimes } from '@tests/support/breaks';
import { parsePart } from '@/formats/part-format';
import { demoBreaks } from './breaks';
import type { DemoPart } from './cue';
import { demoCues } from './cues';
import recorded from './recorded-breaks.json';

test.each(demoBreaks())('$name: what is heard in it is what was played', ({ id, part }) => {
  const { heard, seconds } = recorded.find((r) => r.id === id)!;
  const program = makeProgram(
    part,
    performPart(part),
    { start: ticks(0), end: endOfPart(part), loop: true },
    (h) => part.hits.indexOf(h),
    () => 0,
  );
  const times = onsetTimes([...program.offsets].map((t) => (t + seconds) % seconds));
  const { f, medianError } = scored(
    heard.at.filter((_, i) => heard.over[i]! >= 1),
    times,
  );
  expect(f).toBeGreaterThanOrEqual(0.995);
  expect(medianError).toBeLessThan(0.0006);
  const [tempo] = part.tempo;
  expect(heard.readings[0]).toMatchObject({
    bars: part.bars,
    meter: [part.meter[0]!.numerator, part.meter[0]!.denominator],
    bpm: expect.closeTo(bpmOf(tempo!), 1) as number,
    firstDownbeat: 0,
  });
});

test('the files that come along are what the code records', () => {
  for (const { id, part } of demoBreaks()) {
    const { wav, seconds, heard } = recordBreak(part);
    const kept = recorded.find((r) => r.id === id)!;
    expect(heard.at).toEqual(kept.heard.at);
    expect(seconds).toBe(kept.seconds);
    const file = readFileSync(`public/breaks/${id}.wav`);
    expect(createHash('sha256').update(file).digest('hex')).toBe(kept.sample);
    expect(Buffer.compare(file, Buffer.from(wav))).toBe(0);
  }
});

test('the demo parts that come along as data are those of the code', () => {
  const kept = JSON.parse(readFileSync('public/demo/parts.json', 'utf8')) as (Omit<DemoPart, 'song'> & {
    song?: string;
    summary: unknown;
  })[];
  expect(kept.map(({ song, summary: _, ...cue }) => ({ ...cue, ...(song ? { song: [...Buffer.from(song, 'base64')] } : {}) }))).toEqual(
    demoCues().map(({ song, ...cue }) => ({ ...(JSON.parse(JSON.stringify(cue)) as typeof cue), ...(song ? { song: [...song] } : {}) })),
  );
  for (const { part } of kept) expect(parsePart(part)).toEqual(part);
});
