import { rememberedExport, rememberExport } from './remembered';

const usual = (bars: number, stretch = 'bars') => ({
  version: 'performed',
  ppq: 960,
  fromBar: 1,
  toBar: bars,
  passes: 1,
  stretch,
  only: '',
  format: '0',
  target: null,
});

beforeEach(() => {
  const kept = new Map<string, string>();
  Object.assign(globalThis, {
    localStorage: { getItem: (name: string) => kept.get(name) ?? null, setItem: (name: string, value: string) => kept.set(name, value) },
  });
});
afterEach(() => {
  delete (globalThis as { localStorage?: unknown }).localStorage;
});

test('a way that was taken is taken again; without one all is as usual', () => {
  expect(rememberedExport('a', usual(4))).toEqual({ chosen: null, options: usual(4) });
  rememberExport('a', 'part', { ...usual(4), format: '1', fromBar: 2, toBar: 3, only: 'snare', ppq: 480, version: 'written' }, usual(4));
  // How it was heard is asked anew; a resolution of the user's own stays.
  expect(rememberedExport('a', usual(4))).toEqual({
    chosen: 'part',
    options: { ...usual(4), format: '1', fromBar: 2, toBar: 3, only: 'snare', ppq: 480 },
  });
  // Another part has its own bars and rows.
  expect(rememberedExport('b', usual(9)).options).toEqual({ ...usual(9), format: '1', ppq: 480 });
});

test('what was whole stays whole when the part grows, or gets an order', () => {
  rememberExport('a', 'part', usual(4), usual(4));
  expect(rememberedExport('a', usual(8, 'order'))).toEqual({ chosen: 'part', options: usual(8, 'order') });
});

test('what does not read, or does not fit, is as usual', () => {
  localStorage.setItem('nod-sway:export', '{"chosen":1}');
  expect(rememberedExport('a', usual(4)).chosen).toBeNull();
  localStorage.setItem('nod-sway:export', 'no');
  expect(rememberedExport('a', usual(4)).options).toEqual(usual(4));
  localStorage.setItem('nod-sway:export', JSON.stringify({ chosen: 'part', part: 'a', options: { format: 7, unknown: true } }));
  expect(rememberedExport('a', usual(4)).options).toEqual(usual(4));
});
