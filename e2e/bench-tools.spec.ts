import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import {
  chooseExport,
  clickStem,
  drag,
  drawn,
  exportMidi,
  flatBeat,
  openMidi,
  meterEvent,
  midiFile,
  noteEvents,
  notesOf,
  saved,
  stemOf,
  stems,
  tempoEvent,
  trackChunk,
  type Note,
  press,
} from './support';

/** The Bench's tools one by one, each checked by what it leaves in the part or the exported notes. */

const velocities = (page: Page, voice: string) =>
  page.evaluate(
    (v) =>
      window
        .nodSway!.bench()
        .part.hits.filter((h) => h.voice === v)
        .map((h) => h.velocity as number),
    voice,
  );
async function shape(page: Page, verb: string): Promise<void> {
  await page.getByRole('combobox', { name: 'What to do' }).click();
  await page.getByRole('option', { name: verb, exact: true }).click();
}

const hitsPage = (page: Page) => page.getByRole('tab', { name: /^Hits/i }).click();

test('rules choose, add, take away and narrow; the description says what is selected', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(2).bytes);
  await hitsPage(page);
  await press(page, 'Choose');
  const said = page.getByTestId('selected');
  await press(page, 'On-beats');
  // 2 bars: 8 hats, 8 kicks, 4 snares on beats.
  await expect(said).toHaveText('20 on-beat hits');
  await page.getByRole('radio', { name: 'Narrow selection' }).click();
  await page.getByRole('button', { name: 'Open Closed hat', exact: true }).click();
  await press(page, 'The open row');
  await expect(said).toHaveText('8 on-beat closed hat hits');
  await page.getByRole('radio', { name: 'add' }).click();
  await press(page, 'Off-beats');
  await expect(said).toHaveText('16 closed hat hits');
  await page.getByRole('radio', { name: 'Remove from selection' }).click();
  await page.getByRole('spinbutton', { name: 'First bar', exact: true }).fill('2');
  await page.keyboard.press('Enter');
  await page.getByRole('spinbutton', { name: 'Last bar', exact: true }).fill('2');
  await page.keyboard.press('Enter');
  await press(page, 'Select bars');
  await expect(said).toHaveText('8 closed hat hits in bar 1');
  await page.getByRole('radio', { name: 'New selection' }).click();
  await press(page, 'Same place in every bar');
  await expect(said).toHaveText('16 closed hat hits');
  // Selecting is no step.
  await expect(page.getByRole('button', { name: /^Undo/i })).toBeDisabled();
});

test('a shape is tried out, kept as one step or put back; locked hits are left alone, and it says so', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  await hitsPage(page);
  await clickStem(page, await stemOf(page, 'hat-closed', 0));
  await page.keyboard.press('k');
  await page.keyboard.press('a');
  await expect(page.getByTestId('touched')).toHaveText('15 closed hat hits, 1 locked left alone');
  await shape(page, 'alternate');
  const tried = [100, ...Array.from({ length: 15 }, (_, i) => (i % 2 === 0 ? 104 : 72))];
  expect(await velocities(page, 'hat-closed')).toEqual(tried);
  await page.getByRole('toolbar').getByRole('button', { name: 'Cancel' }).click();
  expect(await velocities(page, 'hat-closed')).toEqual(Array(16).fill(100));
  await shape(page, 'scale');
  await page.getByRole('spinbutton', { name: 'Scale to in %' }).fill('50');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Scale 15 closed hat hits, 1 locked left alone to 50 %')).toBeVisible();
  await page.getByRole('toolbar').getByRole('button', { name: 'Apply' }).click();
  expect(await velocities(page, 'hat-closed')).toEqual([100, ...Array(15).fill(50)]);
  await page.keyboard.press('Control+z');
  expect(await velocities(page, 'hat-closed')).toEqual(Array(16).fill(100));
});

