import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import type { Groove } from '@/core/model/groove';
import {
  benchReady,
  drawn,
  exportMidi,
  midiFile,
  notesOf,
  noteEvents,
  openShelf,
  tempoEvent,
  meterEvent,
  trackChunk,
  type Note,
  press,
} from './support';

/** The Grooves place: learnt, blended, used, given away and brought back, each compared with numbers computed here. */

const tab = (page: Page, name: string) => page.getByRole('tab', { name, exact: true }).click();
const own = (page: Page): Promise<Groove[]> => page.evaluate(() => (window.nodSwayGrooves!.state().own ?? []).map((k) => k.groove));
const handName = (page: Page) => page.getByTestId('hand-name');
const card = (page: Page, name: string) => page.getByRole('button', { name: `Choose ${name}`, exact: true });

async function openGrooves(page: Page, part?: string): Promise<void> {
  await openShelf(page);
  await page.goto(part ? `/grooves?part=${part}` : '/grooves');
  await expect(card(page, 'Lower Hold')).toBeVisible();
  if (part) await expect(page.getByRole('list', { name: 'Rows' })).toBeVisible();
}

async function setNumber(page: Page, name: string, value: number): Promise<void> {
  const field = page.getByRole('spinbutton', { name, exact: true });
  await field.fill(String(value));
  await field.press('Enter');
}

async function downloaded(page: Page, button: string): Promise<Buffer> {
  const waiting = page.waitForEvent('download');
  await press(page, button);
  return readFileSync(await (await waiting).path());
}

const bringIn = (page: Page, name: string, bytes: Buffer, mimeType = 'application/json') =>
  page.getByTestId('groove-file').setInputFiles({ name, mimeType, buffer: bytes });

const median = (values: number[]): number => {
  const s = [...values].sort((a, b) => a - b);
  const half = s.length >> 1;
  return s.length % 2 ? s[half]! : (s[half - 1]! + s[half]!) / 2;
};
const mean = (values: number[]): number => values.reduce((a, b) => a + b, 0) / values.length;

/** Offsets and levels a step of notes at 960 a quarter in 3/4, as model and docs define learning. */
function learnt(notes: Note[]): { offset: number; level: number; n: number }[] {
  const usual = new Map<number, number>();
  for (const key of new Set(notes.map((n) => n[1]))) usual.set(key, mean(notes.filter((n) => n[1] === key).map((n) => n[2])));
  const steps = Array.from({ length: 12 }, () => ({ deviations: [] as number[], levels: [] as number[] }));
  for (const [tick, key, velocity] of notes) {
    const nearest = Math.floor(tick / 240 + 0.5);
    steps[nearest % 12]!.deviations.push(tick / 240 - nearest);
    steps[nearest % 12]!.levels.push(velocity / usual.get(key)!);
  }
  return steps.map((s) =>
    s.deviations.length === 0
      ? { offset: Number.NaN, level: 1, n: 0 }
      : { offset: median(s.deviations), level: mean(s.levels), n: s.deviations.length },
  );
}

/** "Galley" of our own, from docs/grooves.md. */
const GALLEY = { lean: [0, 3, 2, -4, -9, -3, 2, 4, 8, 5, 3, 1], level: [114, 80, 92, 84, 104, 80, 94, 82, 100, 84, 96, 86] };

