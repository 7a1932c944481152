import { expect, test, type Page } from '@playwright/test';
import { exportMidi, meterEvent, midiFile, noteEvents, notesOf, openMidi, press, tempoEvent, trackChunk, type Note } from './support';

/** Ideas beside the part: copied, switched while they play, taken into the bars, kept over a reload, thrown away. */

/** Four bars at 240 BPM: quarters of the kick, velocity 100, in the third bar 60. */
const fourBars = (): Uint8Array => {
  const notes: Note[] = Array.from({ length: 16 }, (_, i): Note => [i * 480, 36, Math.floor(i / 4) === 2 ? 60 : 100]);
  return midiFile(0, 480, [trackChunk([tempoEvent(0, 250_000), meterEvent(0, 4, 2), ...noteEvents(notes, 60)])]);
};

const places = (bytes: Uint8Array) => notesOf(bytes).map(([tick, , velocity]) => [tick / 960, velocity]);
const loop = (page: Page, fromBar: number, toBar: number) =>
  page.evaluate(([from, to]) => window.nodSway!.bench().setTransport({ loop: true, fromBar: from, toBar: to }), [fromBar, toBar] as const);
const ideas = (page: Page) => page.getByRole('group', { name: 'Ideas' });
const opened = (page: Page) => ideas(page).getByRole('button', { name: /^Open/i, pressed: true });
const choose = async (page: Page, idea: string, what: string | RegExp) => {
  await ideas(page)
    .getByRole('button', { name: `What to do with ${idea}` })
    .click();
  await page.getByRole('menuitem', { name: what }).click();
};

/** Copies the loop to an idea by its key. */
async function copyTo(page: Page, number: string): Promise<void> {
  await page.keyboard.press('Shift+I');
  await expect(opened(page)).toHaveAccessibleName(`Open idea ${number}`);
}

/** Four beats in a loop, and an idea of them that is ten softer. */
async function withSofterIdea(page: Page): Promise<void> {
  await openMidi(page, 'four.mid', fourBars());
  await loop(page, 0, 1);
  await copyTo(page, '1');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Shift+d');
}

test('the loop is copied to ideas, each with its own undo; one is exported, taken into its bars and undone, another made a section', async ({
  page,
}) => {
  await openMidi(page, 'four.mid', fourBars());
  const first = await exportMidi(page);
  await loop(page, 2, 3);
  await page.getByRole('button', { name: 'new idea' }).click();
  await expect(opened(page)).toHaveAccessibleName('Open idea 1');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Shift+u');
  // An idea is taken out by itself: its bar is the first.
  expect(places(await exportMidi(page))).toEqual([
    [0, 70],
    [1, 70],
    [2, 70],
    [3, 70],
  ]);
  await copyTo(page, '2');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  await page.keyboard.press('z');
  await expect(opened(page)).toHaveAccessibleName('Open the part');
  expect(await exportMidi(page)).toEqual(first);
  await page.keyboard.press('z');
  await page.keyboard.press('Control+z');
  expect(places(await exportMidi(page)).map(([, v]) => v)).toEqual([60, 60, 60, 60]);
  await page.keyboard.press('Control+Shift+z');
  await choose(page, 'idea 1', 'Use it in bar 3');
  await expect(opened(page)).toHaveAccessibleName('Open the part');
  const taken = places(await exportMidi(page));
  expect(taken.map(([tick]) => tick)).toEqual(Array.from({ length: 16 }, (_, i) => i));
  expect(taken.map(([, v]) => v)).toEqual([...Array<number>(8).fill(100), 70, 70, 70, 70, 100, 100, 100, 100]);
  await page.keyboard.press('Control+z');
  expect(await exportMidi(page)).toEqual(first);
  await choose(page, 'idea 1', /^Make a section of it/);
  expect(places(await exportMidi(page)).slice(16)).toEqual([
    [16, 70],
    [17, 70],
    [18, 70],
    [19, 70],
  ]);
  await expect(page.getByRole('button', { name: 'Play next: Idea 1' })).toBeVisible();
});

test('ideas are there after a reload with their steps, and what was undone and left behind; one that is thrown away comes back', async ({
  page,
}) => {
  await withSofterIdea(page);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('u');
  await page.waitForFunction(() => window.nodSway!.bench().save.kind === 'saved');
  await page.reload();
  await ideas(page).getByRole('button', { name: 'Open idea 1' }).click();
  expect(places(await exportMidi(page)).map(([, v]) => v)).toEqual([101, 101, 101, 101]);
  await ideas(page).getByRole('button', { name: 'What to do with idea 1' }).click();
  await page.getByRole('menuitem', { name: 'Restore what was undone' }).press('ArrowRight');
  await page.getByRole('menuitem', { name: /^Play softer/i }).press('Enter');
  expect(places(await exportMidi(page)).map(([, v]) => v)).toEqual([90, 90, 90, 90]);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect(places(await exportMidi(page)).map(([, v]) => v)).toEqual([100, 100, 100, 100]);
  await choose(page, 'idea 1', 'Delete idea');
  await expect(ideas(page)).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).filter({ hasText: 'Undo' }).last().click();
  await expect(ideas(page).getByRole('button', { name: 'Open idea 1' })).toBeVisible();
  // On the Shelf there is one part.
  await page.goto('/');
  await expect(page.getByRole('link', { name: /four/i })).toHaveCount(1);
});

test('ideas take over in the running loop, at once and at the bar line: each stroke sounds once, on its frame', async ({ page }) => {
  await withSofterIdea(page);
  await copyTo(page, '2');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Shift+d');
  await press(page, 'Play');
  await page.waitForFunction(() => window.nodSway!.engine.log.length > 2);
  for (const key of ['z', 'z', 'Shift+Z', 'Alt+z', 'Shift+Z']) {
    const played = await page.evaluate(() => window.nodSway!.engine.log.length);
    await page.keyboard.press(key);
    await page.waitForFunction((n) => window.nodSway!.engine.log.length > n + 5, played);
  }
  await press(page, 'Stop');
  const log = await page.evaluate(() => window.nodSway!.engine.log.map(({ frame, velocity }) => [frame, velocity] as const));
  const quarter = log.slice(2).map(([frame], i) => frame - log[i + 1]![0]);
  expect(new Set(quarter)).toEqual(new Set([44_100 / 4]));
  // All three were heard; a switch at the bar line is one that four quarters went before.
  expect(new Set(log.map(([, velocity]) => velocity))).toEqual(new Set([100, 90, 80]));
});
