import { smallPart } from '@tests/support/arbitraries';
import { EMPTY_FEEL } from '../model/feel';
import { performPart, writtenPerformance } from '../perform/perform';
import type { Hit, Part } from '../model/part';
import { randomStream } from '../random';
import { ticksOfBars } from '../commands/settings';
import { milliseconds, ticks, TICKS_PER_QUARTER } from '../units';
import { oneTake } from './mixer';
import { Player } from './player';
import { makeProgram, type Program } from './program';
import type { ScheduledHit } from './sequencer';

const RATE = 48_000;
const BLOCK = 128;
const PRE_ROLL = 0.1 * RATE;
/** So far the limiter looks ahead: nothing can start sooner. */
const AHEAD = 0.005 * RATE;
/** One sample at full level: its place in the output is the onset. */
const CLICK = oneTake(Float32Array.of(1));

const slotOf = (hit: Hit): number => Number(hit.id.slice(1));
/** Without a room: what sounds is what started. */
function programs(roomy: Part, bars: [number, number] = [0, roomy.bars], loop = true): { performed: Program; written: Program } {
  const part: Part = { ...roomy, mix: { room: 0 } };
  const { start, end } = ticksOfBars(part, ...bars);
  const range = { start, end, loop };
  const voice = (): number => 0;
  return {
    performed: makeProgram(part, performPart(part), range, slotOf, voice),
    written: makeProgram(part, writtenPerformance(part), range, slotOf, voice),
  };
}

/** Renders `seconds`, calling `at` before each block; gives onsets and the frames that are not silent. */
function render(player: Player, seconds: number, at: (frame: number) => void = () => {}): { onsets: ScheduledHit[]; heard: number[] } {
  const onsets: ScheduledHit[] = [];
  const heard: number[] = [];
  const left = new Float32Array(BLOCK);
  const right = new Float32Array(BLOCK);
  for (let frame = 0; frame < seconds * RATE; frame += BLOCK) {
    at(frame);
    onsets.push(...player.render(left, right, frame));
    left.forEach((s, i) => s !== 0 && heard.push(frame + i));
  }
  return { onsets, heard };
}

const start = (part: Part, bars?: [number, number], loop = true): Player => {
  const player = new Player(RATE, [CLICK]);
  const p = programs(part, bars, loop);
  player.setPrograms(p);
  player.play(p.performed.startTick);
  return player;
};

const loud = (voice: string, count: number, step: number): [string, number, number][] =>
  Array.from({ length: count }, (_, i) => [voice, i * step, 127]);

test('every onset of the audio is within one sample of its performed time, over many passes of a loop of odd length', () => {
  const part = smallPart(loud('hat-closed', 16, 0.25), {
    tempo: [{ tick: ticks(0), microsecondsPerQuarter: 461_237 }],
    feel: { ...EMPTY_FEEL, moves: [{ kind: 'swing', division: '1/16', percent: 63.3 }] },
  });
  const performed = performPart(part).ticks;
  const perTick = (0.461237 * RATE) / TICKS_PER_QUARTER;
  const passes = 12;
  const loop = 4 * TICKS_PER_QUARTER * perTick;
  const { heard } = render(start(part), (passes * loop) / RATE);
  const expected = Array.from({ length: passes }, (_, p) => [...performed].map((t) => PRE_ROLL + p * loop + t * perTick)).flat();
  expect(heard.length).toBeGreaterThanOrEqual(expected.length - 16);
  heard.forEach((frame, i) => expect(Math.abs(frame - (expected[i] as number))).toBeLessThanOrEqual(1));
});

test('a first kick pushed 8 ms early sounds in every pass, the first included', () => {
  const base = smallPart(loud('kick', 4, 1));
  const part = { ...base, hits: base.hits.map((h, i) => (i === 0 ? { ...h, nudge: { ms: milliseconds(-8), velocity: 0 } } : h)) };
  const { heard } = render(start(part), 6.05);
  const kicks = heard.filter((f) => Math.abs(((f - PRE_ROLL + 0.008 * RATE) % (2 * RATE)) - 0) < 2);
  expect(kicks).toEqual([0, 1, 2].map((p) => PRE_ROLL + p * 2 * RATE - 0.008 * RATE));
  expect(heard).toHaveLength(12);
});