test('learnt from the finished part, blended with built-in, used on the hats of the flat one, exported; given away, deleted, brought back', async ({
  page,
}) => {
  await openShelf(page);
  await page.goto('/bench/demo-galley-brushes');
  await benchReady(page);
  const finished = notesOf(await exportMidi(page));
  await page.goto('/bench/demo-gangway-strut');
  await benchReady(page);
  const flat = notesOf(await exportMidi(page));

  // Learn from the finished part.
  await page.getByRole('link', { name: 'Grooves …' }).click();
  await expect(page.getByRole('heading', { name: 'On Gangway Strut' })).toBeVisible();
  await press(page, 'Extract');
  await page
    .getByRole('list', { name: 'Parts to extract from' })
    .getByRole('button', { name: /Galley Brushes/i })
    .click();
  await expect(page.getByTestId('verdict')).toHaveText('A habit in time and in level.');
  await press(page, 'Save the groove');
  await expect(handName(page)).toHaveText('Galley Brushes');
  const kept = (await own(page))[0]!;
  expect([kept.beats, kept.stepsPerBeat, kept.meter]).toEqual([3, 4, [3, 4]]);
  const expected = learnt(finished);
  // The file's ticks are rounded, and what was played before its start was moved to 0: half a percent of a step.
  kept.steps.forEach((s, i) => {
    expect(s.n).toBe(expected[i]!.n);
    if (s.n === 0) return;
    expect(Math.abs(s.offset - expected[i]!.offset)).toBeLessThan(0.005);
    expect(Math.abs(s.level - expected[i]!.level)).toBeLessThan(1e-9);
  });

  // Blend: 30 % of Galley.
  await tab(page, 'Blend');
  await page.getByRole('combobox', { name: 'Blend with' }).click();
  await page.getByRole('option', { name: 'Galley', exact: true }).click();
  await setNumber(page, 'Share in % Galley', 30);
  await press(page, 'Save the blend');
  await expect(handName(page)).toHaveText('Galley Brushes and Galley');
  const blend = (await own(page)).find((g) => g.name === 'Galley Brushes and Galley')!;
  blend.steps.forEach((s, i) => {
    expect(s.offset).toBeCloseTo(kept.steps[i]!.offset * 0.7 + (GALLEY.lean[i]! / 100) * 0.3, 12);
    expect(s.level).toBeCloseTo(kept.steps[i]!.level * 0.7 + (GALLEY.level[i]! / 100) * 0.3, 12);
  });

  // Use it at 60 % on the hats: a groove of three quarters starts again at each bar of four.
  await expect(page.getByTestId('meeting')).toHaveText(
    'The groove lasts 3 quarters, a bar of this part 4 quarters: each bar starts it again, and its beginning fills up the bar.',
  );
  await page.getByRole('checkbox', { name: 'Closed hat' }).check();
  await setNumber(page, 'Lean in % lean', 60);
  await press(page, 'Use Galley Brushes and Galley on closed hat');
  await expect(page.getByRole('region', { name: 'Grooves in use' })).toContainText('Closed hat');
  await page.getByRole('link', { name: 'Open it on the Bench' }).click();
  await benchReady(page);
  const out = notesOf(await exportMidi(page));
  const wanted = flat.map(([t, key, v]): Note => {
    if (key !== 42) return [t, key, v];
    const { offset, level } = blend.steps[((t % 3840) / 240) % 12]!;
    return [
      Math.max(0, Math.floor(t + Math.max(-0.49, Math.min(0.49, 0.6 * offset)) * 240 + 0.5)),
      key,
      Math.max(1, Math.min(127, Math.floor(v * level + 0.5))),
    ];
  });
  expect(out).toEqual(wanted.sort((a, b) => a[0] - b[0] || a[1] - b[1]));
  // The Bench takes it back with one step, and its sentence names it.
  await page
    .getByRole('region', { name: 'Groove, move 1' })
    .getByRole('button', { name: /^Groove/i })
    .first()
    .click();
  await expect(page.getByRole('button', { name: 'Groove: Galley Brushes and Galley' })).toBeVisible();
  await page.keyboard.press('Control+z');
  expect(notesOf(await exportMidi(page))).toEqual(flat);

  // Given away, deleted, brought back.
  await page.getByRole('link', { name: 'Grooves …' }).click();
  await card(page, 'Galley Brushes and Galley').click();
  await tab(page, 'Keep');
  const file = await downloaded(page, 'Export as a groove file');
  expect(JSON.parse(file.toString())).toEqual(blend);
  await press(page, 'Delete');
  await expect(card(page, 'Galley Brushes and Galley')).toHaveCount(0);
  await bringIn(page, 'blend.nodgroove.json', file);
  await expect(handName(page)).toHaveText('Galley Brushes and Galley');
  expect((await own(page)).find((g) => g.name === blend.name)).toEqual(blend);
  expect((await downloaded(page, 'Export as a groove file')).equals(file)).toBe(true);

  // As MIDI: one hit a step at its lean, 64 for level 1.
  const midi = notesOf(await downloaded(page, 'Export as MIDI'));
  const asHits = blend.steps
    .map((s, i): Note => [Math.floor(((i + s.offset + 12) % 12) * 240 + 0.5), 42, Math.floor(s.level * 64 + 0.5)])
    .sort((a, b) => a[0] - b[0]);
  expect(midi.map((n) => n[2])).toEqual(asHits.map((n) => n[2]));
  midi.forEach((n, i) => expect(Math.abs(n[0] - asHits[i]![0])).toBeLessThanOrEqual(1));
  await page.reload();
  await expect(card(page, 'Galley Brushes and Galley')).toBeVisible();
});

