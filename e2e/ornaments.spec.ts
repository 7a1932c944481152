import { expect, test, type Page } from '@playwright/test';
import {
  clickStem,
  drag,
  drawn,
  exportMidi,
  openMidi,
  meterEvent,
  midiFile,
  noteEvents,
  notesOf,
  saved,
  stemOf,
  tempoEvent,
  trackChunk,
  type Note,
  press,
} from './support';

/** Small strokes: rolls, flams, echoes, ghosts; and versions of the part. All numbers are computed here, at 960 a quarter. */

const sorted = (notes: Note[]): Note[] => [...notes].sort((a, b) => a[0] - b[0] || a[1] - b[1]);

async function setNumber(page: Page, name: string, value: number): Promise<void> {
  const field = page.getByRole('spinbutton', { name });
  await field.fill(String(value));
  await field.press('Enter');
}

async function choose(page: Page, box: string, option: string): Promise<void> {
  await page.getByRole('combobox', { name: box, exact: true }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
}

/** Two bars at 120 BPM: kicks on 1 and 3, snares on 2 and 4, hats on eighths, all at 100. */
const NOTES: Note[] = [0, 1].flatMap((b): Note[] => [
  [b * 1920, 36, 100],
  [b * 1920 + 960, 36, 100],
  [b * 1920 + 480, 38, 100],
  [b * 1920 + 1440, 38, 100],
  ...Array.from({ length: 8 }, (_, s): Note => [b * 1920 + s * 240, 42, 100]),
]);
const FILE = midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents(sorted(NOTES), 60)])]);
const plain = sorted(NOTES.map(([t, k, v]): Note => [2 * t, k, v]));

/** A hat roll from the sixth eighth of bar 1, a flam on the first snare, an echo of the last one. */
const ornaments: Note[] = [
  ...[80, 60, 40].map((v, k): Note => [2400 + (k + 1) * 120, 42, v]),
  // 25 ms before are 48 ticks.
  [960 - 48, 38, 55],
  // 100 x 0.65; the strokes of 42 and 27 would lie behind the part's end at 7680 and are left out.
  [6720 + 720, 38, 65],
];

async function ornament(page: Page): Promise<void> {
  await page.getByRole('tab', { name: /^Hits/i }).click();
  await press(page, 'Ornaments');
  await clickStem(page, await stemOf(page, 'hat-closed', 5));
  await press(page, 'roll');
  await setNumber(page, 'Last stroke in % of its velocity', 40);
  await clickStem(page, await stemOf(page, 'snare', 0));
  await press(page, 'flam');
  await clickStem(page, await stemOf(page, 'snare', 3));
  await press(page, 'echo');
}

test('a roll with a falling ramp, a flam, an echo: the same strokes in the table, the drawing, the player and the file; written out and gathered again', async ({
  page,
}) => {
  await openMidi(page, 'plain.mid', FILE);
  await ornament(page);
  const expected = sorted([...plain, ...ornaments]);
  expect(notesOf(await exportMidi(page))).toEqual(expected);

  // Stroke by stroke in the table: velocities heard, and ms from the hit's home. The table follows the selection.
  await clickStem(page, await stemOf(page, 'hat-closed', 5));
  await page.keyboard.press('x');
  const strokes = page
    .getByRole('table', { name: 'Hits' })
    .getByRole('row')
    .filter({ hasText: /stroke \d of 4/i })
    .filter({ hasText: 'Closed hat' });
  await expect(strokes).toHaveCount(3);
  await expect(strokes.first()).toContainText('80');
  await expect(strokes.first()).toContainText('62.5');
  await page.keyboard.press('x');

  // The player's own log of the first pass, in frames from the loop's start.
  await press(page, 'Play');
  await page.waitForFunction((n) => window.nodSway!.engine.log.filter((o) => o.pass === 0).length >= n, expected.length);
  const heard = await page.evaluate(() => {
    const { log, sampleRate } = window.nodSway!.engine;
    const start = log.find((o) => o.pass === 0 && o.velocity === 100)!.frame;
    return log.filter((o) => o.pass === 0).map((o) => [((o.frame - start) / sampleRate) * 1920, o.velocity] as const);
  });
  await press(page, 'Stop');
  const played = expected.map(([t, , v]) => [t, v] as const);
  expect(heard).toHaveLength(played.length);
  const order = (list: readonly (readonly [number, number])[]) =>
    [...list].sort((a, b) => Math.round(a[0] / 8) - Math.round(b[0] / 8) || a[1] - b[1]);
  order(heard).forEach(([tick, velocity], i) => {
    expect(velocity).toBe(order(played)[i]![1]);
    expect(Math.abs(tick - order(played)[i]![0])).toBeLessThan(0.1);
  });

  // More strokes by dragging the bracket: one step, and back.
  await clickStem(page, await stemOf(page, 'hat-closed', 5));
  const bracket = await page.evaluate(() => {
    const m = window.nodSway!.scene()!.ornaments.find((o) => o.drawn === 'over')!;
    return { x: m.from.x + (m.to.x - m.from.x) * 0.3, y: m.from.y + (m.to.y - m.from.y) * 0.3, strokes: m.strokes.map((s) => s.velocity) };
  });
  expect(bracket.strokes).toEqual([80, 60, 40]);
  await drag(page, bracket, { x: 0, y: -20 });
  await expect(page.getByRole('spinbutton', { name: /^Number of strokes/i })).toHaveValue('6');
  await page.keyboard.press('Control+z');
  expect(notesOf(await exportMidi(page))).toEqual(expected);

  // Written out they are plain hits with the same notes; gathered, a roll and a flam again.
  await page.keyboard.press('Control+a');
  await press(page, 'Convert to plain hits');
  expect(await page.evaluate(() => window.nodSway!.bench().part.hits.filter((h) => h.ornament).length)).toBe(0);
  expect(notesOf(await exportMidi(page))).toEqual(expected);
  await press(page, 'Combine into one');
  expect(
    await page.evaluate(() =>
      window
        .nodSway!.bench()
        .part.hits.flatMap((h) => (h.ornament ? [h.ornament.kind] : []))
        .sort(),
    ),
  ).toEqual(expect.arrayContaining(['flam', 'roll']));
});

