import fc from 'fast-check';
import type { KitLayout } from './kit';
import { momentsOf, playedBy } from './limits';
import { costOf, rulesOf, stickingOf, type HandState, type HandStroke } from './sticking';

const at = (...list: [number, string, boolean?][]): HandStroke[] => list.map(([ms, voice, strong = true]) => ({ ms, voice, strong }));
const told = (strokes: readonly HandStroke[], lead: 'right' | 'left' = 'right') => {
  const { limbs } = stickingOf(strokes, { lead });
  return strokes.map((s) => limbs.get(s) ?? '-').join(' ');
};

test.each<[string, HandStroke[], string]>([
  [
    'eighths on the hat are the right hand’s',
    at([0, 'hat-closed'], [250, 'hat-closed'], [500, 'hat-closed'], [750, 'hat-closed']),
    'R R R R',
  ],
  ['fast sixteenths go hand to hand', at([0, 'snare'], [110, 'snare', false], [220, 'snare'], [330, 'snare', false]), 'R L R L'],
  ['the backbeat is the left hand’s under the hat', at([0, 'hat-closed'], [0, 'kick'], [500, 'hat-closed'], [500, 'snare']), 'R RF R L'],
  ['feet: a kick, a pedal, a fast second kick', at([0, 'kick'], [0, 'hat-pedal'], [200, 'kick'], [260, 'kick']), 'RF LF RF LF'],
  ['down the toms in time', at([0, 'snare'], [120, 'tom-high', false], [240, 'tom-mid'], [360, 'tom-floor', false]), 'R L R L'],
])('%s', (_, strokes, limbs) => {
  expect(told(strokes)).toBe(limbs);
});

test('a left-handed kit is the mirror', () => {
  expect(told(at([0, 'hat-closed'], [0, 'kick'], [500, 'hat-closed'], [500, 'snare']), 'left')).toBe('L LF L R');
});

test('strokes in a conflict have no limb, the others theirs', () => {
  const strokes = at([0, 'snare'], [0, 'tom-floor'], [0, 'crash'], [500, 'snare']);
  const { limbs, conflicts } = stickingOf(strokes);
  expect(conflicts.map((c) => c.kind)).toEqual(['hands']);
  expect(limbs.has(strokes[2]!)).toBe(false);
  expect(strokes.filter((s) => limbs.has(s))).toHaveLength(3);
});

const VOICES = ['snare', 'hat-closed', 'tom-high', 'tom-floor', 'ride', 'crash'];
const anyStrokes = fc
  .array(fc.record({ gap: fc.integer({ min: 0, max: 260 }), voice: fc.constantFrom(...VOICES), strong: fc.boolean() }), {
    minLength: 1,
    maxLength: 9,
  })
  .map((list) => {
    let ms = 0;
    return list.map(({ gap, voice, strong }): HandStroke => ({ ms: (ms += gap), voice, strong }));
  });

test('no other way of sharing the strokes is cheaper: every way is tried', () => {
  fc.assert(
    fc.property(anyStrokes, (strokes) => {
      const { taken } = playedBy(strokes);
      const rules = rulesOf();
      const moments = momentsOf(strokes.filter((s) => taken.get(s) === 'hand'));
      const idle: HandState = { ms: -Infinity, voice: '' };
      const cheapest = (m: number, lead: HandState, weak: HandState): number => {
        const moment = moments[m];
        if (!moment) return 0;
        return Math.min(
          ...[true, false].map((first) => {
            let [a, b, cost] = [lead, weak, 0];
            moment.forEach((s, i) => {
              const leads = i === 0 ? first : !first;
              cost += costOf(s, leads, leads ? a : b, leads ? b : a, rules);
              if (leads) a = s;
              else b = s;
            });
            return cost + cheapest(m + 1, a, b);
          }),
        );
      };
      const { limbs } = stickingOf(strokes);
      let [a, b, own] = [idle, idle, 0];
      for (const s of moments.flat()) {
        const leads = limbs.get(s) === 'R';
        own += costOf(s, leads, leads ? a : b, leads ? b : a, rules);
        if (leads) a = s;
        else b = s;
      }
      expect(own).toBeCloseTo(cheapest(0, idle, idle), 9);
      expect(own).toBeLessThan(1e6);
    }),
    { numRuns: 300 },
  );
});

