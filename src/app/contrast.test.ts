import { readFileSync } from 'node:fs';
import { join } from 'node:path';

/** WCAG 2.1: relative luminance and contrast ratio of two colours. */
function luminance(hex: string): number {
  const [r, g, b] = [1, 3, 5]
    .map((i) => parseInt(hex.slice(i, i + 2), 16) / 255)
    .map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4)) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
const contrast = (a: string, b: string): number => {
  const [dark, light] = [luminance(a), luminance(b)].sort((x, y) => x - y) as [number, number];
  return (light + 0.05) / (dark + 0.05);
};

const css = readFileSync(join(__dirname, 'globals.css'), 'utf8');
const rolesOf = (selector: string): Record<string, string> => {
  const block = css.slice(css.indexOf(`${selector} {`)).split('}')[0] as string;
  return Object.fromEntries([...block.matchAll(/--([\w-]+): (#[0-9a-f]{6});/g)].map(([, name, value]) => [name, value])) as Record<
    string,
    string
  >;
};

const THEMES = { light: rolesOf(':root'), dark: rolesOf("[data-theme='dark']") };

test('white on black is 21:1, a colour on itself 1:1', () => {
  expect([contrast('#ffffff', '#000000'), contrast('#7a2f5f', '#7a2f5f')]).toEqual([21, 1]);
});

test.each(Object.entries(THEMES))('text, marks and lines are told from their paper: %s', (_name, role) => {
  const least = (names: string[], on: string[], ratio: number) =>
    names.flatMap((n) =>
      on.filter((p) => contrast(role[n]!, role[p]!) < ratio).map((p) => `${n} on ${p}: ${contrast(role[n]!, role[p]!).toFixed(2)}`),
    );
  expect(least(['ink', 'faint', 'accent', 'danger', 'early-text', 'late-text'], ['ground', 'surface', 'sunk', 'chosen'], 4.5)).toEqual([]);
  expect(least(['on-accent'], ['accent'], 4.5)).toEqual([]);
  // Marks that mean something, written hits behind and the ring of a chosen one included.
  expect(least(['early', 'late', 'pale', 'accent', 'strong'], ['ground', 'surface'], 3)).toEqual([]);
  expect(least(['step'], ['ground', 'surface'], 1.5)).toEqual([]);
  // Early and late differ in lightness too, for those who do not see the colours.
  expect(contrast(role.early!, role.late!)).toBeGreaterThanOrEqual(1.95);
});
