import { remember, remembered } from './remembered';

/** The browser's own store of small things. */
const storage = (values: Record<string, string>) =>
  Object.defineProperty(values, 'getItem', { value: (name: string) => values[name] ?? null }) &&
  Object.defineProperty(values, 'setItem', { value: (name: string, value: string) => void (values[name] = value) });

test('what is ours is carried, the theme under a name of ours; what is not stays', () => {
  Object.assign(globalThis, { localStorage: storage({ 'nod-sway:hands': '{}', theme: 'dark', other: 'x' }) });
  expect(remembered()).toEqual({ 'nod-sway:hands': '{}', 'nod-sway:theme': 'dark' });
  remember({ 'nod-sway:hands': '{"lead":"left"}', 'nod-sway:theme': 'light' });
  expect({ ...localStorage }).toEqual({ 'nod-sway:hands': '{"lead":"left"}', theme: 'light', other: 'x' });
});

test('where the browser forbids it nothing is remembered, and nothing breaks', () => {
  Object.defineProperty(globalThis, 'localStorage', {
    configurable: true,
    get: () => {
      throw new Error('forbidden');
    },
  });
  expect(remembered()).toEqual({});
  expect(() => remember({ 'nod-sway:hands': '{}' })).not.toThrow();
  // Whoever clears up behind the tests reads it, too.
  Object.defineProperty(globalThis, 'localStorage', { configurable: true, value: undefined });
});
