import { expect, test } from '@playwright/test';
import { parseMidi } from 'midi-file';
import {
  benchReady,
  clickStem,
  exportMidi,
  midiFile,
  noteEvents,
  notesOf,
  openMidi,
  saved,
  stemOf,
  stems,
  tempoEvent,
  trackChunk,
  type TestEvent,
} from './support';

/** One bar at 120 BPM, 480 ticks a quarter: loose kicks and snares, and hats whose pedal closes after the first. */
const events: TestEvent[] = [
  tempoEvent(0, 500_000),
  [0, 0xb9, 4, 0],
  [700, 0xb9, 4, 127],
  [955, 0xb9, 16, 77],
  ...noteEvents([
    [0, 42, 80],
    [12, 36, 100],
    [470, 38, 96],
    [720, 42, 70],
    [960, 36, 100],
    [1451, 38, 96],
  ]),
];
const loose = midiFile(0, 480, [trackChunk([...events].sort((a, b) => a[0] - b[0]))]);

const controllers = (bytes: Uint8Array): [controller: number, value: number][] =>
  parseMidi(bytes).tracks.flatMap((track) =>
    track.flatMap((e): [number, number][] => (e.type === 'controller' ? [[e.controllerType, e.value]] : [])),
  );

test('quantize now puts all hits, or the selection, on the shown grid; muted hits stay and are not exported; both come back', async ({
  page,
}) => {
  await openMidi(page, 'loose.mid', loose);
  const perQuarter = 960;
  const ticks = async () => notesOf(await exportMidi(page, 'part')).map(([tick, key]) => [tick, key]);
  const played = await ticks();
  expect(played).toEqual([
    [0, 42],
    [24, 36],
    [940, 38],
    [1440, 42],
    [1920, 36],
    [2902, 38],
  ]);
  await clickStem(page, await stemOf(page, 'snare', 1));
  await page.keyboard.press('q');
  await expect(page.getByText('Quantized one snare hit to the 1/16 grid: 1 moved, by 11.5 ms at most.')).toBeVisible();
  await page.evaluate(() => window.nodSway!.bench().select([]));
  await page.keyboard.press('q');
  await expect(page.getByText('Quantized all 6 hits to the 1/16 grid: 2 moved, by 12.5 ms at most.')).toBeVisible();
  expect((await ticks()).every(([tick]) => tick! % (perQuarter / 4) === 0)).toBe(true);
  await page.keyboard.press('ControlOrMeta+z');
  await page.keyboard.press('ControlOrMeta+z');
  expect(await ticks()).toEqual(played);

  await clickStem(page, await stemOf(page, 'snare', 0));
  await page.keyboard.press('Shift+M');
  await saved(page);
  expect(await ticks()).toEqual(played.filter(([tick]) => tick !== 940));
  await page.reload();
  await benchReady(page);
  expect(await page.evaluate(() => window.nodSway!.bench().part.hits.filter((h) => h.muted).length)).toBe(1);
  await clickStem(page, await stemOf(page, 'snare', 0));
  await page.keyboard.press('Shift+M');
  expect(await ticks()).toEqual(played);
});

test('openness and position of a file are exported as controllers, or as the keys of the hats', async ({ page }) => {
  await openMidi(page, 'loose.mid', loose);
  expect(controllers(await exportMidi(page, 'part'))).toEqual([
    [4, 0],
    [4, 127],
    [16, 77],
  ]);
  await page.evaluate(() => window.nodSway!.bench().setUi({ dialog: 'target' }));
  const dialog = page.getByRole('dialog', { name: /^Output map/i });
  await dialog.getByRole('combobox', { name: 'Hat openness and position' }).click();
  await page.getByRole('option', { name: 'as keys: closed, half open, open' }).click();
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
  const keyed = await exportMidi(page, 'part');
  expect(controllers(keyed)).toEqual([]);
  expect(notesOf(keyed).map(([, key]) => key)).toEqual([46, 36, 38, 42, 36, 38]);
});

test('hits move to another row by the menu, in one undo step; what stands there is replaced, or stays', async ({ page }) => {
  await openMidi(page, 'loose.mid', loose);
  const rows = () => page.evaluate(() => window.nodSway!.bench().part.hits.map((h) => `${h.voice} ${h.tick}`));
  const before = await rows();
  const snare = await stemOf(page, 'snare', 1);
  await clickStem(page, snare);
  await stems(page).click({ position: { x: snare.headX, y: snare.headY }, button: 'right' });
  await page.getByRole('menuitem', { name: 'Move to row' }).click();
  await page.getByRole('menuitem', { name: 'Kick', exact: true }).click();
  await expect.poll(rows).toEqual(before.map((hit, i) => (i === before.length - 1 ? hit.replace('snare', 'kick') : hit)));
  const keys = notesOf(await exportMidi(page, 'part')).map(([, key]) => key);
  expect(keys).toEqual([42, 36, 38, 42, 36, 36]);
  await page.keyboard.press('ControlOrMeta+z');
  await expect.poll(rows).toEqual(before);
});