describe('a kit of one’s own', () => {
  const of = (strokes: readonly HandStroke[], kit: KitLayout) => {
    const { limbs, conflicts } = stickingOf(strokes, { kit });
    return [strokes.map((s) => limbs.get(s) ?? '-').join(' '), conflicts.map((c) => `${c.kind} ${c.stroke.voice} ${c.stroke.ms}`)];
  };

  test('what one hand alone may strike is that hand’s, whatever it costs', () => {
    const strokes = at([0, 'hat-closed'], [250, 'hat-closed'], [500, 'hat-closed']);
    expect(of(strokes, { strikers: { 'hat-closed': 'other-hand' } })).toEqual(['L L L', []]);
    expect(of(strokes, { strikers: { 'hat-closed': 'lead-hand' } })).toEqual(['R R R', []]);
  });

  test('one hand alone is back too late where two would have been enough; what was refused binds no hand', () => {
    const roll = at([0, 'snare'], [60, 'snare'], [120, 'snare'], [180, 'snare']);
    expect(of(roll, {})).toEqual(['R L R L', []]);
    const [limbs, conflicts] = of(roll, { strikers: { snare: 'lead-hand' } });
    expect(limbs).toBe('R - R -');
    expect(conflicts).toEqual(['too-fast snare 60', 'too-fast snare 180']);
  });

  test('two at once that the same hand alone may strike: one of them finds none', () => {
    const [limbs, conflicts] = of(at([0, 'snare'], [0, 'tom-high']), { strikers: { snare: 'other-hand', 'tom-high': 'other-hand' } });
    expect(String(limbs).split(' ').sort()).toEqual(['-', 'L']);
    expect(conflicts).toHaveLength(1);
  });

  test('a bell by foot frees a hand; with one foot on the kick there is no double', () => {
    const three = at([0, 'snare'], [0, 'crash'], [0, 'cowbell']);
    expect(of(three, {})[1]).toEqual(['hands cowbell 0']);
    expect(of(three, { strikers: { cowbell: 'hat-foot' } })[1]).toEqual([]);
    const kicks = at([0, 'kick'], [60, 'kick']);
    expect(of(kicks, {})).toEqual(['RF LF', []]);
    expect(of(kicks, { strikers: { kick: 'kick-foot' } })).toEqual(['RF -', ['too-fast kick 60']]);
  });

  test('a drum that stands further away goes to the hand that is nearer', () => {
    const strokes = at([0, 'hat-closed'], [0, 'snare'], [300, 'tom-mid']);
    // Half the time to travel is over: 0.44 from the hat; from the snare 0.25, and 0.14 for a beat that is the other's.
    expect(of(strokes, {})[0]).toBe('R L L');
    // Between hat and snare: 0.2 against 0.11 and 0.14.
    expect(of(strokes, { places: { 'tom-mid': { x: -0.2, y: 0.1 } } })[0]).toBe('R L R');
  });

  test('as few strokes as can be are refused: every way is tried', () => {
    const kits = fc.dictionary(fc.constantFrom(...VOICES), fc.constantFrom('hands' as const, 'lead-hand' as const, 'other-hand' as const));
    fc.assert(
      fc.property(anyStrokes, kits, (strokes, strikers) => {
        const { taken } = playedBy(strokes);
        const byHand = strokes.filter((s) => taken.get(s) === 'hand');
        const rules = rulesOf({ kit: { strikers } });
        /** Of a stroke by a hand that struck last so long ago: whether it can. */
        const can = (s: HandStroke, leads: boolean, last: number): boolean =>
          s.ms - last >= rules.limits.hand - 1e-6 && rules.strikerOf(s.voice) !== (leads ? 'other-hand' : 'lead-hand');
        const fewest = (i: number, lead: number, weak: number): number => {
          const s = byHand[i];
          if (!s) return 0;
          return Math.min(
            1 + fewest(i + 1, lead, weak),
            can(s, true, lead) ? fewest(i + 1, s.ms, weak) : Infinity,
            can(s, false, weak) ? fewest(i + 1, lead, s.ms) : Infinity,
          );
        };
        const { limbs } = stickingOf(strokes, { kit: { strikers } });
        const refused = byHand.filter((s) => !limbs.has(s)).length;
        // A way that strikes anyhow where it cannot still binds its hand: never fewer than the fewest, and none where none need be.
        expect(refused).toBeGreaterThanOrEqual(fewest(0, -Infinity, -Infinity));
        if (fewest(0, -Infinity, -Infinity) === 0) expect(refused).toBe(0);
        let [lead, weak] = [-Infinity, -Infinity];
        for (const s of byHand) {
          const limb = limbs.get(s);
          if (limb === 'R') {
            expect(can(s, true, lead)).toBe(true);
            lead = s.ms;
          } else if (limb === 'L') {
            expect(can(s, false, weak)).toBe(true);
            weak = s.ms;
          }
        }
      }),
      { numRuns: 300 },
    );
  });
});