test('heard by one click while the loop goes on, on the neutral pattern and on a part', async ({ page }) => {
  await openGrooves(page);
  const started = () => page.evaluate(() => window.nodSwayGrooves!.engine.log.length);
  const playing = () => page.evaluate(() => window.nodSwayGrooves!.engine.isPlaying);
  await press(page, 'Hear Lower Hold');
  await expect.poll(started).toBeGreaterThan(8);
  await expect(page.getByRole('button', { name: 'Stop Lower Hold' })).toBeVisible();
  const anchor = () => page.evaluate(() => window.nodSwayGrooves!.engine.position());
  const before = await started();
  await press(page, 'Hear Tide Race');
  await expect(handName(page)).toHaveText('Tide Race');
  expect(await playing()).toBe(true);
  await expect.poll(started).toBeGreaterThan(before + 8);
  expect(await anchor()).toBeGreaterThan(0);
  // Onto a part, still playing.
  await page.getByRole('combobox', { name: 'Heard on' }).click();
  await page.getByRole('option', { name: 'Net Menders' }).click();
  await expect(page.getByRole('heading', { name: 'On Net Menders' })).toBeVisible();
  const there = await started();
  await expect.poll(started).toBeGreaterThan(there + 8);
  expect(await playing()).toBe(true);
  await page.keyboard.press('Escape');
  await press(page, 'Stop Tide Race');
  await expect.poll(playing).toBe(false);
});

test('shaped by hand: a drag leans, keys level, the first change copies built-in; smoothed, mirrored, undone', async ({ page }) => {
  await openGrooves(page);
  const steps = async () => (await own(page)).find((g) => g.name === 'Lower Hold 2')?.steps.map((s) => [s.offset, s.level]);
  const stem = page.getByRole('slider', { name: 'Step 2 &', exact: true });
  const box = (await stem.boundingBox())!;
  const picture = (await page.getByTestId('hand-picture').boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 80);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 7, box.y + 81, { steps: 4 });
  await expect(page.getByTestId('step-readout')).toContainText('2 &:');
  await page.mouse.up();
  await expect(handName(page)).toHaveText('Lower Hold 2');
  // 400 of 420 units of width for 16 steps, drawn threefold; Hold leans the "& of 2" by 2 %.
  const unit = picture.width / 420;
  expect((await steps())![6]![0]).toBeCloseTo(0.02 + 7 / unit / 25 / 3, 6);
  await stem.focus();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('ArrowUp');
  expect((await steps())![6]![1]).toBeCloseTo(0.94 + 0.04, 9);
  await expect(stem).toHaveAttribute('aria-valuetext', /level 98 %$/);
  await page.keyboard.press('Delete');
  expect((await steps())![6]).toEqual([0, 1]);
  const straight = await steps();
  await press(page, 'Mirror');
  expect((await steps())!.map((s) => s[0])).toEqual(straight!.map((s) => (s[0] === 0 ? 0 : -s[0]!)));
  await press(page, 'Beats alike');
  // Step "2": half way from -0.09 to the mean of the four beats' firsts, 0, -0.09, 0 and -0.1.
  expect((await steps())![4]![0]).toBeCloseTo((-0.09 - 0.0475) / 2, 9);
  for (let i = 0; i < 6; i++) await press(page, 'Undo');
  expect(await own(page)).toEqual([]);
  await expect(page.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await press(page, 'Redo');
  await expect(handName(page)).toHaveText('Lower Hold 2');
});