test('the distribution: mean and spread are set as a whole, drawing again keeps them', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(2).bytes);
  await hitsPage(page);
  await page.getByRole('button', { name: 'Open Closed hat', exact: true }).click();
  await page.keyboard.press('a');
  await page.getByRole('button', { name: /^New variation/i }).click();
  await page.getByRole('toolbar').getByRole('button', { name: 'Apply' }).click();
  const first = await velocities(page, 'hat-closed');
  expect(new Set(first).size).toBeGreaterThan(4);
  const mean = (v: number[]) => v.reduce((a, b) => a + b, 0) / v.length;
  expect(mean(first)).toBeCloseTo(100, 0);
  await page.getByRole('spinbutton', { name: 'Mean velocity' }).fill('70');
  await page.keyboard.press('Enter');
  await page.getByRole('spinbutton', { name: 'Spread (± SD) of the velocity' }).fill('10');
  await page.keyboard.press('Enter');
  const reshaped = await velocities(page, 'hat-closed');
  expect(Math.abs(mean(reshaped) - 70)).toBeLessThan(0.6);
  expect(Math.abs(Math.sqrt(mean(reshaped.map((v) => (v - mean(reshaped)) ** 2))) - 10)).toBeLessThan(0.6);
  // The order of loud and soft is kept.
  for (let i = 1; i < first.length; i++) if (first[i]! > first[i - 1]!) expect(reshaped[i]!).toBeGreaterThanOrEqual(reshaped[i - 1]!);
});

test('velocities follow a drawn line, over the selection of that row or all of it', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  const first = await stemOf(page, 'hat-closed', 0);
  const last = await stemOf(page, 'hat-closed', 15);
  await page.keyboard.press('v');
  const high = first.footY - first.headY;
  await drag(page, { x: first.footX, y: first.footY - 12 }, { x: last.footX - first.footX, y: -(high - 12) });
  const drawnLine = await velocities(page, 'hat-closed');
  expect(drawnLine[0]).toBeLessThan(10);
  expect(Math.abs(drawnLine[15]! - 100)).toBeLessThan(3);
  for (let i = 1; i < 16; i++) expect(drawnLine[i]!).toBeGreaterThan(drawnLine[i - 1]!);
  expect(await velocities(page, 'kick')).toEqual(Array(4).fill(100));
});

test('copy, paste under the pointer and at the step cursor; a paste in the wrong bar goes with one undo, the view included', async ({
  page,
}) => {
  const beat = flatBeat(2);
  await openMidi(page, 'beat.mid', beat.bytes);
  const snare = await stemOf(page, 'snare', 0);
  await clickStem(page, snare);
  await page.keyboard.press('Control+c');
  // A right click pastes onto the line under the pointer, also in another row.
  const tomRow = await page.evaluate(() => window.nodSway!.scene()!.rows.find((r) => r.voice === 'kick')!.baseline);
  const hat = await stemOf(page, 'hat-closed', 2);
  await stems(page).click({ button: 'right', position: { x: hat.footX, y: tomRow - 14 } });
  await page.getByRole('menuitem', { name: /^Paste at bar 1/i }).click();
  const kicks = () =>
    page.evaluate(() =>
      window
        .nodSway!.bench()
        .part.hits.filter((h) => h.voice === 'kick')
        .map((h) => (h.tick as number) / 20160),
    );
  expect(await kicks()).toEqual([0, 2, 4, 8, 12, 16, 20, 24, 28]);
  await page.keyboard.press('Control+z');

  const view = () =>
    page.evaluate(() => ({ scroll: window.nodSway!.bench().view.scroll as number, size: window.nodSway!.bench().view.pixelsPerQuarter }));
  const before = await view();
  await page.keyboard.press('c');
  await page.keyboard.press('End');
  await page.keyboard.press('Control+v');
  await page.getByRole('button', { name: 'Zoom in' }).click();
  await page.getByRole('button', { name: 'Zoom in' }).click();
  expect((await view()).size).toBeGreaterThan(before.size);
  await page.keyboard.press('Control+z');
  expect(await view()).toEqual(before);
  expect(notesOf(await exportMidi(page))).toEqual(beat.notes.map(([t, k, v]) => [t * 2, k, v]));
});

