import { drum, wavFile } from '../tests/support/sound-files';
import { expect, test, type Page } from '@playwright/test';
import { violationsInBothThemes } from './axe';
import { clickStem, openDemo, openShelf, stemOf, press } from './support';

/** The Bench at work without a barrier, view by view, in both themes. */

const VIEWS: Readonly<Record<string, (page: Page) => Promise<void>>> = {
  'the selection, a shape on trial, the table': async (page) => {
    await page.getByRole('tab', { name: /^Hits/i }).click();
    await page.keyboard.press('Control+a');
    for (const section of ['Choose', 'Marks', 'Copies and shifts']) await press(page, section);
    await page.getByRole('combobox', { name: 'What to do' }).click();
    await page.getByRole('option', { name: 'accent' }).click();
    await expect(page.getByRole('img', { name: /^Distribution/i })).toBeVisible();
    await page.keyboard.press('x');
    await expect(page.getByRole('table', { name: 'Hits' })).toBeVisible();
  },
  'ghosts suggested, an ornament': async (page) => {
    await page.getByRole('tab', { name: /^Hits/i }).click();
    await press(page, 'Ghost notes');
    await press(page, 'Ornaments');
    await page.evaluate(() => {
      const { part, select } = window.nodSway!.bench();
      select([part.hits.find((h) => h.voice === 'snare')!.id]);
    });
    await press(page, 'roll');
    await press(page, 'Suggest');
    await expect(page.getByRole('button', { name: /^Add all/i })).toBeVisible();
    await page.keyboard.press('x');
    await expect(page.getByRole('table', { name: 'Hits' })).toBeVisible();
  },
  versions: async (page) => {
    await press(page, 'Versions');
    await press(page, 'Save version');
    await expect(page.getByTestId('changes')).toHaveText('Since then: No changes.');
  },
  'bars, a rhythm cell, painting': async (page) => {
    await page.getByRole('tab', { name: 'Bars' }).click();
    await press(page, 'evenly spread');
    await page.keyboard.press('h');
    await press(page, 'Shape the accents');
    await expect(page.getByRole('dialog')).toBeVisible();
  },
  'sound, the open row': async (page) => {
    await page.getByRole('tab', { name: /^Sound/i }).click();
    await press(page, 'Sound of Snare');
    await expect(page.getByRole('spinbutton', { name: 'Level of Snare in dB' })).toBeVisible();
  },
  'order, a section called, a line opened': async (page) => {
    await page.getByRole('tab', { name: /^Order/i }).click();
    await page.getByRole('button', { name: /^Make a section of/i }).click();
    await page.getByRole('combobox', { name: 'Add a line' }).click();
    await page.getByRole('option', { name: 'Intro' }).click();
    await page.getByRole('button', { name: /^Line 1: Intro/i }).click();
    await page.getByRole('combobox', { name: 'Row with its own loop length' }).click();
    await page.getByRole('option', { name: 'Ride', exact: true }).click();
    await expect(page.getByText('Ride loops every')).toBeVisible();
  },
  'takes, pads, every section': async (page) => {
    await page.getByRole('tab', { name: 'Takes' }).click();
    await page.getByRole('combobox', { name: 'Play from' }).click();
    await page.getByRole('option', { name: 'Practice player' }).click();
    await press(page, 'Keys play');
    await page.getByText('Velocity and guards').click();
    await page.getByRole('button', { name: 'all rows', exact: true }).click();
    for (const section of ['Step entry', 'Backing track', 'MIDI out']) await press(page, section);
    await page.evaluate(() => window.nodSway!.recording()!.pads.strike(38, 90, performance.now()));
    await page.getByRole('combobox', { name: 'Play from' }).click();
    await page.getByRole('option', { name: 'Pads and computer keys' }).click();
    await page.evaluate(() => window.nodSway!.recording()!.pads.strike(36, 90, performance.now()));
    await press(page, 'Keep the last minute');
    await expect(page.getByRole('list', { name: 'Takes' })).toBeVisible();
    // Lit pads fade: contrast is that of pads at rest.
    await expect.poll(() => page.evaluate(() => document.getAnimations().filter((a) => a.playState === 'running').length)).toBe(0);
  },
};