test('dropped onto a row and onto a part; taken off; renamed, tagged, found, deleted, put back', async ({ page }) => {
  await openGrooves(page, 'demo-gangway-strut');
  const moves = () =>
    page.evaluate(() =>
      window
        .nodSwayGrooves!.state()
        .stand?.part.feel.moves.map((m) => [m.kind === 'groove' ? m.groove.name : m.kind, m.scope?.voices ?? null]),
    );
  const drop = async (name: string, target: string) => {
    const from = (await card(page, name).boundingBox())!;
    await page.mouse.move(from.x + 60, from.y + 30);
    await page.mouse.down();
    await page.mouse.move(from.x + 90, from.y + 50, { steps: 3 });
    const to = (await page.locator(target).boundingBox())!;
    await page.mouse.move(to.x + 50, to.y + to.height / 2, { steps: 6 });
    await drawn(page);
    await page.mouse.up();
  };
  await drop('Lower Hold', '[data-row=snare]');
  await expect.poll(moves).toEqual([['Lower Hold', ['snare']]]);
  await drop('Ballast', '[data-testid=whole-part]');
  await expect.poll(moves).toEqual([
    ['Lower Hold', ['snare']],
    ['Ballast', null],
  ]);
  await drop('Tide Race', '[data-row=snare]');
  await expect.poll(moves).toEqual([
    ['Tide Race', ['snare']],
    ['Ballast', null],
  ]);
  await press(page, 'Delete Ballast from the part');
  await expect.poll(moves).toEqual([['Tide Race', ['snare']]]);
  await page.getByRole('combobox', { name: 'Heard on' }).click();
  await page.getByRole('option', { name: 'a neutral pattern' }).click();
  await drop('Ballast', 'li:has-text("Fog Signal")');
  await expect(page.getByRole('heading', { name: 'On Fog Signal' })).toBeVisible();
  await expect.poll(moves).toEqual([['Ballast', null]]);
  await expect(page.getByTestId('meeting')).toHaveText(/^The groove lasts 4 quarters, a bar of this part 3.5 quarters/i);

  await tab(page, 'Keep');
  await press(page, 'Duplicate as my own');
  await page.getByLabel('Name', { exact: true }).fill('Bowsprit');
  await page.getByLabel('Name', { exact: true }).press('Enter');
  await page.getByLabel(/^Tags/i).fill('Lazy, evening');
  await page.getByLabel(/^Tags/i).press('Enter');
  await press(page, 'lazy');
  await expect(card(page, 'Bowsprit')).toBeVisible();
  await expect(card(page, 'Lower Hold')).toHaveCount(0);
  await press(page, 'Duplicate');
  await expect(card(page, 'Bowsprit 2')).toBeVisible();
  await press(page, 'Delete');
  await expect(card(page, 'Bowsprit 2')).toHaveCount(0);
  await press(page, 'Undo');
  await expect(card(page, 'Bowsprit 2')).toBeVisible();
  await page.reload();
  await expect(card(page, 'Bowsprit 2')).toBeVisible();
  expect((await own(page)).map((g) => g.name)).toEqual(['Bowsprit', 'Bowsprit 2']);
});

