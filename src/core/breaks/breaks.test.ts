import { breakOf, randomBeat, scored, strokesAt } from '@tests/support/breaks';
import { parsePart } from '@/formats/part-format';
import { writeWav } from '../audio/wav';
import { playOnKit, readByKit, rowsWithout, setKeyVoice } from '../commands/rows';
import { GALLEY_KIT } from '../key-map';
import { isOfBreak } from '../model/break';
import { exportPart } from '../smf/export-part';
import { monoOf } from '../onsets/listen';
import { hearBreak } from '../onsets/hear-break';
import { findOnsets } from '../onsets/onsets';
import { NO_OWN_SOUNDS } from '../model/own-sound';
import type { Part } from '../model/part';
import { renderPart, strokeSource } from '../render/render-part';
import { applyDiff, diffParts, invertDiff } from '../part/diff';
import { bpmOf } from '../time/tempo-map';
import { seconds, ticks, TICKS_PER_QUARTER } from '../units';
import {
  freshBreak,
  hearStrokes,
  hearStrokesAgain,
  layerBreak,
  markStroke,
  moveLine,
  partOfBreak,
  readBreakAs,
  removeBreak,
  setBreak,
  setPiece,
  setSensitivity,
} from './edit';
import { bpmOfBreak, momentOfTick, tickOfMoment } from './lines';
import { heardIn, strokesOfBreak } from './strokes';

const RATE = 44_100;
const SAMPLE = 'ab'.repeat(32);
const known = breakOf(randomBeat(3, 'Dry Dock'), RATE);
const loopSeconds = (known.part.bars * 4 * 60) / known.bpm;
const wav = writeWav(known.mono, known.mono, { rate: RATE, bits: '32f' });
const fresh = freshBreak({ id: 'brk', name: 'Loop', sample: SAMPLE, seconds: seconds(known.mono.length / RATE) });
const heard = hearBreak(known.mono, RATE);
const whole = hearStrokes(partOfBreak(fresh), 'brk', heard);
const sounds = { ...NO_OWN_SOUNDS, has: (sample: string) => sample === SAMPLE };
const rendered = (part: Part) => {
  const { left, right } = renderPart(part, {
    rate: RATE,
    ending: 'ring',
    volume: 1,
    limited: false,
    sounds,
    strokes: strokeSource(RATE, () => wav),
  });
  return monoOf({ left, right });
};
const of = (part: Part) => part.breaks![0]!;
const own = (part: Part) => part.hits.map((h) => h.id);

test('before it is listened to, a break loops as it is', () => {
  const part = partOfBreak(fresh);
  expect(part.hits).toHaveLength(1);
  const sound = rendered(part);
  const loop = (part.bars * 4 * 60) / bpmOf(part.tempo[0]!);
  expect(loop).toBeCloseTo(known.mono.length / RATE, 3);
  let worst = 0;
  for (let i = 100; i < known.mono.length - 400; i++) worst = Math.max(worst, Math.abs(sound[i]! - known.mono[i]!));
  expect(worst).toBeLessThan(1e-4);
});

test('listened to, its pieces play it again: its tempo, its bars, the recording', () => {
  expect(of(whole).cut).toBe('strokes');
  expect(whole.bars).toBe(known.part.bars);
  expect(Math.abs(bpmOf(whole.tempo[0]!) / known.bpm - 1)).toBeLessThan(0.01);
  expect(parsePart(JSON.parse(JSON.stringify(whole)))).toEqual(whole);
  const sound = rendered(whole);
  const first = Math.round(of(whole).lines[0]! * RATE);
  const n = Math.round((of(whole).lines.at(-1)! - of(whole).lines[0]!) * RATE) - 2000;
  let [off, all] = [0, 0];
  for (let i = 1000; i < n; i++) {
    off += (sound[i]! - known.mono[first + i]!) ** 2;
    all += known.mono[first + i]! ** 2;
  }
  // What differs is the edges of the pieces.
  expect(10 * Math.log10(off / all)).toBeLessThan(-20);
});

test('its hits lean where the drummer put them', () => {
  const found = scored(
    whole.hits.map((h) => momentOfTick(whole, of(whole), h.tick)),
    known.times.filter((t) => t < loopSeconds),
  );
  expect(found.f).toBeGreaterThan(0.97);
  expect(found.medianError).toBeLessThan(0.001);
});

test('moments and ticks are each other’s way back, also where bars drift', () => {
  const drifting = moveLine(whole, 'brk', 1, of(whole).lines[1]! + 0.03);
  for (const at of [0.1, 1.2, 2.5, 3.1]) {
    const moment = of(drifting).lines[0]! + at;
    expect(momentOfTick(drifting, of(drifting), tickOfMoment(drifting, of(drifting), moment))).toBeCloseTo(moment, 4);
  }
  expect(tickOfMoment(drifting, of(drifting), of(drifting).lines[1]!)).toBe(4 * TICKS_PER_QUARTER);
});