test('bars: shortening names what falls outside and keeps it until confirmed; doubling, inserting, moving, meter', async ({ page }) => {
  const beat = flatBeat(2);
  await openMidi(page, 'beat.mid', beat.bytes);
  await page.getByRole('tab', { name: 'Bars' }).click();
  const bars = () => page.evaluate(() => [window.nodSway!.bench().part.bars, window.nodSway!.bench().part.hits.length]);
  const length = page.getByRole('spinbutton', { name: 'Length in bars' });
  await length.fill('1');
  await length.press('Enter');
  await expect(page.getByTestId('outside')).toContainText('22 hits fall outside 1 bar: ');
  await expect(page.getByTestId('outside')).toContainText('kick at bar 2 · 1');
  expect(await bars()).toEqual([2, 44]);
  await press(page, 'Keep 2 bars');
  await expect(page.getByTestId('outside')).toBeHidden();
  await press(page, 'Double it');
  expect(await bars()).toEqual([4, 88]);
  await press(page, 'After these');
  expect(await bars()).toEqual([5, 88]);
  const out = notesOf(await exportMidi(page));
  // The loop reaches the copies: both bars, both again, and an empty one behind them.
  const twice: Note[] = [0, 2].flatMap((at) => beat.notes.map(([t, k, v]): Note => [t * 2 + at * 3840, k, v]));
  expect(out).toEqual(twice.sort((a, b) => a[0] - b[0] || a[1] - b[1]));
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await length.fill('1');
  await length.press('Enter');
  await press(page, 'Shorten and delete them');
  expect(await bars()).toEqual([1, 22]);
  await page.keyboard.press('Control+z');
  expect(await bars()).toEqual([2, 44]);
  // Another meter: both numbers are set together, and what it costs is said before: beat 4 of the bar.
  await page.getByRole('spinbutton', { name: 'Beats per bar' }).fill('3');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('meter-cost')).toContainText('6 hits lie beyond the shorter bar and would go.');
  expect(await bars()).toEqual([2, 44]);
  await press(page, 'Make it 3/4');
  expect(await bars()).toEqual([2, 38]);
  await saved(page);
});

test('rows: rename, reorder by dragging, key, wrong names put right, merge, hide empty, add', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  const rows = () => page.evaluate(() => window.nodSway!.bench().part.rows.map((r) => r.name ?? r.voice));
  expect(await rows()).toEqual(['hat-closed', 'snare', 'kick']);
  await press(page, 'More about Snare');
  await page.getByRole('menuitem', { name: 'Rename' }).click();
  await page.getByLabel('Name of the row Snare').fill('Tin bucket');
  await page.keyboard.press('Enter');
  expect(await rows()).toEqual(['hat-closed', 'Tin bucket', 'kick']);

  // The kick's name is dragged above the snare's.
  const kick = (await page.getByRole('button', { name: 'Open Kick', exact: true }).boundingBox())!;
  const snare = (await page.getByRole('button', { name: 'Open Tin bucket', exact: true }).boundingBox())!;
  await page.mouse.move(kick.x + 20, kick.y + 10);
  await expect(page.getByRole('button', { name: 'Open Kick', exact: true })).toBeVisible();
  await page.mouse.down();
  await page.mouse.move(kick.x + 20, kick.y - 20, { steps: 4 });
  await page.mouse.move(snare.x + 20, snare.y + 4, { steps: 8 });
  await page.mouse.up();
  await expect.poll(rows).toEqual(['hat-closed', 'kick', 'Tin bucket']);
  await page.keyboard.press('Control+z');
  expect(await rows()).toEqual(['hat-closed', 'Tin bucket', 'kick']);

  // Another key, then another voice, then merged: the hits keep their times and velocities.
  await press(page, 'More about Kick');
  await page.getByRole('menuitem', { name: 'Instrument, key, split, layer, merge …' }).click();
  await page.getByRole('spinbutton', { name: 'MIDI key' }).fill('60');
  await page.keyboard.press('Enter');
  await press(page, 'Set the key');
  expect([...new Set(notesOf(await exportMidi(page)).map(([, k]) => k))].sort()).toEqual([38, 42, 60]);
  await press(page, 'More about Kick');
  await page.getByRole('menuitem', { name: 'Instrument, key, split, layer, merge …' }).click();
  await page.getByRole('combobox', { name: 'Merge with' }).click();
  await page.getByRole('option', { name: 'Tin bucket' }).click();
  await press(page, 'Merge');
  expect(await rows()).toEqual(['hat-closed', 'Tin bucket']);
  expect(
    notesOf(await exportMidi(page))
      .filter(([, k]) => k === 38)
      .map(([t]) => t),
  ).toEqual([0, 960, 1920, 2880]);

  await press(page, 'Rows');
  await page.getByRole('menuitem', { name: 'Add row …' }).click();
  await page.getByPlaceholder('Search instruments').fill('cow');
  await expect(page.getByRole('option')).toHaveText(['Cowbell']);
  await page.keyboard.press('Enter');
  expect(await rows()).toEqual(['hat-closed', 'cowbell', 'Tin bucket']);
  await press(page, 'Rows');
  await page.getByRole('menuitemcheckbox', { name: 'Hide empty rows' }).click();
  await expect(page.getByRole('button', { name: 'Open Cowbell', exact: true })).toBeHidden();
});