test('W toggled 20 times in mid-bar: no onset lost or doubled, each within a sample of one version’s time', () => {
  const random = randomStream(3);
  const base = smallPart(loud('hat-closed', 32, 0.125), {
    feel: { ...EMPTY_FEEL, moves: [{ kind: 'swing', division: '1/32', percent: 70 }] },
  });
  const part = {
    ...base,
    hits: base.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(Math.round((random() - 0.5) * 60)), velocity: 0 } })),
  };
  const loop = 2 * RATE;
  const times = [performPart(part).ticks, writtenPerformance(part).ticks].map((list) =>
    [...list].map((t) => (t / TICKS_PER_QUARTER) * 0.5 * RATE),
  );
  const toggles = Array.from({ length: 20 }, () => Math.round((0.15 + random() * 7.5) * RATE)).sort((a, b) => a - b);
  const player = start(part);
  let toggled = 0;
  const { onsets, heard } = render(player, 8.2, (frame) => {
    while (toggled < toggles.length && (toggles[toggled] as number) <= frame) player.setVersion(++toggled % 2 ? 'written' : 'performed');
  });
  expect(toggled).toBe(20);
  const seen = new Map<string, number>();
  for (const o of onsets) seen.set(`${o.slot}.${o.pass}`, (seen.get(`${o.slot}.${o.pass}`) ?? 0) + 1);
  expect([...seen.values()].every((n) => n === 1)).toBe(true);
  for (let pass = 0; pass < 4; pass++) for (let slot = 0; slot < 32; slot++) expect(seen.get(`${slot}.${pass}`)).toBe(1);
  for (const o of onsets) {
    const places = times.map((list) => PRE_ROLL + o.pass * loop + (list[o.slot] as number));
    expect(Math.min(...places.map((p) => Math.abs(p - o.frame)))).toBeLessThanOrEqual(1);
  }
  // Strokes that fall on one frame are one click in the audio.
  expect(heard).toEqual([...new Set(onsets.map((o) => o.frame))].sort((a, b) => a - b));
});

test('a swing swept for 5 s while it plays loses and doubles nothing', () => {
  const part = smallPart(loud('hat-closed', 16, 0.25));
  const player = start(part);
  const { onsets } = render(player, 6.1, (frame) => {
    if (frame % (BLOCK * 6) !== 0 || frame > 5 * RATE) return;
    const percent = 50 + 25 * Math.abs(Math.sin(frame / RATE));
    const p = programs({ ...part, feel: { ...EMPTY_FEEL, moves: [{ kind: 'swing', division: '1/16', percent }] } });
    player.setPrograms(p);
  });
  const seen = onsets.map((o) => `${o.slot}.${o.pass}`);
  expect(new Set(seen).size).toBe(seen.length);
  for (let pass = 0; pass < 3; pass++) for (let slot = 0; slot < 16; slot++) expect(seen).toContain(`${slot}.${pass}`);
});

test('a changed tempo keeps the place in the music', () => {
  const part = smallPart(loud('kick', 4, 1));
  const player = start(part);
  const faster = programs({ ...part, tempo: [{ tick: ticks(0), microsecondsPerQuarter: 250_000 }] });
  // After two beats (at 1.1 s) the tempo doubles: beats 3 and 4 come a quarter second apart.
  const { heard } = render(
    player,
    1.9,
    (frame) => frame === Math.ceil((1.05 * RATE) / BLOCK) * BLOCK && (player.setPrograms(faster), true),
  );
  const gaps = heard
    .slice(2)
    .map((f, i, all) => (i > 0 ? f - (all[i - 1] as number) : 0))
    .slice(1);
  expect(heard[1]! - heard[0]!).toBe(RATE / 2);
  expect(gaps.length).toBeGreaterThanOrEqual(2);
  gaps.forEach((g) => expect(Math.abs(g - RATE / 4)).toBeLessThanOrEqual(1));
});

test('a start in mid-loop plays from there; a part that does not loop ends', () => {
  const part = smallPart(loud('kick', 4, 1));
  const p = programs(part, [0, 1], false);
  const player = new Player(RATE, [CLICK]);
  player.setPrograms(p);
  player.play(ticks(2 * TICKS_PER_QUARTER));
  const { heard } = render(player, 3);
  expect(heard).toEqual([PRE_ROLL, PRE_ROLL + RATE / 2]);
  expect(player.state.playing).toBe(false);
});