test('sensitivity chooses among what was heard; what the hand put stays', () => {
  const strokes = strokesOfBreak(of(whole), heardIn(whole, 'brk'));
  const least = strokesOfBreak({ ...of(whole), sensitivity: 0.1 }, heardIn(whole, 'brk')).filter((s) => !s.belowThreshold);
  const most = strokesOfBreak({ ...of(whole), sensitivity: 0.95 }, heardIn(whole, 'brk')).filter((s) => !s.belowThreshold);
  expect(least.length).toBeLessThan(strokes.filter((s) => !s.belowThreshold).length);
  expect(most.length).toBeGreaterThan(least.length);
  const moved = strokes.find((s) => !s.belowThreshold && s.at > 1)!;
  let part = markStroke(whole, 'brk', moved.id, { at: seconds(moved.at + 0.01) });
  part = markStroke(part, 'brk', null, { at: seconds(0.777), as: 'hat' });
  const other = strokes.findLast((s) => !s.belowThreshold && s.at < moved.at - 0.05)!;
  part = markStroke(part, 'brk', other.id, { gone: true });
  const deaf = setSensitivity(part, 'brk', 0);
  const left = strokesOfBreak(of(deaf), heardIn(deaf, 'brk'));
  expect(left.find((s) => s.id === moved.id)).toMatchObject({ at: moved.at + 0.01, belowThreshold: false, byHand: true });
  expect(left.find((s) => s.id === 'h0')).toMatchObject({ at: 0.777, kind: 'hat', sure: 1, belowThreshold: false });
  expect(left.find((s) => s.id === other.id)).toBeUndefined();
  expect(own(deaf)).toContain('brk.0.h0');
});

test('cut anew, what was done to hits stays with their pieces', () => {
  const [a, b, c] = [whole.hits[2]!, whole.hits[4]!, whole.hits[6]!];
  const nudged: Part = {
    ...whole,
    hits: whole.hits
      .filter((h) => h !== b)
      .map((h) => (h === a ? { ...h, tick: ticks(h.tick + 500) } : h === c ? { ...h, nudge: { ms: 5 as never, velocity: 0 } } : h)),
  };
  const last = whole.hits.at(-1)!;
  const swept = markStroke(nudged, 'brk', of(whole).pieces[last.piece!]!.id, { gone: true });
  expect(swept.hits.find((h) => h.id === a.id)!.tick).toBe(a.tick + 500);
  expect(swept.hits.find((h) => h.id === c.id)!.nudge).toEqual({ ms: 5, velocity: 0 });
  expect(swept.hits.find((h) => h.id === b.id)).toBeUndefined();
  expect(swept.hits.find((h) => h.id === last.id)).toBeUndefined();
  for (const hit of swept.hits) expect(hit.id.endsWith(of(swept).pieces[hit.piece!]!.id)).toBe(true);
});

test.each([
  ['eighths', 16],
  ['sixteenths', 32],
  ['sixteen', 16],
  ['bars', 2],
  ['whole', 1],
] as const)('cut by %s it has so many pieces, without a gap', (cut, count) => {
  const part = setBreak(whole, 'brk', { cut });
  const { pieces, lines } = of(part);
  expect(pieces).toHaveLength(count);
  expect(pieces[0]!.from).toBeCloseTo(lines[0]!, 9);
  expect(pieces.at(-1)!.until).toBeCloseTo(lines.at(-1)!, 9);
  pieces.slice(1).forEach((p, i) => expect(p.from).toBe(pieces[i]!.until));
});

test('swung, pieces sound where swing says, to the millisecond', () => {
  // Clicks in sixteenths, so that every second one is moved.
  const bpm = 100;
  const clicks = new Float32Array(Math.round(2.4 * RATE));
  for (let s = 0; s < 16; s++)
    for (let i = 0; i < 900; i++) clicks[Math.round(s * 0.15 * RATE) + i] = 0.5 * Math.exp(-i / 150) * Math.sin(i * 0.7 + 1);
  const bytes = writeWav(clicks, clicks, { rate: RATE, bits: '24' });
  const base = partOfBreak(freshBreak({ id: 'c', name: 'Clicks', sample: SAMPLE, seconds: seconds(2.4) }));
  const listened = hearStrokes(base, 'c', hearBreak(clicks, RATE));
  const counted = readBreakAs(listened, 'c', { bars: 1, meter: [4, 4], bpm, firstDownbeat: seconds(0) });
  expect(counted.hits).toHaveLength(16);
  const swung: Part = { ...counted, feel: { ...counted.feel, moves: [{ kind: 'swing', division: '1/16', percent: 60 }] } };
  const { left } = renderPart(swung, { rate: RATE, ending: 'ring', volume: 1, sounds, strokes: strokeSource(RATE, () => bytes) });
  const onsets = findOnsets(left, RATE).map((o) => o.seconds);
  const wanted = Array.from({ length: 16 }, (_, s) => (s % 2 === 0 ? s * 0.15 : (s - 1) * 0.15 + 0.3 * 0.6));
  expect(onsets).toHaveLength(16);
  onsets.forEach((at, i) => expect(Math.abs(at - wanted[i]!)).toBeLessThan(0.001));
});