/** What views add to the Bench: a page of the side panel, the table of hits, the pads, the line above the stems. */
const ADDED = ['aside', '[aria-label="Sections"]', '[aria-label="Table of hits"]', '[aria-label="Pads"]', '[role=toolbar]'].join(', ');

/** The Shelf, and what most see of the Bench. */
test('no accessibility violation in either theme: Shelf, Bench, a selected hit, export, target', async ({ page }) => {
  await openShelf(page);
  expect(await violationsInBothThemes(page)).toEqual([]);
  await openDemo(page, 'Galley Brushes');
  expect(await violationsInBothThemes(page)).toEqual([]);
  await page.getByRole('tab', { name: 'Hits' }).click();
  await clickStem(page, await stemOf(page, 'snare', 0));
  expect(await violationsInBothThemes(page)).toEqual([]);
  await press(page, 'Export');
  await expect(page.getByRole('dialog')).toBeVisible();
  expect(await violationsInBothThemes(page, '[role=dialog]')).toEqual([]);
  await page.keyboard.press('Escape');
  await page.evaluate(() => window.nodSway!.bench().setUi({ dialog: 'target' }));
  await expect(page.getByRole('dialog', { name: /^Output map/i })).toBeVisible();
  await press(page, 'Learn by striking');
  expect(await violationsInBothThemes(page, '[role=dialog]')).toEqual([]);
});

for (const [name, open] of Object.entries(VIEWS)) {
  test(`no accessibility violation in either theme: ${name}`, async ({ page }) => {
    await openDemo(page, 'Galley Brushes');
    await open(page);
    // The rest of the Bench was looked at above.
    expect(await violationsInBothThemes(page, (await page.getByRole('dialog').count()) > 0 ? '[role=dialog]' : ADDED)).toEqual([]);
  });
}

/**
 * Dialogs and menus that one press opens, each in a test of its own: all of them on one page took longer than a test may on a busy machine.
 */
