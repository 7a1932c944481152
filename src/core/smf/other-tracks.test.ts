import { midiFile, noteEvents, tempoEvent, text, trackChunk, type TestEvent } from '@tests/support/midi-bytes';
import { TICKS_PER_QUARTER } from '../units';
import { otherTracks } from './other-tracks';
import { readSmf } from './read';
import { barsOfSong, songBarsText } from './song-bars';

const Q = TICKS_PER_QUARTER;
const named = (name: string): TestEvent => [0, 0xff, 3, name.length, ...text(name)];

test('the tracks beside the drums, each with its name and its notes; the bass is known by its name or by how low it lies', () => {
  const file = midiFile(1, 480, [
    trackChunk([tempoEvent(0, 500_000)]),
    trackChunk([named('Kit'), ...noteEvents([[0, 36, 100]])]),
    trackChunk([
      named('Bass'),
      ...noteEvents(
        [
          [0, 60, 90],
          [480, 62, 80],
        ],
        240,
        2,
      ),
    ]),
    trackChunk([
      named('Organ'),
      ...noteEvents(
        [
          [0, 72, 70],
          [0, 76, 70],
        ],
        960,
        3,
      ),
    ]),
    trackChunk([...noteEvents([[0, 33, 70]], 100, 4)]),
  ]);
  const found = otherTracks(readSmf(file), [{ track: 1, channel: 10 }]);
  expect(found.map((t) => [t.id, t.name, t.isBass, t.notes.length])).toEqual([
    ['2.2', 'Bass', true, 2],
    ['3.3', 'Organ', false, 2],
    ['4.4', 'Track 5, channel 4', true, 1],
  ]);
  expect(found[0]!.notes).toEqual([
    { start: 0, end: Q / 2, key: 60, velocity: 90 },
    { start: Q, end: Q * 1.5, key: 62, velocity: 80 },
  ]);
  // Where the drums are on another channel, that one is left out instead.
  expect(otherTracks(readSmf(file), [{ track: 3, channel: 3 }]).map((t) => t.id)).toEqual(['2.2', '4.4']);
});

test('a note that never ends lasts a quarter; one struck again ends with its own end', () => {
  const file = midiFile(0, 480, [
    trackChunk([
      [0, 0x91, 50, 90],
      [240, 0x91, 50, 80],
      [480, 0x81, 50, 0],
      [960, 0x91, 60, 70],
    ]),
  ]);
  const [track] = otherTracks(readSmf(file), []);
  expect(track!.notes.map((n) => [n.start / Q, n.end / Q, n.key])).toEqual([
    [0, 1, 50],
    [0.5, 1.5, 50],
    [2, 3, 60],
  ]);
});

test('a song has the bars up to its last event, whatever the drums end with', () => {
  const song = (end: number) =>
    readSmf(
      midiFile(1, 480, [
        trackChunk([tempoEvent(0, 500_000)]),
        trackChunk(noteEvents([[0, 36, 100]])),
        trackChunk(noteEvents([[0, 60, 90]], end, 2)),
      ]),
    );
  const drums = [{ track: 1, channel: 10 }];
  // Four quarters of 480 ticks a bar: what ends on a bar line does not begin a bar.
  expect([480, 1920, 1921, 3840].map((end) => barsOfSong(song(end), drums))).toEqual([1, 1, 2, 2]);
  expect(songBarsText(69, 73)).toBe('The part ends with its last drum hit, in bar 69. The song goes on to bar 73.');
});
