import { expect, test, type Page } from '@playwright/test';
import { READY_FEELS } from '../src/core/moves/ready-feels';
import { HOUSE_GROOVES } from '../src/core/groove/house-grooves';
import { GALLEY_KIT, GENERAL_MIDI_KIT } from '../src/core/key-map';
import { demoCues } from '../src/demo/cues';
import { press } from './support';

/** Every name on every screen: none is a word that was replaced, none stands for two things. */

const REPLACED = new Set([
  'tighten',
  'drift',
  'lay',
  'spread',
  'template',
  'hold',
  'only',
  'brush',
  'wipe',
  'squeeze',
  'scatter',
  'gather',
  'write out',
  'full lean',
  'roll again',
  're-roll',
  'kit map',
  'raw take',
  'not now',
  'leave it',
  'i see',
  'stem',
  'stems',
  'bake in',
  'silence',
  'play on it',
  'read the keys by it',
]);
const isReplaced = (name: string): boolean =>
  REPLACED.has(name.toLowerCase().replace(/[ .…]+$| \(.*\)$/g, '')) || /^place on\b/i.test(name) || /\bstems?\b/i.test(name);

interface Named {
  role: string;
  name: string;
  /** What it works on, where several of a list are named alike on purpose. */
  within: string;
}

/** Controls, pages, dialogs, headings and sections that are on the screen, by role and name. */
const namesOn = (page: Page): Promise<Named[]> =>
  page.evaluate(() => {
    const wanted =
      'button, a[href], input, select, textarea, h1, h2, h3, [role=tab], [role=radio], [role=switch], [role=combobox], [role=menuitem], [role=option], [role=dialog], [role=menu], section[aria-label], [role=group][aria-label]';
    const textOf = (e: Element): string => {
      const by = e.getAttribute('aria-labelledby');
      const labelled =
        by &&
        by
          .split(' ')
          .map((id) => document.getElementById(id)?.textContent ?? '')
          .join(' ');
      const label =
        e.getAttribute('aria-label') || labelled || (e as HTMLInputElement).labels?.[0]?.textContent || e.getAttribute('title') || '';
      return (
        e.getAttribute('aria-label') ||
        labelled ||
        (e.matches('section, [role=group], [role=dialog], [role=menu], input') ? label : e.textContent) ||
        label
      )
        .replace(/\s+/g, ' ')
        .trim();
    };
    return [...document.querySelectorAll(wanted)]
      .filter((e) => (e as HTMLElement).offsetParent !== null || e.getClientRects().length > 0)
      .map((e) => ({
        role: e.getAttribute('role') ?? e.tagName.toLowerCase(),
        name: textOf(e),
        within: e.closest('[role=dialog]')
          ? 'the dialog'
          : (e.closest('li, [aria-label]:not(button):not(input):not(main)')?.getAttribute('aria-label') ?? ''),
      }))
      .filter((n) => n.name !== '');
  });

/** Names that two controls share although they do different things: same role, same place, same name. */
const shared = (names: readonly Named[]): string[] => {
  const seen = new Set<string>();
  return names.flatMap(({ role, name, within }) => {
    const key = [role, name, within].join(' | ');
    if (seen.has(key) && !/^(h1|h2|h3|option|section|group)$/.test(role)) return [key];
    seen.add(key);
    return [];
  });
};

async function look(page: Page, where: string): Promise<void> {
  const names = await namesOn(page);
  expect(names.length).toBeGreaterThan(5);
  expect({ where, replaced: names.filter((n) => isReplaced(n.name)).map((n) => n.name), shared: shared(names) }).toEqual({
    where,
    replaced: [],
    shared: [],
  });
}

test('no control, page, dialog or move is named by a word that was replaced, and no two alike', async ({ page }) => {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Gangway Strut' })).toBeVisible();
  await look(page, 'Shelf');
  await page.getByRole('heading', { name: 'Gangway Strut' }).click({ button: 'right' });
  await look(page, 'a card’s menu');
  await page.keyboard.press('Escape');
  await press(page, 'New part');
  await expect(page.getByRole('dialog')).toBeVisible();
  await look(page, 'a new part');
  await page.keyboard.press('Escape');
  await page.goto('/bench/demo-gangway-strut');
  await page.waitForFunction(() => window.nodSway?.scene());
  await look(page, 'Feel, nothing done');
  for (const move of ['quantize', 'swing', 'humanize', 'groove', 'lay back', 'stagger', 'accents', 'timbre']) {
    await press(page, `Add ${move}`);
    await look(page, `the move ${move}`);
  }
  await page.getByRole('button', { name: /^Scope: /i }).click();
  await look(page, 'a scope');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+a');
  await page.getByRole('tab', { name: 'Hits' }).click();
  await press(page, 'Ghost notes');
  await press(page, 'Suggest');
  await look(page, 'suggested ghosts');
  await page.getByRole('tab', { name: /^Sound/i }).click();
  await press(page, 'Sound of Snare');
  await look(page, 'Sound');
  for (const tab of ['Hits', 'Bars', 'Takes']) {
    await page.getByRole('tab', { name: tab }).click();
    const closed = page.locator('aside h3 button[aria-expanded=false]');
    for (let left = await closed.count(); left > 0; left--) await closed.first().click();
    await look(page, tab);
  }
  await page.getByRole('radio', { name: 'paint' }).click();
  await look(page, 'painting');
  await page.getByRole('combobox', { name: 'What is painted' }).click();
  await look(page, 'what is painted');
  await page.keyboard.press('Escape');
  for (const [open, where] of [
    ['Versions', 'versions'],
    ['Export', 'export'],
    ['More about Snare', 'a row’s menu'],
    ['Rows', 'the menu of rows'],
  ] as const) {
    await press(page, open);
    await expect(page.locator('[role=dialog], [role=menu]').first()).toBeVisible();
    await look(page, where);
    await page.keyboard.press('Escape');
    await expect(page.locator('[role=dialog], [role=menu]')).toHaveCount(0);
  }
  for (const [keys, where] of [
    ['?', 'the sheet of keys'],
    ['Control+k', 'the search'],
  ] as const) {
    await page.keyboard.press(keys);
    await expect(page.getByRole('dialog')).toBeVisible();
    await look(page, where);
    const told = await page.getByRole('dialog').innerText();
    expect([where, /\b(brush|wipe|stems?|re-?roll|squeeze|kit map|template)\b/i.exec(told)?.[0] ?? null]).toEqual([where, null]);
    await page.keyboard.press('Escape');
    await expect(page.getByRole('dialog')).toHaveCount(0);
  }
  await page.goto('/grooves?part=demo-gangway-strut');
  await expect(page.getByRole('button', { name: 'Choose Lower Hold' })).toBeVisible();
  for (const tab of ['Shape', 'Blend', 'Compare', 'Keep']) {
    await page.getByRole('tab', { name: tab }).click();
    await look(page, `Grooves, ${tab}`);
  }
  await press(page, 'Extract');
  await look(page, 'what to learn from');
  await page.getByRole('list', { name: 'Parts to extract from' }).getByRole('button').first().click();
  await expect(page.getByTestId('verdict')).toBeVisible();
  await look(page, 'learning');
});

test('parts, feels, grooves and key maps have names of their own', () => {
  const names = [
    ...demoCues().map((c) => c.part.name),
    ...READY_FEELS.map((f) => f.name),
    ...HOUSE_GROOVES.map((g) => g.name),
    GENERAL_MIDI_KIT.name,
    GALLEY_KIT.name,
  ];
  expect(names.filter((n, i) => names.indexOf(n) !== i)).toEqual([]);
});