test('ghosts on triplets and lead-in kicks are taken and left; a version is compared and gone back to; steps back survive a reload', async ({
  page,
}) => {
  await openMidi(page, 'plain.mid', FILE);
  await ornament(page);
  const before = sorted([...plain, ...ornaments]);

  await press(page, 'Versions');
  await page.getByRole('textbox', { name: 'Name of the version' }).fill('Before the ghosts');
  await press(page, 'Save version');
  await expect(page.getByTestId('changes')).toHaveText('Since then: No changes.');
  await page.keyboard.press('Escape');

  // Doubles right before strong kicks: three places; the first is taken, the second left, the third taken with "all".
  await press(page, 'Ghost notes');
  await choose(page, 'Where ghosts go', 'right before its strong hits');
  await setNumber(page, 'Density in % of the places', 100);
  await setNumber(page, 'Softest ghost', 30);
  await setNumber(page, 'Loudest ghost', 30);
  await press(page, 'Suggest');
  const proposed = () =>
    page.evaluate(
      () => window.nodSway!.bench().ui.proposal?.hits.map((h) => [(h.tick as number) / 84, h.velocity] as [number, number]) ?? [],
    );
  expect(await proposed()).toEqual([
    [1680, 30],
    [3600, 30],
    [5520, 30],
  ]);
  await drawn(page);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Delete');
  await press(page, 'Add all 1');
  const kicks: Note[] = [
    [1680, 36, 30],
    [5520, 36, 30],
  ];
  expect(notesOf(await exportMidi(page))).toEqual(sorted([...before, ...kicks]));

  // Ghosts of the snare on sixteenth triplets.
  await choose(page, 'Where ghosts go', 'around its main hits');
  await choose(page, 'Grid of the ghosts', '1/16T');
  await setNumber(page, 'Density in % of the places', 20);
  await press(page, 'Suggest');
  const ghosts = (await proposed()).map(([t]): Note => [t, 38, 30]);
  expect(ghosts.length).toBeGreaterThan(3);
  for (const [t] of ghosts) {
    expect(t % 160).toBe(0);
    for (const s of [960, 2880, 4800, 6720]) expect(Math.abs(t - s)).toBeGreaterThanOrEqual(80);
  }
  await press(page, `Add all ${ghosts.length}`);
  const after = sorted([...before, ...kicks, ...ghosts]);
  expect(notesOf(await exportMidi(page))).toEqual(after);

  // What changed in a sentence; by eye behind the stems; by ear while Q is held.
  await press(page, 'Versions');
  await expect(page.getByTestId('changes')).toHaveText(`Since then: Added ${ghosts.length} snare, 2 kick.`);
  await press(page, 'Compare with Before the ghosts');
  await expect(page.getByRole('dialog')).toBeHidden();
  const scene = () =>
    page.evaluate(() => ({ behind: window.nodSway!.scene()!.behind.length, stems: window.nodSway!.scene()!.stems.flat().length }));
  await drawn(page);
  const own = await scene();
  expect(own.behind).toBeGreaterThan(0);
  await press(page, 'Play');
  await page.keyboard.down('Shift');
  await page.keyboard.down('Q');
  await page.evaluate(() => (window.nodSway!.engine.log.length = 0));
  await page.waitForFunction(() => window.nodSway!.engine.log.length > 30);
  // 55, 42 and 27 are the ornaments'; a ghost of 30 is not among what is heard.
  expect(await page.evaluate(() => window.nodSway!.engine.log.slice(4).filter((o) => o.velocity === 30).length)).toBe(0);
  expect((await scene()).stems).toBe(own.behind);
  await page.keyboard.up('Q');
  await page.keyboard.up('Shift');
  await page.evaluate(() => (window.nodSway!.engine.log.length = 0));
  await page.waitForFunction(() => window.nodSway!.engine.log.slice(4).some((o) => o.velocity === 30));
  await press(page, 'Stop');

  await press(page, 'Versions');
  await press(page, 'Restore Before the ghosts');
  expect(notesOf(await exportMidi(page))).toEqual(before);
  await saved(page);
  await page.reload();
  await page.waitForFunction(() => window.nodSway?.scene() && window.nodSway.bench().history.undo.length > 0);
  await page.keyboard.press('Control+z');
  expect(notesOf(await exportMidi(page))).toEqual(after);
  await page.keyboard.press('Control+Shift+z');
  expect(notesOf(await exportMidi(page))).toEqual(before);
});