test('learning from a MIDI file: rows, outliers; dead straight says so; bad files say what is wrong', async ({ page }) => {
  await openGrooves(page);
  const notes: Note[] = [];
  for (let b = 0; b < 8; b++)
    for (let s = 0; s < 8; s++) notes.push([b * 1920 + s * 240 + (s % 2 ? 24 : 0) + (b === 5 && s === 4 ? 40 : 0), 42, s % 2 ? 70 : 100]);
  const bytes = midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents(notes, 60)])]);
  await bringIn(page, 'hats.mid', Buffer.from(bytes), 'audio/midi');
  // 24 of 480 ticks at 500 ms a quarter: 25 ms; one hit 41.7 ms off.
  await expect(page.getByTestId('verdict')).toHaveText('A habit in time and in level.');
  await expect(page.getByTestId('learnt-steps').getByRole('row').nth(3)).toContainText('25.0 ms late');
  await expect(page.getByTestId('outliers')).toContainText('Closed hat, bar 6, step 3: 42 ms later than the rest');
  await page.getByRole('checkbox', { name: 'leave out 1 outlier' }).check();
  await expect(page.getByTestId('study')).toContainText('63 hits; the steps explain 100 % of the spread; the hits vary by 0.0 ms');
  await page.getByLabel('Name', { exact: true }).fill('Late hats');
  await press(page, 'Save the groove');
  await expect(handName(page)).toHaveText('Late hats');

  await press(page, 'Extract');
  await page
    .getByRole('list', { name: 'Parts to extract from' })
    .getByRole('button', { name: /Gangway Strut/i })
    .click();
  await expect(page.getByTestId('verdict')).toHaveText('Nothing to extract: every hit is on its step, and all are equally loud.');
  await expect(page.getByRole('button', { name: 'Save the groove' })).toBeDisabled();
  await page.keyboard.press('Escape');

  // A part that is late as a whole: its lines are moved for learning alone.
  await press(page, 'Extract');
  await page
    .getByRole('list', { name: 'Parts to extract from' })
    .getByRole('button', { name: /Net Menders/i })
    .click();
  await expect(page.getByRole('checkbox', { name: /^around lines moved by 49 ms/i })).toBeChecked();
  await expect(page.getByTestId('verdict')).toHaveText(/levels can be extracted/i);
  await page.getByRole('checkbox', { name: /^around lines moved/i }).uncheck();
  await expect(page.getByText('All steps are about 49 ms late')).toBeVisible();
  await page.keyboard.press('Escape');

  await bringIn(
    page,
    'odd.nodgroove.json',
    Buffer.from('{"format":"nod-sway/groove@1","name":"odd","meter":[4,4],"beats":4,"stepsPerBeat":4,"steps":[{"offset":0,"level":1}]}'),
  );
  await expect(page.getByText('The groove file is not valid: steps: 1 steps, but beats x stepsPerBeat is 16.')).toBeVisible();
  await bringIn(page, 'noise.mid', Buffer.from('not music'), 'audio/midi');
  await expect(page.getByText('This is not a standard MIDI file.')).toBeVisible();
  expect((await own(page)).length).toBe(1);
});

test('a selection on the Bench teaches a groove, compared with the part in the Grooves place', async ({ page }) => {
  await openShelf(page);
  await page.goto('/bench/demo-galley-brushes');
  await benchReady(page);
  const rides = await page.evaluate(() => {
    const { part, select } = window.nodSway!.bench();
    const ids = part.hits.filter((h) => h.voice === 'ride').map((h) => h.id);
    select(ids);
    return ids.length;
  });
  await press(page, `Extract a groove from ${rides} hits …`);
  await expect(page.getByTestId('study')).toContainText(`${rides} hits;`);
  await press(page, 'Save the groove');
  await press(page, 'Show it');
  await expect(handName(page)).toHaveText('Galley Brushes');
  await tab(page, 'Compare');
  await page.getByRole('combobox', { name: 'Compare with' }).click();
  await page.getByRole('option', { name: 'Galley Brushes, as it is played' }).click();
  await expect(page.getByTestId('difference')).toHaveText(/^\d+ of 10 steps differ: \d+\.\d ms and \d+ % of level/i);
});

test('a groove file dropped on the shelf goes among the grooves', async ({ page }) => {
  await openShelf(page);
  const groove = {
    format: 'nod-sway/groove@1',
    name: 'Bowsprit',
    meter: [3, 4],
    beats: 3,
    stepsPerBeat: 1,
    steps: [0, 0.1, -0.1].map((offset) => ({ offset, level: 1, n: 3 })),
  };
  await page
    .getByTestId('file-input')
    .setInputFiles({ name: 'bowsprit.nodgroove.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(groove)) });
  await page.waitForURL(/\/grooves\?groove=/);
  await expect(handName(page)).toHaveText('Bowsprit');
  expect(await own(page)).toEqual([groove]);
});
