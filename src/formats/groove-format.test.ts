import fc from 'fast-check';
import { isNamedError } from '@/core/errors';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { readGrooveFile, writeGrooveFile } from './groove-format';

const hold = HOUSE_GROOVES[0]!;
const read = (data: unknown): unknown => {
  try {
    return readGrooveFile(typeof data === 'string' ? data : JSON.stringify(data));
  } catch (e) {
    if (!isNamedError(e)) throw e;
    return e.details;
  }
};

test('a groove file gives the groove back', () => {
  for (const groove of HOUSE_GROOVES) expect(readGrooveFile(writeGrooveFile(groove))).toEqual(groove);
  const learnt = { ...hold, fit: 0.93, steps: hold.steps.map((s) => ({ ...s, spreadMs: 3.25 })), voices: { kick: hold.steps } };
  expect(readGrooveFile(writeGrooveFile(learnt))).toEqual(learnt);
});

test.each([
  ['another version', { ...hold, format: 'nod-sway/groove@2' }, 'format'],
  ['an unknown member', { ...hold, swing: 60 }, 'swing'],
  ['no name', { ...hold, name: '' }, 'name'],
  ['a meter of thirds', { ...hold, meter: [4, 3] }, 'meter[1]'],
  ['an offset beyond half a step', { ...hold, steps: hold.steps.map((s, i) => (i === 3 ? { ...s, offset: 0.51 } : s)) }, 'steps[3].offset'],
  ['a level as text', { ...hold, steps: hold.steps.map((s, i) => (i === 0 ? { ...s, level: '1' } : s)) }, 'steps[0].level'],
  ['too few steps of a voice', { ...hold, voices: { kick: hold.steps.slice(1) } }, '(whole)'],
  ['a fit over 1', { ...hold, fit: 1.2 }, 'fit'],
  ['not JSON', '{"format"', '(whole)'],
])('%s is refused, naming the member', (_what, data, field) => {
  expect(read(data)).toEqual([expect.objectContaining({ field })]);
});

test('any text, and any damaged groove file, ends in a groove or a clear error', () => {
  const text = writeGrooveFile(hold);
  fc.assert(
    fc.property(
      fc.oneof(
        fc.string(),
        fc.json(),
        fc
          .tuple(fc.nat(text.length - 1), fc.string({ maxLength: 4 }))
          .map(([at, by]) => text.slice(0, at) + by + text.slice(at + by.length)),
      ),
      (data) => {
        expect(typeof read(data)).toBe('object');
      },
    ),
    { numRuns: 300 },
  );
});