test('kit maps: a file with wrong names is put right, kept, exported, brought in, and played on another kit', async ({ page }) => {
  // A pad sheet's keys: to General MIDI they are bongos and congas.
  const notes: Note[] = [
    [0, 60, 100],
    [480, 61, 90],
    [960, 60, 100],
    [1440, 61, 90],
    [240, 64, 60],
    [720, 64, 60],
  ];
  await openMidi(page, 'pads.mid', midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents(notes, 60)])]));
  const rows = () => page.evaluate(() => window.nodSway!.bench().part.rows.map((r) => r.voice));
  expect(await rows()).toEqual(['bongo-high', 'bongo-low', 'conga-low']);
  await press(page, 'Rows');
  await page.getByRole('menuitem', { name: 'Drum map …' }).click();
  const galley = page.getByRole('list', { name: 'Built-in drum maps' }).getByRole('listitem').filter({ hasText: 'Galley pads' });
  await galley.getByRole('button', { name: /^read these keys as/i }).click();
  expect(await rows()).toEqual(['hat-closed', 'snare', 'kick']);
  await page.getByRole('combobox', { name: 'Row of key 64' }).click();
  await page.getByRole('option', { name: 'Ride', exact: true }).click();
  expect(await rows()).toEqual(['ride', 'snare', 'kick']);
  await page.getByLabel('Name for this drum map').fill('Hold sheet');
  await press(page, 'Save this drum map');
  await expect(page.getByRole('list', { name: 'Your drum maps' }).getByRole('listitem').filter({ hasText: 'Hold sheet' })).toBeVisible();
  const waiting = page.waitForEvent('download');
  await press(page, 'Export it');
  const file = await (await waiting).path();
  expect(JSON.parse(readFileSync(file, 'utf8'))).toMatchObject({
    format: 'nod-sway/kit@1',
    name: 'Hold sheet',
    voices: { 60: 'kick', 64: 'ride' },
  });
  await press(page, 'Delete Hold sheet');
  await expect(page.getByRole('list', { name: 'Your drum maps' }).getByRole('listitem').filter({ hasText: 'Hold sheet' })).toBeHidden();
  await page.getByTestId('library-file').setInputFiles(file);
  await expect(page.getByRole('list', { name: 'Your drum maps' }).getByRole('listitem').filter({ hasText: 'Hold sheet' })).toBeVisible();
  await page.getByTestId('library-file').setInputFiles({
    name: 'bad.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"nod-sway/kit@1","name":"x","voices":{"200":"kick"}}'),
  });
  await expect(page.getByText('The drum map is not valid', { exact: false })).toBeVisible();
  await page
    .getByRole('list', { name: 'Built-in drum maps' })
    .getByRole('listitem')
    .filter({ hasText: 'General MIDI' })
    .getByRole('button', { name: /^write for/i })
    .click();
  await page.keyboard.press('Escape');
  expect(notesOf(await exportMidi(page))).toEqual([
    [0, 36, 100],
    [480, 51, 60],
    [960, 38, 90],
    [1440, 51, 60],
    [1920, 36, 100],
    [2880, 38, 90],
  ]);
});