test('layered under a part it comes round in time with it, and goes again', () => {
  const beat = randomBeat(2, 'Wheelhouse', 4);
  const base = hearStrokes(partOfBreak(fresh), 'brk', heard);
  const layered = layerBreak({ ...beat, heard: base.heard! }, of(base));
  expect(layered.tempo).toEqual(beat.tempo);
  expect(layered.hits.filter((h) => h.piece !== undefined)).toHaveLength(2 * of(base).pieces.length);
  expect(layered.rows.some((r) => r.name === 'Kick slices')).toBe(true);
  expect(removeBreak(layered, 'brk')).toEqual({ ...beat, hits: expect.arrayContaining([...beat.hits]) as unknown });
  const diff = diffParts(beat, layered)!;
  expect(applyDiff(applyDiff(beat, diff), invertDiff(diff))).toEqual(beat);
});

test('pitch follows the tempo where it is asked to; a piece is softer, higher or backwards by itself', () => {
  const faster: Part = { ...whole, tempo: whole.tempo.map((t) => ({ ...t, microsecondsPerQuarter: t.microsecondsPerQuarter / 2 })) };
  const length = (p: Part) => rendered(p).length;
  expect(length(setBreak(faster, 'brk', { repitch: true }))).toBeLessThan(length(whole) * 0.75);
  const changed = setPiece(whole, 'brk', 0, { level: -6, tune: 12, backwards: true });
  expect(of(changed).pieces[0]).toMatchObject({ level: -6, tune: 12, backwards: true });
  expect(of(setPiece(changed, 'brk', 0, { level: 0, tune: 0, backwards: false }))).toEqual(of(whole));
  expect(rendered(changed)).not.toEqual(rendered(whole));
});

test('without its recording the kit plays, and it is said', () => {
  const { account } = renderPart(whole, { rate: RATE, ending: 'ring', volume: 1, strokes: strokesAt(RATE) });
  expect(account.missing.map((m) => m.name)).toContain('Loop');
  expect(bpmOfBreak(of(whole))).toBeCloseTo(bpmOf(whole.tempo[0]!), 2);
});

test('key maps leave its rows alone, and its hits cut no drum’s note', () => {
  const beat = randomBeat(2, 'Wheelhouse', 4);
  const base = hearStrokes(partOfBreak(fresh), 'brk', heard);
  const layered = layerBreak({ ...beat, heard: base.heard! }, of(base));
  const ours = (part: Part) => part.hits.filter((h) => h.piece !== undefined);
  for (const changed of [readByKit(layered, GALLEY_KIT), playOnKit(layered, GALLEY_KIT), setKeyVoice(layered, 0, 'clap')])
    expect(ours(changed)).toEqual(ours(layered));
  expect(rowsWithout(layered, GALLEY_KIT)).toEqual(rowsWithout(beat, GALLEY_KIT));
  expect(exportPart(layered).bytes).toEqual(exportPart(beat).bytes);
  expect(exportPart(layered).left.recorded.sort()).toEqual(layered.rows.flatMap((r) => (isOfBreak(r.plays) ? [r.voice] : [])).sort());
});

test('detected again, a break gets prints and new names; its bar lines and what was named by hand stay', () => {
  const { prints: _prints, ...columns } = heard;
  const old = { ...columns, kinds: heard.kinds.map(() => 'other' as const), also: heard.also.map(() => null) };
  const named = markStroke(hearStrokes(partOfBreak(fresh), 'brk', old), 'brk', 'n1', { as: 'snare', also: 'kick' });
  const moved = moveLine(named, 'brk', 1, (of(named).lines[1] as number) + 0.02);
  const again = hearStrokesAgain(moved, 'brk', heard);
  expect(of(again).lines).toEqual(of(moved).lines);
  const strokes = strokesOfBreak(of(again), heardIn(again, 'brk'));
  expect(strokes.find((s) => s.id === 'n1')).toMatchObject({ kind: 'snare', also: 'kick', sure: 1 });
  expect(strokes.map((s) => s.id)).toEqual(strokesOfBreak(of(moved), heardIn(moved, 'brk')).map((s) => s.id));
  expect(new Set(strokes.map((s) => s.kind)).size).toBeGreaterThan(2);
  expect(parsePart(JSON.parse(JSON.stringify(again))).heard![0]!.prints).toEqual(heard.prints);
});
