import { expect, test, type Page } from '@playwright/test';
import { violationsInBothThemes } from './axe';
import {
  exportMidi,
  flatBeat,
  meterEvent,
  midiFile,
  noteEvents,
  openDemo,
  openMidi,
  press,
  tempoEvent,
  trackChunk,
  type Note,
} from './support';

/** Placement and hands: read, chosen from, fixed; checked against the API. */

const part = (page: Page) => page.evaluate(() => window.nodSway!.bench().part);
const selected = (page: Page) => page.evaluate(() => window.nodSway!.bench().selection.size);
const open = async (page: Page, title: string) => {
  await page.getByRole('tab', { name: new RegExp(`^${title}`) }).click();
};
const song = (notes: Note[], us = 500_000): Uint8Array =>
  midiFile(0, 480, [
    trackChunk([
      tempoEvent(0, us),
      meterEvent(0, 4, 2),
      ...noteEvents(
        [...notes].sort((a, b) => a[0] - b[0] || a[1] - b[1]),
        60,
      ),
    ]),
  ]);

test('the flat demo is read, and the first step leads to its hits', async ({ page }) => {
  await openDemo(page, 'Gangway Strut');
  await page.keyboard.press('p');
  await page.keyboard.press('n');
  await expect(page.getByTestId('reading')).toHaveText('Every hit is on the grid. Every row has one velocity throughout.');
  await page.getByRole('button', { name: /^give the .* dynamics$/i }).click();
  expect(await selected(page)).toBeGreaterThan(4);
  await expect(page.getByRole('tab', { name: /^Hits/i, selected: true })).toBeVisible();
});

test('numbers are those of the API for the exported file; late hats are chosen from the chart', async ({ page }) => {
  // Hats 10 ms late on off-beats at 120 BPM: 480 ticks are 500 ms.
  const { notes } = flatBeat(2, 90);
  const late = notes.map(([t, k, v]): Note => [k === 42 && t % 480 === 240 ? t + 10 : t, k, k === 38 ? 110 : v]);
  await openMidi(page, 'late.mid', song(late));
  const bytes = await exportMidi(page);
  await open(page, 'Analysis');
  const told = (await (
    await page.request.post('/api/report', {
      multipart: { midi: { name: 'late.mid', mimeType: 'audio/midi', buffer: Buffer.from(bytes) } },
    })
  ).json()) as { voices: { voice: string; n: number; meanLeanMs: number; sdLeanMs: number }[] };
  const hats = told.voices.find((v) => v.voice === 'hat-closed')!;
  const row = page.getByRole('table', { name: 'Timing of rows' }).getByRole('row', { name: /^Closed hat/i });
  await expect(row.getByRole('cell').nth(1)).toHaveText(`${hats.meanLeanMs.toFixed(1)} late`);
  await expect(row.getByRole('cell').nth(2)).toHaveText(hats.sdLeanMs.toFixed(1));

  await page.getByRole('button', { name: 'By place in the bar' }).click();
  await page.getByRole('combobox', { name: 'Row drawn' }).click();
  await page.getByRole('option', { name: 'Closed hat' }).click();
  const chart = page.getByRole('slider', { name: 'Lean by place in the bar' });
  await chart.hover();
  const box = (await chart.boundingBox())!;
  // The lower half: what is late.
  await page.mouse.move(box.x + 4, box.y + box.height * 0.66);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width - 4, box.y + box.height - 24, { steps: 4 });
  await page.mouse.up();
  const chosen = await page.evaluate(() => {
    const { part: p, selection } = window.nodSway!.bench();
    return p.hits.filter((h) => selection.has(h.id)).map((h) => [h.voice, h.tick % 80640 > 0]);
  });
  expect(chosen).toHaveLength(8);
  expect(chosen.every(([voice, off]) => voice === 'hat-closed' && off)).toBe(true);
  await chart.focus();
  await page.keyboard.press('ArrowRight');
  expect(await selected(page)).toBe(2);
});