test('convert to plain hits: the export stays the same, and one undo brings the flam and the loop length back', async ({ page }) => {
  await openMidi(page, 'loose.mid', loose);
  await page.evaluate(() => {
    const { setUi, run } = window.nodSway!.bench();
    setUi({ page: 'hits', sections: { hits: ['ornaments'] } });
    run('Loop the kick', (p) => ({
      ...p,
      rows: p.rows.map((r) => (r.voice === 'kick' ? { ...r, cycle: { grid: '1/16', steps: 6 } } : r)),
    }));
  });
  await clickStem(page, await stemOf(page, 'snare', 1));
  await page.getByRole('group', { name: 'Add an ornament' }).getByRole('button', { name: 'flam', exact: true }).click();
  const before = notesOf(await exportMidi(page, 'part')).map(([tick, key, velocity]) => [tick, key, velocity]);
  // A grace stroke before the second snare, and the kick at 0, 6 and 12 sixteenths.
  expect(before.filter(([, key]) => key === 38)).toHaveLength(3);
  expect(before.filter(([, key]) => key === 36).map(([tick]) => tick)).toEqual([24, 24 + 1440, 24 + 2880]);
  const flammed = await stemOf(page, 'snare', 1);
  await stems(page).click({ position: { x: flammed.headX, y: flammed.headY }, button: 'right' });
  await page.getByRole('menuitem', { name: 'Convert to plain hits …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Convert to plain hits' });
  // The snare alone has no loop length.
  await expect(dialog.getByRole('checkbox')).toHaveCount(1);
  await dialog.getByRole('combobox', { name: 'Where to convert' }).click();
  await page.getByRole('option', { name: 'whole part' }).click();
  await expect(dialog.getByRole('checkbox', { name: /The loop length of 1 row/ })).toBeChecked();
  await expect(dialog.getByRole('checkbox', { name: /1 ornament/ })).toBeChecked();
  await dialog.getByRole('button', { name: 'Convert', exact: true }).click();
  await expect(page.getByText(/^Converted to \d+ plain hits\./)).toBeVisible();
  const plain = () => page.evaluate(() => window.nodSway!.bench().part);
  expect((await plain()).hits.some((h) => h.ornament)).toBe(false);
  expect((await plain()).rows.some((r) => r.cycle)).toBe(false);
  expect(notesOf(await exportMidi(page, 'part')).map(([tick, key, velocity]) => [tick, key, velocity])).toEqual(before);
  await page.keyboard.press('ControlOrMeta+z');
  await expect.poll(async () => (await plain()).hits.some((h) => h.ornament)).toBe(true);
  expect((await plain()).rows.some((r) => r.cycle)).toBe(true);
});

test('copied hits are pasted over several bars, and to the same places on the open row', async ({ page }) => {
  await openMidi(page, 'loose.mid', loose);
  await page.evaluate(() => {
    const { setUi, run } = window.nodSway!.bench();
    setUi({ page: 'hits', sections: { hits: ['copies'] } });
    run('Make it longer', (p) => ({ ...p, bars: 4 }));
  });
  await clickStem(page, await stemOf(page, 'snare', 1));
  await page.keyboard.press('ControlOrMeta+c');
  const panel = page.getByRole('complementary');
  await panel.getByRole('spinbutton', { name: 'First bar to paste over' }).fill('2');
  const last = panel.getByRole('spinbutton', { name: 'Last bar to paste over' });
  await last.fill('4');
  await last.press('Enter');
  await panel.getByRole('button', { name: 'Paste over bars 2 to 4' }).click();
  await expect(page.getByText('Pasted 3 hits over bars 2 to 4.')).toBeVisible();
  const ticksOf = async (key: number) =>
    notesOf(await exportMidi(page, 'part'))
      .filter(([, k]) => k === key)
      .map(([tick]) => tick);
  expect(await ticksOf(38)).toEqual([940, 2902, 2902 + 3840, 2902 + 7680, 2902 + 11_520]);
  await page.evaluate(() => window.nodSway!.bench().setFocus('hat-closed'));
  await panel.getByRole('button', { name: 'Paste on closed hat' }).click();
  expect(await ticksOf(42)).toEqual([0, 1440, 2902]);
});