test('hits belong to the loop by their home: an early first hit of bar 2 sounds in a loop of bar 2, not of bar 1', () => {
  const base = smallPart(
    [
      ['kick', 0, 127],
      ['kick', 4, 127],
    ],
    { bars: 2 },
  );
  const part = { ...base, hits: base.hits.map((h) => ({ ...h, nudge: { ms: milliseconds(-20), velocity: 0 } })) };
  expect([...programs(part, [1, 2]).performed.offsets]).toEqual([expect.closeTo(-0.02, 9)]);
  expect(programs(part, [0, 1]).performed.slots).toEqual(Int32Array.of(0));
});

test('muted rows and rows beside a soloed one are silent', () => {
  const part = smallPart([
    ['kick', 0, 127],
    ['snare', 1, 127],
  ]);
  const voices = (rows: Part['rows']): number[] => [...programs({ ...part, rows }).performed.slots];
  expect(voices([{ voice: 'kick', muted: true }, { voice: 'snare' }])).toEqual([1]);
  expect(voices([{ voice: 'kick', soloed: true }, { voice: 'snare' }])).toEqual([0]);
});

/** Renders blocks from `from` to `to` and gives the slots and frames that started. */
function blocks(player: Player, from: number, to: number): [number, number][] {
  const [left, right] = [new Float32Array(BLOCK), new Float32Array(BLOCK)];
  const started: [number, number][] = [];
  for (let frame = from; frame < to; frame += BLOCK)
    started.push(...player.render(left, right, frame).map((o): [number, number] => [o.slot, o.frame]));
  return started;
}

test('a clock that jumps between Play and the next block loses nothing of the first pass', () => {
  const player = start(smallPart(loud('kick', 4, 1)));
  expect(player.state.playing).toBe(false);
  const from = 50_048;
  expect(blocks(player, from, from + 2 * RATE)).toEqual([0, 1, 2, 3].map((beat) => [beat, from + PRE_ROLL + beat * 0.5 * RATE]));
});

test('a clock that jumps right after the start puts it off: nothing is lost, and the start is sure only then', () => {
  const player = start(smallPart(loud('kick', 4, 1)));
  expect(blocks(player, 0, BLOCK)).toEqual([]);
  expect(player.state).toMatchObject({ playing: true, settled: false, anchorFrame: PRE_ROLL });
  const from = 50_048;
  expect(blocks(player, from, from + 8 * BLOCK)).toEqual([]);
  expect(player.state).toMatchObject({ settled: true, anchorFrame: from + PRE_ROLL });
  expect(blocks(player, from + 8 * BLOCK, from + 2 * RATE)).toEqual(
    [0, 1, 2, 3].map((beat) => [beat, from + PRE_ROLL + beat * 0.5 * RATE]),
  );
  expect(player.takeJumps()).toEqual([]);
});

test('what sounded already is not begun again', () => {
  // Without a lead the first hit sounds at once.
  const player = new Player(RATE, [CLICK]);
  const p = programs(smallPart(loud('kick', 4, 1)));
  player.setPrograms(p);
  player.play(p.performed.startTick, 0);
  expect(blocks(player, 0, BLOCK)).toHaveLength(1);
  expect(player.state.settled).toBe(true);
  expect(blocks(player, 4 * BLOCK, 0.6 * RATE).map(([slot]) => slot)).toEqual([1]);
  expect(player.takeJumps()).toHaveLength(1);
});

test('where the clock jumps while playing, the hits of its last tenth of a second start late; those before are let go, none is doubled', () => {
  // A hit each eighth of a second, the first at a tenth.
  const player = start(smallPart(loud('hat-closed', 16, 0.25)));
  const settled = 8 * BLOCK;
  expect(blocks(player, 0, settled)).toEqual([]);
  const at = (slot: number) => PRE_ROLL + slot * 0.125 * RATE;
  const block = Math.ceil((at(5) + 0.05 * RATE) / BLOCK) * BLOCK;
  expect(player.takeJumps()).toEqual([]);
  expect(blocks(player, block, at(6) + BLOCK)).toEqual([
    [5, block + AHEAD],
    [6, at(6)],
  ]);
  expect(player.takeJumps()).toEqual([{ from: settled + AHEAD, to: block + AHEAD }]);
  expect(player.takeJumps()).toEqual([]);
});

test('stopped before the next block, nothing starts', () => {
  const player = start(smallPart(loud('kick', 4, 1)));
  player.stop();
  expect(blocks(player, 0, RATE)).toEqual([]);
});