test('two that compete are found, looked at and brought together; undone', async ({ page }) => {
  // At 240 BPM a thirty-second is 31 ms: the kick stands so much before the snare, on a line of its own.
  await openMidi(
    page,
    'clash.mid',
    song(
      [0, 1, 2, 3].flatMap((b): Note[] => [
        [b * 480, 38, 100],
        [b * 480 + 420, 36, 110],
      ]),
      250_000,
    ),
  );
  await open(page, 'Analysis');
  const list = page.getByRole('region', { name: 'Competing', exact: true });
  const before = 3;
  await expect(list.getByRole('listitem')).toHaveCount(before);
  const kept = await part(page);
  await list.getByRole('button', { name: 'Look' }).first().click();
  expect(await selected(page)).toBe(2);
  await list.getByRole('button', { name: 'Apart', exact: true }).first().click();
  await expect(list.getByRole('listitem')).toHaveCount(before - 1);
  await page.keyboard.press('Control+z');
  expect(await part(page)).toEqual(kept);
  expect(await violationsInBothThemes(page, '#page')).toEqual([]);
});

test('moments beyond two hands are named, fixed and shown; it is played like a person', async ({ page }) => {
  const beat: Note[] = flatBeat(1, 100).notes;
  const jam: Note[] = [
    [480, 49, 110],
    [480, 45, 100],
    [1440, 49, 110],
    [1440, 50, 90],
  ];
  await openMidi(page, 'jam.mid', song([...beat, ...jam]));
  await page.keyboard.press('p');
  await page.keyboard.press('a');
  await expect(page.getByTestId('playable')).toHaveText('2 moments are beyond two hands and two feet.');
  const list = page.getByRole('region', { name: 'What nobody can play' });
  while ((await page.getByTestId('playable').textContent())?.includes('beyond'))
    await list.getByRole('button', { name: 'delete the least important hit' }).first().click();
  await expect(page.getByTestId('playable')).toHaveText('A drummer could play all of it.');
  await page.getByRole('checkbox', { name: 'show hands and feet under the hits' }).check();
  const limbs = await page.evaluate(() => {
    const { hands, part: p } = window.nodSway!.bench();
    return p.hits.map((h, i) => [h.voice, hands!.limbs[i]]);
  });
  expect(limbs.filter(([voice]) => voice === 'kick').every(([, limb]) => limb === 3)).toBe(true);
  expect(limbs.every(([, limb]) => limb !== 0 && limb !== 5)).toBe(true);
  await press(page, 'Play like a drummer');
  await expect(page.getByRole('region', { name: 'Hand dynamics, move 1' })).toBeVisible();
  await open(page, 'Hands');
  await page.getByRole('button', { name: 'Whose hands' }).click();
  expect(await violationsInBothThemes(page, '#page')).toEqual([]);
});