test('nudges: by unit, typed, mirrored, to zero, apart; an uncertain hit is sent to another line; a stray says so', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  await hitsPage(page);
  await clickStem(page, await stemOf(page, 'snare', 0));
  const nudges = (voice: string) =>
    page.evaluate(
      (v) =>
        window
          .nodSway!.bench()
          .part.hits.filter((h) => h.voice === v)
          .map((h) => h.nudge?.ms ?? 0),
      voice,
    );
  await page.getByRole('combobox', { name: 'Nudge by' }).click();
  await page.getByRole('option', { name: '1/8 step' }).click();
  await press(page, 'Later');
  // A sixteenth at 120 BPM lasts 125 ms.
  expect((await nudges('snare'))[0]).toBeCloseTo(15.63, 2);
  await expect(page.getByTestId('nudge-of-step')).toHaveText('12.5 % of a 1/16');
  await press(page, 'Mirror');
  expect((await nudges('snare'))[0]).toBeCloseTo(-15.63, 2);
  await page.getByRole('spinbutton', { name: /^Nudge in/i }).fill('30');
  await page.keyboard.press('Enter');
  expect((await nudges('snare'))[0]).toBe(30);
  await press(page, 'To 0');
  expect((await nudges('snare'))[0]).toBe(0);
  await page.keyboard.press('s');
  await page.keyboard.press('Escape');

  // One hat far from its row's mean.
  await clickStem(page, await stemOf(page, 'hat-closed', 5));
  await page.getByRole('spinbutton', { name: /^Nudge in/i }).fill('35');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('stray')).toContainText('It strays from its row: 35 ms late');
  await press(page, 'The later line');
  expect(
    await page.evaluate(() =>
      window
        .nodSway!.bench()
        .part.hits.filter((h) => h.decided)
        .map((h) => [(h.tick as number) / 20160, (h.home as number) / 20160]),
    ),
  ).toEqual([[5, 6]]);
  await press(page, 'Detect again');
  await expect
    .poll(() => page.evaluate(() => window.nodSway!.bench().part.hits.filter((h) => h.decided || h.home !== h.tick).length))
    .toBe(0);

  // Snare, kick and hat on beat 2 set 6 ms apart, the snare first.
  await clickStem(page, await stemOf(page, 'snare', 0));
  await clickStem(page, await stemOf(page, 'kick', 1), ['Shift']);
  await page.getByRole('combobox', { name: 'Who leads' }).click();
  await page.getByRole('option', { name: 'Snare' }).click();
  await press(page, 'Set apart');
  expect([(await nudges('snare'))[0], (await nudges('kick'))[1]]).toEqual([-3, 3]);
});

test('a choke ends the ring of its own voice and sounds nothing', async ({ page }) => {
  const notes: Note[] = [
    [0, 49, 120],
    [480, 49, 100],
  ];
  await openMidi(
    page,
    'crash.mid',
    midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents(notes, 60)])]),
  );
  await hitsPage(page);
  const loudness = async (): Promise<number[]> => {
    await page.evaluate(() => (window.nodSway!.engine.log.length = 0));
    await press(page, 'Play');
    await page.waitForFunction(() => window.nodSway!.engine.log.length > 0);
    const heard = await page.evaluate(async () => {
      const { engine } = window.nodSway!;
      const { firstFrame, samples } = await engine.capture(3);
      // The first round of the loop, of two seconds, that was captured from its start.
      const first = engine.log[0]!.frame;
      const start = first + 88_200 * Math.max(0, Math.ceil((firstFrame - first) / 88_200));
      const rms = (from: number, to: number) => {
        let sum = 0;
        const a = start + Math.round(from * 44100) - firstFrame;
        const b = start + Math.round(to * 44100) - firstFrame;
        for (let i = a; i < b; i++) sum += samples[i]! ** 2;
        return Math.sqrt(sum / (b - a));
      };
      return [rms(0.35, 0.48), rms(0.8, 0.95)];
    });
    await press(page, 'Stop');
    return heard;
  };
  const [, ringing] = await loudness();
  await clickStem(page, await stemOf(page, 'crash', 1));
  await press(page, 'Marks');
  await press(page, 'Make chokes');
  const [before, after] = await loudness();
  expect(before).toBeGreaterThan(0.005);
  // A grabbed cymbal fades in 90 ms; what is left is the room.
  expect(after).toBeLessThan(before! / 30);
  expect(ringing).toBeGreaterThan(after! * 30);
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await chooseExport(page, 'the drum part alone');
  const waiting = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Export', exact: true }).click();
  expect(notesOf(new Uint8Array(readFileSync(await (await waiting).path())))).toEqual([[0, 49, 120]]);
  await expect(page.getByTestId('export-account')).toContainText(
    'MIDI has no chokes: 1 ends what rings before it, 0 notes were shortened.',
  );
});

