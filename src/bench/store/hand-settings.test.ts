import fc from 'fast-check';
import { HAND_LIMITS } from '@/core/hands/limits';
import { readHands, USUAL_HANDS, withPlace, withStriker, writeHands } from './hand-settings';

test('what was written is read again', () => {
  const own = {
    lead: 'left',
    limits: { hand: 70, foot: 130 },
    kit: { places: { ride: { x: 0.5, y: 1 } }, strikers: { kick: 'kick-foot' } },
  } as const;
  expect(readHands(writeHands(own))).toEqual(own);
  expect(readHands(writeHands(USUAL_HANDS))).toEqual(USUAL_HANDS);
});

test('settings of before, which knew of no kit, are read', () => {
  expect(readHands('{"lead":"left","hand":80,"foot":100}')).toEqual({ lead: 'left', limits: { hand: 80, foot: 100 }, kit: {} });
});

test('what does not read is as usual, the rest stays', () => {
  expect(
    readHands(
      '{"lead":"both","hand":1e9,"foot":"fast","places":{"ride":{"x":9,"y":0},"sofa":{"x":0,"y":0},"hat":null},"strikers":{"snare":"teeth","kick":"kick-foot"}}',
    ),
  ).toEqual({ lead: 'right', limits: HAND_LIMITS, kit: { places: { ride: { x: 1.2, y: 0 } }, strikers: { kick: 'kick-foot' } } });
  expect([null, '', 'null', '[]', '7', '{'].map(readHands)).toEqual(Array(6).fill(USUAL_HANDS));
  fc.assert(
    fc.property(fc.oneof(fc.string(), fc.json()), (text) => expect(Object.keys(readHands(text)).sort()).toEqual(['kit', 'lead', 'limits'])),
  );
});

test('one thing of a kit is changed and put back', () => {
  const moved = withPlace(withStriker({}, 'kick', 'kick-foot'), 'ride', { x: 5, y: 0.2 });
  expect(moved).toEqual({ strikers: { kick: 'kick-foot' }, places: { ride: { x: 1.2, y: 0.2 } } });
  expect(withPlace(withStriker(moved, 'kick', null), 'ride', null)).toEqual({ strikers: {}, places: {} });
});