test('a kit of one’s own: a foot alone cannot play the double, a drum is dragged and moved by keys; kept for every part', async ({
  page,
}) => {
  // Two kicks 62 ms apart, in front of each quarter: two feet can.
  await openMidi(
    page,
    'doubles.mid',
    song(
      [0, 1, 2, 3].flatMap((b): Note[] => [
        [b * 480, 36, 110],
        [b * 480 + 60, 36, 90],
        [b * 480, 42, 90],
        [b * 480 + 240, 38, 90],
      ]),
    ),
  );
  await open(page, 'Hands');
  const playable = page.getByTestId('playable');
  await expect(playable).toHaveText('A drummer could play all of it.');
  await page.getByRole('button', { name: 'Who plays what' }).click();
  await page.getByRole('combobox', { name: 'Kick is played by' }).click();
  await page.getByRole('option', { name: 'the right foot alone' }).click();
  await expect(playable).toHaveText('4 moments are beyond two hands and two feet.');
  await expect(page.getByRole('region', { name: 'What nobody can play' }).getByRole('listitem').first()).toContainText(
    'kick comes before a foot can be back',
  );

  await page.getByRole('button', { name: 'Drum positions' }).click();
  const kit = page.getByRole('group', { name: 'The kit from above' });
  const snare = kit.getByRole('button', { name: /^snare/i });
  await expect(snare).toHaveAccessibleName(/0.00 right, 0.00 away/i);
  await snare.focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowUp');
  await expect(snare).toHaveAccessibleName(/0.05 right, 0.20 away/i);
  const hats = kit.getByRole('button', { name: /^hats/i });
  // Scrolls it into view and waits until the page rests.
  await hats.hover();
  const box = (await hats.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  // 60 of the 111 pixels that an arm's length has there.
  await expect(hats).toHaveAccessibleName(/0.06 left, 0.10 away/i);
  expect(await violationsInBothThemes(page, '#page')).toEqual([]);

  await page.reload();
  await open(page, 'Hands');
  await expect(playable).toHaveText('4 moments are beyond two hands and two feet.');
  for (const name of ['Drum positions', 'Who plays what']) await page.getByRole('button', { name }).click();
  await expect(snare).toHaveAccessibleName(/0.05 right, 0.20 away/i);
  await page.getByRole('button', { name: 'Reset' }).click();
  await expect(snare).toHaveAccessibleName(/0.00 right, 0.00 away/i);
  await page.getByRole('combobox', { name: 'Kick is played by' }).click();
  await page.getByRole('option', { name: 'either foot' }).click();
  await expect(playable).toHaveText('A drummer could play all of it.');
});

test('beside a groove alone: its own numbers, those of the part beneath, and no fixes of what is not the part', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(2).bytes);
  await open(page, 'Analysis');
  await expect(page.getByRole('region', { name: 'Reading' }).getByRole('button')).not.toHaveCount(0);
  await press(page, 'Or something else …');
  await page.getByRole('combobox', { name: 'What is measured' }).click();
  await page.getByRole('option', { name: 'as Lower Hold alone plays them' }).click();
  const table = page.getByRole('table', { name: 'Timing of rows' });
  const hats = table.getByRole('row', { name: /^Closed hat 32/i });
  // The part stays on its lines; the groove does not.
  await expect(hats.getByRole('cell').nth(1)).toHaveText(/^\d+\.\d (early|late)on the grid$/i);
  await expect(page.getByRole('region', { name: 'Reading' }).getByRole('button')).toHaveCount(0);
  await page.getByRole('button', { name: 'Nearest grooves' }).click();
  // Levels are told against each row's own mean, so that they differ where rows play parts of the bar alone.
  await expect(page.getByRole('button', { name: /level away$/i }).first()).toHaveAccessibleName(/^Lower Hold 0\.0 ms/i);
});

test('a blind comparison of ten rounds: nothing shows which is which, and the verdict says how surely', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1, 90).bytes);
  await press(page, 'Add lay back');
  await open(page, 'Analysis');
  await page.getByRole('button', { name: 'Blind comparison' }).click();
  await press(page, 'Begin');
  const blind = page.getByTestId('blind');
  const versions = new Set<string>();
  for (let round = 0; round < 10; round++) {
    await expect(blind.getByRole('status')).toHaveText(`Round ${round + 1} of 10`);
    await expect(blind.getByRole('button', { name: 'the first is better' })).toBeDisabled();
    for (const which of ['first', 'second']) await blind.getByRole('button', { name: `Hear the ${which}` }).click();
    versions.add(await page.evaluate(() => window.nodSway!.bench().transport.version));
    await blind.getByRole('button', { name: 'the first is better' }).click();
  }
  expect([...versions]).toEqual(['performed']);
  await expect(blind.getByRole('status')).toHaveText(/of 10 rounds/i);
  await blind.getByRole('button', { name: 'Done' }).click();
  expect(await page.evaluate(() => window.nodSway!.bench().ui.other)).toBeNull();
});