describe('what takes over', () => {
  const verse = smallPart(loud('kick', 8, 1), { bars: 2 });
  /** Its first hit comes 8 ms early. */
  const early = smallPart(loud('rim', 8, 1), { bars: 2 });
  const chorus = { ...early, hits: early.hits.map((h, i) => (i === 0 ? { ...h, nudge: { ms: milliseconds(-8), velocity: 0 } } : h)) };
  const BAR = 2 * RATE;
  const bars = (n: [number, number]) => programs(verse, n);
  const cueOf = (when: 'anywhere' | 'bar' | 'end', name = 'chorus', n: [number, number] = [0, 2]) => ({
    name,
    when,
    versions: programs(chorus, n),
  });
  /** Frames from the start of playing, rounded to thousandths of a second. */
  const times = (onsets: readonly ScheduledHit[]): number[] => onsets.map((o) => Math.round(((o.frame - PRE_ROLL) / RATE) * 1000) / 1000);
  const begun = (n: [number, number] = [0, 2]): Player => {
    const player = new Player(RATE, [CLICK]);
    player.setPrograms(bars(n), 'verse');
    player.play(ticks(0));
    return player;
  };
  const at = (seconds: number, work: () => void) => {
    let done = false;
    return (frame: number) => {
      if (done || frame < PRE_ROLL + seconds * RATE) return;
      done = true;
      work();
    };
  };

  test('comes in at the next bar line, to the sample; its early hit before it; none is lost or doubled', () => {
    const player = begun();
    const { onsets } = render(
      player,
      6,
      at(0.7, () => player.setQueue([cueOf('bar')])),
    );
    expect(times(onsets)).toEqual([0, 0.5, 1, 1.5, 1.992, 2.5, 3, 3.5, 4, 4.5, 5, 5.5]);
    expect(player.state).toMatchObject({ name: 'chorus', next: null, anchorFrame: PRE_ROLL + BAR });
  });

  test('comes in when what plays is finished, or at the same place of the bar', () => {
    const finished = begun();
    expect(
      times(
        render(
          finished,
          5,
          at(0.7, () => finished.setQueue([cueOf('end')])),
        ).onsets,
      ),
    ).toEqual([0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5, 3.992, 4.5]);
    expect(finished.state.anchorFrame).toBe(PRE_ROLL + 2 * BAR);
    const anywhere = begun();
    // From 0.7 s into the bar on: the next hit is on its third beat.
    expect(
      times(
        render(
          anywhere,
          3,
          at(0.7, () => anywhere.setQueue([cueOf('anywhere')])),
        ).onsets,
      ),
    ).toEqual([0, 0.5, 1, 1.5, 2, 2.5]);
    expect(anywhere.state.name).toBe('chorus');
  });

  test('asked for just before the line, an early hit that is past already starts at once', () => {
    const player = begun();
    const { onsets } = render(
      player,
      3,
      at(1.998, () => player.setQueue([cueOf('bar')])),
    );
    expect(times(onsets).filter((t) => t > 1.6 && t < 2.4)).toHaveLength(1);
    expect(times(onsets)[4]).toBeLessThan(2.003);
  });

  test('taken back, what plays goes on; one after another, each takes its turn', () => {
    const back = begun();
    let step = 0;
    const { onsets: kept } = render(back, 3, (frame) => {
      if (step === 0 && frame > PRE_ROLL + 0.5 * RATE) back.setQueue([cueOf('bar')]);
      if (step === 1 && frame > PRE_ROLL + RATE) back.setQueue([]);
      step = frame > PRE_ROLL + RATE ? 2 : frame > PRE_ROLL + 0.5 * RATE ? 1 : 0;
    });
    expect(times(kept)).toEqual([0, 0.5, 1, 1.5, 2, 2.5]);
    expect(back.state.name).toBe('verse');
    const chain = begun([0, 1]);
    chain.setQueue([cueOf('end', 'a', [0, 1]), cueOf('end', 'b', [1, 2]), cueOf('end', 'c', [0, 1])]);
    const names: string[] = [];
    const { onsets } = render(chain, 9, () => names.at(-1) !== chain.state.name && names.push(chain.state.name));
    expect(names).toEqual(['verse', 'a', 'b', 'c']);
    expect(times(onsets).map((t) => Math.round(t * 10) / 10)).toEqual(Array.from({ length: 18 }, (_, i) => i / 2));
  });

  test('what is edited meanwhile is brought up to date by its name alone', () => {
    const player = begun();
    render(player, 0.5);
    player.setPrograms(programs(chorus), 'another');
    expect(player.state.name).toBe('verse');
  });
});
