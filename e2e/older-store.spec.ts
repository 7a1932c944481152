import { readFileSync } from 'node:fs';
import { contentOf, tracksOf } from '../tests/support/read-midi';
import { expect, test, type Page } from '@playwright/test';
import { benchReady, exportMidi } from './support';

/** A store that an earlier version of the product wrote opens with nothing lost. */

interface StoreFixture {
  /** Dexie's version of its tables. */
  version: number;
  expected: { id: string; velocity: number; midi: string };
  tables: Record<string, object[]>;
}
const KEYS: Record<string, { keyPath: string | string[]; indices: string[] }> = {
  parts: { keyPath: 'id', indices: ['updatedAt'] },
  bodies: { keyPath: 'id', indices: [] },
  edits: { keyPath: ['partId', 'seq'], indices: [] },
  songs: { keyPath: 'id', indices: [] },
  flags: { keyPath: 'name', indices: [] },
  kits: { keyPath: 'name', indices: [] },
  feels: { keyPath: 'name', indices: [] },
  versions: { keyPath: 'id', indices: ['partId'] },
  grooves: { keyPath: 'id', indices: [] },
  takes: { keyPath: 'id', indices: ['partId'] },
  takeEvents: { keyPath: ['takeId', 'n'], indices: [] },
  inputs: { keyPath: 'id', indices: [] },
};

/** Writes the tables as the browser's store had them, before the product opens it. */
async function prepare(page: Page, { version, tables }: StoreFixture): Promise<void> {
  await page.goto('/icon.svg');
  await page.evaluate(
    ([dbVersion, rows, keys]) =>
      new Promise<void>((done, failed) => {
        const opening = indexedDB.open('nod-sway', dbVersion * 10);
        opening.onupgradeneeded = () => {
          for (const [name, { keyPath, indices }] of Object.entries(keys)) {
            const table = opening.result.createObjectStore(name, { keyPath });
            for (const index of indices) table.createIndex(index, index);
            for (const row of rows[name] ?? []) table.add(row);
          }
        };
        opening.onerror = () => failed(opening.error);
        opening.onsuccess = () => {
          opening.result.close();
          done();
        };
      }),
    [version, tables, KEYS] as const,
  );
}

/** The same events; only where tracks end has changed since: on a bar line, and no note behind it. */
function expectEvents(bytes: Uint8Array, midi: string): void {
  expect(contentOf(bytes)).toEqual(contentOf(Buffer.from(midi, 'base64'), tracksOf(bytes)[0]!.at(-1)!.at));
}

test('a part with its edits, steps back, versions, feels and grooves', async ({ page }) => {
  const fixture = JSON.parse(readFileSync('tests/fixtures/store-5.json', 'utf8')) as StoreFixture;
  await prepare(page, fixture);
  await page.goto('/bench/kept-before');
  await benchReady(page);
  expectEvents(await exportMidi(page), fixture.expected.midi);
  const moves = () => page.evaluate(() => window.nodSway!.bench().part.feel.moves.map((m) => m.kind));
  expect(await moves()).toEqual(['quantize', 'humanize', 'humanize', 'apart']);
  // Back over edits of before.
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect(await moves()).toEqual(['humanize', 'humanize']);
  expect(
    await page.evaluate(() =>
      window
        .nodSway!.bench()
        .part.feel.moves.map((m) => Object.keys(m))
        .flat(),
    ),
  ).toContain('memory');
  await page.keyboard.press('Control+Shift+z');
  await page.keyboard.press('Control+Shift+z');
  expectEvents(await exportMidi(page), fixture.expected.midi);
  await page.reload();
  await benchReady(page);
  expectEvents(await exportMidi(page), fixture.expected.midi);
  await page.getByRole('button', { name: 'Versions' }).click();
  await expect(page.getByRole('textbox', { name: 'Name of With drift' })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Save, export or import presets …' }).click();
  await expect(page.getByText('All kinds')).toBeVisible();
  await page.goto('/grooves');
  await expect(page.getByText('Kept groove').first()).toBeVisible();
});
