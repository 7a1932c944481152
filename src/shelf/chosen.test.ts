import { chooseAll, chooseNone, choosePart, chosenParts, keepChosen } from './chosen';

const shown = ['a', 'b', 'c', 'd', 'e'];
const chosen = () => [...chosenParts.getState().ids].sort().join('');
beforeEach(chooseNone);

test('a part is chosen and let go by itself', () => {
  choosePart('b', false, shown);
  choosePart('d', false, shown);
  choosePart('b', false, shown);
  expect(chosen()).toBe('d');
});

test('with Shift all from the last one are chosen, either way; without a last one only this', () => {
  choosePart('c', true, shown);
  expect(chosen()).toBe('c');
  choosePart('e', true, shown);
  expect(chosen()).toBe('cde');
  choosePart('b', true, shown);
  expect(chosen()).toBe('bcde');
});

test('what is no longer seen is not reached from; what is no longer there is let go', () => {
  choosePart('a', false, shown);
  choosePart('d', true, ['b', 'c', 'd']);
  expect(chosen()).toBe('ad');
  keepChosen(new Set(['a']));
  expect([chosen(), chosenParts.getState().last]).toEqual(['a', null]);
  const before = chosenParts.getState();
  keepChosen(new Set(shown));
  expect(chosenParts.getState()).toBe(before);
});

test('all that are seen, and none', () => {
  chooseAll(shown);
  expect(chosen()).toBe('abcde');
  chooseNone();
  expect(chosen()).toBe('');
});
