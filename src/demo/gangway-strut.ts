import { encodeText } from '@/core/smf/text';
import { SmfWriter } from '@/core/smf/write';
import { ticks, TICKS_PER_QUARTER } from '@/core/units';
import { patternHits, type StepPattern } from './pattern';

/** "Gangway Strut" as a whole song in bytes: tempo track, bass, brass, drums, the drums flat at velocity 100. */

const PPQ = 480;
const BAR = 4 * PPQ;

interface SongNote {
  tick: number;
  key: number;
  length: number;
  velocity: number;
}

const A: StepPattern = {
  'hat-closed': 'x.x.x.x.x.x.x.x.',
  snare: '....x..x.x..x...',
  kick: 'x..x....x..x..x.',
  tambourine: '....x.......x...',
};
const B: StepPattern = {
  'hat-closed': 'x.x.x.x.x.x.x...',
  'hat-open': '..............x.',
  snare: '....x..x.x..x..x',
  kick: 'x..x....x.....x.',
  tambourine: '....x.......x...',
};
const FILL: StepPattern = {
  'hat-closed': 'x.x.x.x.........',
  snare: '....x..x.xxxx...',
  'tom-high': '............xx..',
  'tom-floor': '..............xx',
  kick: 'x..x....x.......',
};
const TOP: StepPattern = { ...A, crash: 'x...............', 'hat-closed': '..x.x.x.x.x.x.x.' };

const BARS: readonly StepPattern[] = [A, B, A, FILL, TOP, B, A, FILL];
const FLAT = 100;

const drums = (): SongNote[] =>
  BARS.flatMap((bar, i) => patternHits(bar, '1/16', ticks(i * 4 * TICKS_PER_QUARTER))).map((h) => ({
    tick: (h.tick * PPQ) / TICKS_PER_QUARTER,
    key: h.key,
    length: 60,
    velocity: FLAT,
  }));

const bass = (): SongNote[] =>
  BARS.flatMap((_, bar) =>
    [34, 34, 41, 34].map((key, beat) => ({
      tick: bar * BAR + beat * PPQ,
      key: key + [0, 0, 5, 0][bar % 4]!,
      length: PPQ * 0.75,
      velocity: 88,
    })),
  );

const brass = (): SongNote[] =>
  BARS.flatMap((_, bar) =>
    [0, 1.5, 2.5].map((at, i) => ({
      tick: bar * BAR + at * PPQ,
      key: [65, 62, 58][i]! + [0, 0, 5, 0][bar % 4]!,
      length: PPQ * 0.4,
      velocity: 92,
    })),
  );

export function strutSong(): Uint8Array {
  const w = new SmfWriter();
  w.header(1, 4, PPQ);
  w.track(() => {
    name(w, 'Gangway Strut');
    meta(w, 0, 0x51, [0x09, 0x89, 0x68]); // 625,000 microseconds: 96 BPM
    meta(w, 0, 0x58, [4, 2, 24, 8]);
    meta(w, 0, 0x2f, []);
  });
  track(w, 'Bass horn', 1, 58, bass());
  track(w, 'Brass', 2, 61, brass());
  track(w, 'Drums', 10, 0, drums());
  return w.finish();
}

function track(w: SmfWriter, title: string, channel: number, program: number, notes: readonly SongNote[]) {
  w.track(() => {
    name(w, title);
    w.quantity(0);
    w.byte(0xc0 | (channel - 1));
    w.byte(program);
    const events = notes
      .flatMap((n) => [
        { tick: n.tick, status: 0x90, key: n.key, value: n.velocity },
        { tick: n.tick + n.length, status: 0x80, key: n.key, value: 64 },
      ])
      .sort((a, b) => a.tick - b.tick || a.status - b.status);
    let now = 0;
    for (const e of events) {
      w.quantity(e.tick - now);
      w.byte(e.status | (channel - 1));
      w.byte(e.key);
      w.byte(e.value);
      now = e.tick;
    }
    meta(w, 0, 0x2f, []);
  });
}

function meta(w: SmfWriter, delta: number, type: number, data: readonly number[]) {
  w.quantity(delta);
  w.byte(0xff);
  w.byte(type);
  w.quantity(data.length);
  for (const b of data) w.byte(b);
}

const name = (w: SmfWriter, text: string): void => meta(w, 0, 0x03, encodeText(text));
