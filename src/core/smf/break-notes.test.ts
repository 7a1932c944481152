import { parseMidi } from 'midi-file';
import { freshBreak, hearStrokes, nameStrokes, partOfBreak } from '../breaks/edit';
import { heardIn, strokesOfBreak } from '../breaks/strokes';
import { setRow } from '../commands/settings';
import type { Part } from '../model/part';
import { seconds } from '../units';
import { exportPart } from './export-part';

/** Two seconds, a bar of 4/4: kick and hat, hat, snare, hat. */
const part: Part = hearStrokes(partOfBreak(freshBreak({ id: 'b', name: 'Loop', sample: 'ab'.repeat(32), seconds: seconds(2) })), 'b', {
  at: [0, 0.5, 1, 1.5],
  strength: [1, 1, 1, 1],
  over: [5, 5, 5, 5],
  level: [0.5, 0.2, 0.5, 0.2],
  kinds: ['kick', 'hat', 'snare', 'hat'],
  sure: [0.9, 0.9, 0.9, 0.9],
  also: ['hat', null, null, null],
  readings: [{ bars: 1, meter: [4, 4], bpm: 120, firstDownbeat: seconds(0) }],
});

function notes(p: Part, options: Parameters<typeof exportPart>[1] = {}): [tick: number, key: number][] {
  return parseMidi(exportPart(p, { ppq: 480, ...options }).bytes)
    .tracks.flatMap((track) => {
      let now = 0;
      return track.flatMap((e): [number, number][] => {
        now += e.deltaTime;
        return e.type === 'noteOn' && e.velocity > 0 ? [[now, e.noteNumber]] : [];
      });
    })
    .sort((x, y) => x[0] - y[0] || x[1] - y[1]);
}

test('hits of a break alone are written with the keys of kick, snare and hat, both where two are struck together', () => {
  expect(notes(part)).toEqual([
    [0, 36],
    [0, 42],
    [480, 42],
    [960, 38],
    [1440, 42],
  ]);
  expect(exportPart(part).left.recorded).toEqual([]);
});

test('what is renamed is written under its new name, what is muted is not, unless it is asked for', () => {
  const [, second] = strokesOfBreak(part.breaks![0]!, heardIn(part, 'b'));
  const renamed = nameStrokes(part, 'b', [second!.id], { kind: 'snare' });
  expect(notes(renamed)[2]).toEqual([480, 38]);
  const hats = part.rows.find((r) => r.voice.endsWith('-hat'))!.voice;
  const muted = setRow(part, hats, { muted: true });
  // The hat under the kick is the kick's slice and stays.
  expect(notes(muted)).toEqual([
    [0, 36],
    [0, 42],
    [960, 38],
  ]);
  expect(notes(muted, { withMuted: true })).toHaveLength(5);
  expect(notes(part, { onlyRows: new Set([hats]) }).map(([, key]) => key)).toEqual([42, 42]);
});

test('under other rows a break’s hits are left out, and named', () => {
  const hit = part.hits[0]!;
  const { piece: _piece, ...plain } = hit;
  const both: Part = {
    ...part,
    rows: [...part.rows, { voice: 'ride' }],
    hits: [...part.hits, { ...plain, id: 'r', voice: 'ride', key: 51 }],
  };
  expect(notes(both)).toEqual([[0, 51]]);
  expect(exportPart(both).left.recorded).toHaveLength(3);
});