const OPENED: Readonly<Record<string, (page: Page) => Promise<void>>> = {
  'a row’s menu': async (page) => {
    await press(page, 'More about Ride');
    await expect(page.getByRole('menu')).toBeVisible();
  },
  'a row’s dialog': async (page) => {
    await press(page, 'More about Ride');
    await page.getByRole('menuitem', { name: 'Instrument, key, split, layer, merge …' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
  },
  'a row of one’s own': async (page) => {
    await press(page, 'Rows');
    await page.getByRole('menuitem', { name: 'Add row …' }).click();
    await page.getByRole('option', { name: 'Row with your own name …' }).click();
    await expect(page.getByRole('dialog')).toBeVisible();
  },
  'the keys': async (page) => {
    await page.keyboard.press('?');
    await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  },
  'the drum map': async (page) => {
    await press(page, 'Rows');
    await page.getByRole('menuitem', { name: 'Drum map …' }).click();
    await expect(page.getByRole('dialog', { name: /^Drum map/i })).toBeVisible();
  },
  'own sounds': async (page) => {
    await page.evaluate(() => window.nodSway!.bench().setUi({ dialog: 'sounds' }));
    await expect(page.getByRole('dialog', { name: 'Your own sounds' })).toBeVisible();
  },
  'a kit that comes in': async (page) => {
    await page.evaluate(() => window.nodSway!.bench().setUi({ dialog: 'sounds' }));
    await page.getByLabel('Sound files').setInputFiles(
      [1, 2].map((n) => ({
        name: `snare v${n}.wav`,
        mimeType: 'audio/wav',
        buffer: Buffer.from(wavFile(9000, drum(180, { level: n / 3 }))),
      })),
    );
    await page.getByRole('button', { name: 'Layers of snare' }).click();
    await expect(page.getByRole('dialog', { name: 'Your own kit' })).toBeVisible();
  },
  'an idea’s menu, the strip of ideas': async (page) => {
    await press(page, 'new idea');
    await press(page, 'What to do with idea 1');
    await expect(page.getByRole('menu')).toBeVisible();
  },
  'a section’s menu': async (page) => {
    await page.evaluate(() =>
      window.nodSway!.bench().run('Verse', (p) => ({ ...p, sections: [{ id: 'v', name: 'Verse', from: 1, bars: 1 }] })),
    );
    await page.getByRole('tab', { name: /^Order/i }).click();
    await press(page, 'What to do with Verse');
    await expect(page.getByRole('menu')).toBeVisible();
  },
  'the pattern book': async (page) => {
    await page.evaluate(() => window.nodSway!.bench().setUi({ dialog: 'patterns' }));
    await expect(page.getByRole('dialog', { name: 'Pattern book' })).toBeVisible();
  },
  'whole feels': async (page) => {
    await page.getByRole('tab', { name: /^Feel/i }).click();
    await press(page, 'Save, export or import presets …');
    await expect(page.getByRole('dialog', { name: 'Feel presets' })).toBeVisible();
  },
};

for (const [name, open] of Object.entries(OPENED)) {
  test(`no accessibility violation in either theme, opened by one press: ${name}`, async ({ page }) => {
    await openDemo(page, 'Galley Brushes');
    await open(page);
    expect(await violationsInBothThemes(page, '[role=dialog], [role=menu], [aria-label=Ideas]')).toEqual([]);
    await page.keyboard.press('Escape');
    await expect(page.locator('[role=dialog], [role=menu]')).toHaveCount(0);
  });
}

const GROOVE_VIEWS: Readonly<Record<string, (page: Page) => Promise<void>>> = {
  'the neutral pattern, a blend': async (page) => {
    await page.goto('/grooves');
    await page.getByRole('tab', { name: 'Blend' }).click();
    await page.getByRole('combobox', { name: 'Blend with' }).click();
    await page.getByRole('option', { name: 'Gangplank', exact: true }).click();
    await expect(page.getByRole('button', { name: 'Save the blend' })).toBeVisible();
  },
  'a part on the stand, compared': async (page) => {
    await page.goto('/grooves?part=demo-galley-brushes');
    await press(page, 'Use Lower Hold on all rows');
    await page.getByRole('tab', { name: 'Compare' }).click();
    await page.getByRole('combobox', { name: 'Compare with' }).click();
    await page.getByRole('option', { name: 'Galley Brushes, as it is played' }).click();
    await expect(page.getByTestId('difference')).toBeVisible();
  },
  'a groove of one’s own, kept': async (page) => {
    await page.goto('/grooves');
    await page.getByRole('tab', { name: 'Keep' }).click();
    await press(page, 'Duplicate as my own');
    await expect(page.getByLabel(/^Tags/i)).toBeVisible();
  },
  learning: async (page) => {
    await page.goto('/grooves');
    await press(page, 'Extract');
    await page
      .getByRole('list', { name: 'Parts to extract from' })
      .getByRole('button', { name: /Low Tide/i })
      .click();
    await expect(page.getByTestId('verdict')).toBeVisible();
  },
};

/** Views of the groove in hand alone: the place as a whole is looked at with a part on the stand. */
const IN_HAND = new Set(['the neutral pattern, a blend', 'a groove of one’s own, kept']);

for (const [name, open] of Object.entries(GROOVE_VIEWS)) {
  test(`no accessibility violation in either theme: Grooves, ${name}`, async ({ page }) => {
    await open(page);
    expect(
      await violationsInBothThemes(
        page,
        IN_HAND.has(name) ? '[aria-label="Selected groove"]' : (await page.getByRole('dialog').count()) > 0 ? '[role=dialog]' : undefined,
      ),
    ).toEqual([]);
  });
}