test('the table of hits follows the selection, sets it, sorts and takes numbers', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  await page.keyboard.press('x');
  const table = page.getByRole('table', { name: 'Hits' });
  await expect(table.getByRole('row')).not.toHaveCount(0);
  await table.getByRole('row', { name: /Snare bar 1 · 2/i }).click({ position: { x: 20, y: 10 } });
  expect(
    await page.evaluate(() =>
      window
        .nodSway!.bench()
        .part.hits.filter((h) => window.nodSway!.bench().selection.has(h.id))
        .map((h) => [h.voice, h.tick as number]),
    ),
  ).toEqual([['snare', 80640]]);
  await clickStem(page, await stemOf(page, 'kick', 2));
  await expect(table.getByRole('row', { selected: true })).toContainText('Kick');
  await page.getByLabel('Velocity of Kick, bar 1 · 3', { exact: true }).fill('61');
  await page.keyboard.press('Enter');
  await page.getByLabel('Nudge of Kick, bar 1 · 3, in ms').fill('-7.5');
  await page.keyboard.press('Enter');
  expect(await page.evaluate(() => window.nodSway!.bench().part.hits.filter((h) => h.voice === 'kick')[2])).toMatchObject({
    velocity: 61,
    nudge: { ms: -7.5 },
  });
  await table.getByRole('button', { name: 'Velocity' }).click();
  await table.getByRole('button', { name: 'Velocity' }).click();
  await expect(table.getByRole('columnheader', { name: 'Velocity' })).toHaveAttribute('aria-sort', /ascending|descending/);
  await page.getByRole('button', { name: 'Close the table' }).click();
  await expect(table).toBeHidden();
});

test('feet are dragged to another line or row, with Alt a copy stays behind', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  const steps = (voice: string) =>
    page.evaluate(
      (v) =>
        window
          .nodSway!.bench()
          .part.hits.filter((h) => h.voice === v)
          .map((h) => (h.tick as number) / 20160),
      voice,
    );
  const snare = await stemOf(page, 'snare', 0);
  const next = await stemOf(page, 'snare', 1);
  const step = (next.footX - snare.footX) / 8;
  await drag(page, { x: snare.footX, y: snare.footY + 1 }, { x: 2 * step, y: 0 });
  expect(await steps('snare')).toEqual([6, 12]);
  await page.keyboard.down('Alt');
  await drag(page, { x: snare.footX + 2 * step, y: snare.footY + 1 }, { x: -4 * step, y: 0 });
  await page.keyboard.up('Alt');
  expect(await steps('snare')).toEqual([2, 6, 12]);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect(await steps('snare')).toEqual([4, 12]);
});

test.describe('with a finger', () => {
  test.use({ hasTouch: true });
  test('a tap takes a column, the large pad moves it', async ({ page }) => {
    await openMidi(page, 'beat.mid', flatBeat(1).bytes);
    const snare = await stemOf(page, 'snare', 0);
    const box = (await stems(page).boundingBox())!;
    await page.touchscreen.tap(box.x + snare.headX, box.y + snare.headY);
    const pad = page.getByTestId('touch-area');
    await expect(pad).toBeVisible();
    await expect(page.getByTestId('touch-pad')).toContainText('one snare hit');
    const area = (await pad.boundingBox())!;
    await page.mouse.move(area.x + 80, area.y + 60);
    await page.mouse.down();
    await page.mouse.move(area.x + 80, area.y + 100, { steps: 5 });
    await page.mouse.up();
    await page.mouse.move(area.x + 80, area.y + 60);
    await page.mouse.down();
    await page.mouse.move(area.x + 120, area.y + 62, { steps: 5 });
    await page.mouse.up();
    await drawn(page);
    // Half a velocity and a quarter of a ms a pixel.
    expect(await page.evaluate(() => window.nodSway!.bench().part.hits.filter((h) => h.voice === 'snare')[0])).toMatchObject({
      velocity: 80,
      nudge: { ms: 10, velocity: 0 },
    });
  });
});
