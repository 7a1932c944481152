import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { unzipSync, zipSync } from 'fflate';
import { READY_FEELS } from '../src/core/moves/ready-feels';
import { READY_TARGETS } from '../src/core/output-map/ready';
import { HOUSE_GROOVES } from '../src/core/groove/house-grooves';
import { USUAL_GUARDS, type Take } from '../src/core/model/take';
import { putTake } from '../src/core/take/use-take';
import { milliseconds, seconds, ticks } from '../src/core/units';
import { STRAIGHT_CURVE } from '../src/core/velocity-curve';
import { writeFeelFile } from '../src/formats/feel-format';
import { writeGrooveFile } from '../src/formats/groove-format';
import { writeKitFile } from '../src/formats/kit-format';
import { writePartFile } from '../src/formats/part-file';
import { writeSoundKit } from '../src/formats/sound-kit';
import { writeOutputMapFile } from '../src/formats/output-map-format';
import { drum, wavFile } from '../tests/support/sound-files';
import { violationsInBothThemes } from './axe';
import { newPart, prepareParts } from './prepared';
import {
  benchReady,
  bringIn,
  clickStem,
  exportMidi,
  flatBeat,
  midiFile,
  noteEvents,
  openShelf,
  press,
  saved,
  stemOf,
  tempoEvent,
  trackChunk,
} from './support';

/** Work that lasts: the Shelf as a library, backup and restore, many files at once. */

/** What a click downloads. */
async function downloaded(page: Page, click: () => Promise<void>): Promise<{ name: string; bytes: Uint8Array }> {
  const waiting = page.waitForEvent('download');
  await click();
  const download = await waiting;
  return { name: download.suggestedFilename(), bytes: new Uint8Array(readFileSync(await download.path())) };
}

const cards = (page: Page) => page.getByRole('list', { name: 'Parts', exact: true }).getByRole('listitem');
const count = (page: Page) => page.getByTestId('shelf-count');

test('a thousand parts: searched, ordered, tagged, deleted and put back, and those in sight alone are drawn', async ({ page }) => {
  const kinds = [newPart({ tempo: 90 }), newPart({ tempo: 120, numerator: 6, denominator: 8 }), newPart({ tempo: 174 })];
  await prepareParts(
    page,
    Array.from({ length: 1000 }, (_, n) => [`Reel ${n + 1}`, kinds[n % 3]!]),
  );
  await page.goto('/');
  await expect(count(page)).toHaveText('1006 parts');
  expect(await cards(page).count()).toBeLessThan(60);
  await page.getByRole('button', { name: 'by name' }).click();
  await expect(cards(page).first()).toContainText('Fog Signal');
  await page.getByRole('group', { name: 'Meter' }).getByRole('button', { name: '6/8' }).click();
  // 333 of ours, and a demo part.
  await expect(count(page)).toHaveText('334 of 1006 parts');
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByRole('spinbutton', { name: 'Slowest in BPM' }).fill('170');
  await page.keyboard.press('Enter');
  await expect(count(page)).toHaveText('333 of 1006 parts');
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByRole('textbox', { name: 'Search the shelf' }).fill('reel 77');
  await expect(count(page)).toHaveText('19 of 1006 parts');
  // From the first to the third, with Shift.
  await page.getByRole('checkbox', { name: 'Choose Reel 77', exact: true }).check();
  await page.getByRole('checkbox', { name: 'Choose Reel 277', exact: true }).click({ modifiers: ['Shift'] });
  const bar = page.getByRole('toolbar', { name: 'Chosen parts' });
  await expect(bar).toContainText('3 parts chosen');
  await bar.getByRole('button', { name: 'Tag' }).click();
  await page.getByRole('textbox', { name: 'New tag' }).fill('verse');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('list', { name: 'Tags on the Shelf' }).getByRole('checkbox', { name: 'verse' })).toBeChecked();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Show all' }).click();
  await page.getByRole('group', { name: 'Tags' }).getByRole('button', { name: 'verse' }).click();
  await expect(count(page)).toHaveText('3 of 1006 parts');
  expect(await violationsInBothThemes(page)).toEqual([]);

  await bar.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('3 parts are deleted')).toBeVisible();
  await expect(page.getByText('No part matches.')).toBeVisible();
  await page.reload();
  await expect(count(page)).toHaveText('1003 parts');
  await page.getByRole('button', { name: 'Recently deleted (3)' }).click();
  const drawer = page.getByRole('dialog', { name: 'Recently deleted' });
  await drawer.getByRole('button', { name: 'Delete Reel 177 for good' }).click();
  await expect(drawer.getByRole('listitem')).toHaveCount(2);
  expect(await violationsInBothThemes(page, '[role=dialog]')).toEqual([]);
  await drawer.getByRole('button', { name: 'Restore all' }).click();
  await expect(drawer).toContainText('Nothing was deleted recently.');
  await page.keyboard.press('Escape');
  await expect(count(page)).toHaveText('1005 parts');
  await page.getByRole('group', { name: 'Tags' }).getByRole('button', { name: 'verse' }).click();
  await expect(cards(page)).toHaveCount(2);
});

test('a card: renamed in place, copied, and heard by one click', async ({ page }) => {
  // What the audio thread says of playing.
  await page.addInitScript(() => {
    window.AudioWorkletNode = class extends AudioWorkletNode {
      constructor(...given: ConstructorParameters<typeof AudioWorkletNode>) {
        super(...given);
        this.port.addEventListener(
          'message',
          (e: MessageEvent<{ type: string; state?: { playing: boolean } }>) =>
            e.data.type === 'state' && Object.assign(window, { sounds: e.data.state!.playing }),
        );
      }
    };
  });
  await openShelf(page);
  await page.getByRole('listitem').filter({ hasText: 'Low Tide' }).hover();
  await press(page, 'Rename Low Tide');
  await page.getByRole('textbox', { name: 'New name of Low Tide' }).fill('Ebb');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Ebb', exact: true })).toBeVisible();
  await page.getByRole('heading', { name: 'Ebb', exact: true }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Duplicate' }).click();
  await expect(page.getByRole('heading', { name: 'Ebb (copy)' })).toBeVisible();
  const sounds = (is: boolean) => page.waitForFunction((wanted) => (window as unknown as { sounds?: boolean }).sounds === wanted, is);
  await page.getByRole('listitem').filter({ hasText: 'Gangway Strut' }).hover();
  await press(page, 'Hear Gangway Strut');
  await sounds(true);
  await expect(page.getByRole('button', { name: 'Stop Gangway Strut' })).toBeVisible();
  // Another takes its place, and goes on until it is stopped.
  await page.getByRole('listitem').filter({ hasText: 'Galley Brushes' }).hover();
  await press(page, 'Hear Galley Brushes');
  await sounds(false);
  await sounds(true);
  await expect(page.getByRole('button', { name: 'Stop Galley Brushes' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Stop Gangway Strut' })).toHaveCount(0);
  await press(page, 'Stop Galley Brushes');
  await sounds(false);
  await expect(page.getByRole('button', { name: 'Hear Galley Brushes' })).toBeVisible();
  // A part over a recorded loop that was never opened: its recording is fetched, and plays.
  const fetched = page.waitForResponse((r) => r.url().endsWith('/breaks/harbour.wav'));
  await page.getByRole('listitem').filter({ hasText: 'Harbour Lights' }).hover();
  await press(page, 'Hear Harbour Lights');
  expect((await fetched).ok()).toBe(true);
  await sounds(true);
  await page.keyboard.press('Space');
  await sounds(false);
  // It is an edit: it can be undone on the Bench.
  await page.getByRole('heading', { name: 'Ebb', exact: true }).click();
  await benchReady(page);
  await page.getByRole('button', { name: /^Undo/i }).click();
  expect(await page.evaluate(() => window.nodSway!.bench().part.name)).toBe('Low Tide');
});

/** A recording, and a kit of it; a part with a take. */
const hit = wavFile(4000, drum(200));
const sample = createHash('sha256').update(hit).digest('hex');
const kit = writeSoundKit(
  { id: 'shed', name: 'Tin shed' },
  [{ id: 'tin', name: 'Tin', voice: 'snare', kit: 'shed', layers: [{ upTo: 127, takes: [{ sample, name: 'tin.wav', level: -20 }] }] }],
  new Map([[sample, hit]]),
);
const take: Take = {
  id: 'take-1',
  name: 'Take 1',
  recordedAt: 1_700_000_000_000,
  input: 'Pads',
  tempo: [{ tick: ticks(0), microsecondsPerQuarter: 500_000 }],
  meter: [{ tick: ticks(0), numerator: 4, denominator: 4 }],
  origin: ticks(0),
  start: ticks(0),
  end: ticks(80_640 * 4),
  latencyMs: milliseconds(0),
  curve: STRAIGHT_CURVE,
  guards: USUAL_GUARDS,
  passes: 1,
  complete: true,
};
const events = [{ at: seconds(0.5), kind: 'note' as const, key: 38, value: 90 }];
const played = writePartFile({
  part: { ...putTake(newPart({ tempo: 120, bars: 1 }), take, events), name: 'Played' },
  takes: [{ take, events }],
});

/**
 * Makes a part with feel, a version and an idea, and one with a take; a kit of recordings, a feel, a target, a groove and a key map of the
 * user's own.
 */
async function work(page: Page): Promise<void> {
  await openShelf(page);
  await page.getByTestId('file-input').setInputFiles({ name: 'Tin.nodkit.zip', mimeType: 'application/zip', buffer: Buffer.from(kit) });
  await press(page, 'Save the kit');
  await page
    .getByTestId('file-input')
    .setInputFiles({ name: 'played.nodsway.json', mimeType: 'application/json', buffer: Buffer.from(played) });
  await page.waitForURL(/\/bench\//);
  await benchReady(page);
  await openShelf(page);
  await bringIn(page, 'beat.mid', flatBeat(2).bytes);
  await page.waitForURL(/\/bench\//);
  await benchReady(page);
  await press(page, 'Add swing');
  await clickStem(page, await stemOf(page, 'snare', 0));
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Control+Shift+k');
  await page.keyboard.press('Shift+I');
  await press(page, 'Open the part');
  await saved(page);
  await page.goto('/library');
  const field = page.getByLabel('Files for the library');
  await field.setInputFiles({
    name: 'Tight.nodfeel.json',
    mimeType: 'application/json',
    buffer: Buffer.from(writeFeelFile(READY_FEELS[0]!.feel)),
  });
  await expect(page.getByRole('button', { name: 'Rename Tight' })).toBeVisible();
  await field.setInputFiles({
    name: 'Cellar.nodtarget.json',
    mimeType: 'application/json',
    buffer: Buffer.from(writeOutputMapFile({ ...READY_TARGETS[0]!, name: 'Cellar' })),
  });
  await expect(page.getByRole('button', { name: 'Rename Cellar' })).toBeVisible();
  await field.setInputFiles({
    name: 'Pads.nodkit.json',
    mimeType: 'application/json',
    buffer: Buffer.from(writeKitFile({ name: 'Pads', voices: { 36: 'kick' } })),
  });
  await expect(page.getByRole('button', { name: 'Rename Pads' })).toBeVisible();
  await field.setInputFiles({
    name: 'Mine.nodgroove.json',
    mimeType: 'application/json',
    buffer: Buffer.from(writeGrooveFile({ ...HOUSE_GROOVES[0]!, name: 'Mine' })),
  });
  await expect(page.getByText('Mine is a groove')).toBeVisible();
}

async function backUp(page: Page): Promise<Uint8Array> {
  const { name, bytes } = await downloaded(page, () => press(page, 'Back up everything'));
  expect(name).toMatch(/^nod-sway-\d{4}-\d\d-\d\d\.nodlibrary\.zip$/);
  await expect(page.getByTestId('backup-account')).toContainText('8 parts');
  await page.getByRole('dialog').getByRole('button', { name: 'Close', exact: true }).last().click();
  return bytes;
}

test('a backup, a fresh browser, restored: everything is the same byte by byte; over existing work nothing is overwritten unasked', async ({
  page,
  browser,
}) => {
  await work(page);
  await expect(page.getByTestId('room')).toContainText('there is room for about');
  const first = await backUp(page);
  await expect(page.getByText('The last one was made')).toBeVisible();

  const fresh = await (await browser.newContext()).newPage();
  await openShelf(fresh);
  const drop = (name: string, bytes: Uint8Array) =>
    fresh.getByTestId('file-input').setInputFiles({ name, mimeType: 'application/zip', buffer: Buffer.from(bytes) });
  await drop('library.zip', first);
  const preview = fresh.getByTestId('restore-preview');
  // The demo parts are there already, as they are here.
  await expect(preview).toContainText('New here: 2 parts, 1 groove, 1 feel, 1 drum map, 1 output map and 1 kit or sound');
  await expect(preview).toContainText('The same: 6 parts');
  expect(await violationsInBothThemes(fresh, '[role=dialog]')).toEqual([]);
  await fresh.getByRole('button', { name: /^Restore \d/i }).click();
  await expect(fresh.getByTestId('restore-account')).toContainText('were restored');
  await fresh.keyboard.press('Escape');
  await expect(fresh.getByRole('heading', { name: 'beat', exact: true })).toBeVisible();
  await fresh.goto('/library');
  const second = await backUp(fresh);
  const [a, b] = [unzipSync(first), unzipSync(second)];
  const names = (zip: Record<string, Uint8Array>) =>
    Object.keys(zip)
      .filter((n) => n !== 'library.json' && !n.startsWith('settings'))
      .sort();
  expect(names(b)).toEqual(names(a));
  for (const name of names(a)) expect([name, Buffer.compare(Buffer.from(a[name]!), Buffer.from(b[name]!))]).toEqual([name, 0]);
  expect(names(a)).toEqual(
    expect.arrayContaining([
      'kits/tin-shed.json',
      `audio/${sample}.wav`,
      'grooves/mine.nodgroove.json',
      'key-maps/pads.nodkit.json',
      'parts/played.nodsway.json',
    ]),
  );
  expect((JSON.parse(new TextDecoder().decode(a['parts/played.nodsway.json'])) as { takes: object[] }).takes).toHaveLength(1);
  const part = JSON.parse(new TextDecoder().decode(a['parts/beat.nodsway.json'])) as {
    versions: { name: string }[];
    ideas: object[];
    song?: string;
  };
  expect([part.versions.map((v) => v.name), part.ideas.length, typeof part.song]).toEqual([['Version 2', 'As imported'], 1, 'string']);

  // Here the part goes on; the backup has another state of it.
  await fresh.goto('/');
  await fresh.getByRole('heading', { name: 'beat', exact: true }).click();
  await benchReady(fresh);
  await press(fresh, 'Add humanize');
  await saved(fresh);
  await openShelf(fresh);
  await drop('library.zip', first);
  await expect(preview).toContainText('Different: 1 part');
  await expect(fresh.getByRole('region', { name: 'What is different' })).toContainText('beat');
  await fresh.getByRole('combobox', { name: 'beat: which' }).click();
  await fresh.getByRole('option', { name: 'take both' }).click();
  await press(fresh, 'Restore 1');
  await expect(fresh.getByTestId('restore-account')).toBeVisible();
  await fresh.keyboard.press('Escape');
  await expect(fresh.getByRole('heading', { name: 'beat (backup)' })).toBeVisible();
  await fresh.getByRole('heading', { name: 'beat', exact: true }).click();
  await benchReady(fresh);
  expect(await fresh.evaluate(() => window.nodSway!.bench().part.feel.moves.map((m) => m.kind))).toEqual(['swing', 'humanize']);

  // What is no library, or was damaged, is told so.
  await openShelf(fresh);
  await drop(
    'library.zip',
    zipSync({ 'library.json': new TextEncoder().encode('{"format":"nod-sway/library@9","madeAt":1,"entries":[]}') }),
  );
  await expect(fresh.getByText('This was made by a newer version of Nod Sway')).toBeVisible();
  await drop('library.zip', zipSync({ 'library.json': new TextEncoder().encode('{}'), '../../up.json': new Uint8Array(3) }));
  await expect(fresh.getByText('points outside it')).toBeVisible();
  await fresh.context().close();
});

test('some parts are exported with what they need', async ({ page }) => {
  await openShelf(page);
  const other = page.getByRole('checkbox', { name: 'Choose Fog Signal' });
  const place = await other.boundingBox();
  await page.getByRole('checkbox', { name: 'Choose Low Tide' }).check();
  await expect(page.getByRole('toolbar', { name: 'Chosen parts' })).toBeVisible();
  // No card moves when the first is chosen.
  expect(await other.boundingBox()).toEqual(place);
  await other.check();
  const { name, bytes } = await downloaded(page, () =>
    page.getByRole('toolbar', { name: 'Chosen parts' }).getByRole('button', { name: 'Export' }).click(),
  );
  expect(name).toBe('2-parts.nodlibrary.zip');
  expect(Object.keys(unzipSync(bytes)).sort()).toEqual(['library.json', 'parts/fog-signal.nodsway.json', 'parts/low-tide.nodsway.json']);
});

/** Files that differ: eighths of the hat over kicks, each with levels and a tempo of its own. */
const files = Array.from({ length: 30 }, (_, n) => ({
  name: `take-${n + 1}.mid`,
  mimeType: 'audio/midi',
  buffer: Buffer.from(
    midiFile(0, 480, [
      trackChunk([
        tempoEvent(0, 400_000 + n * 5000),
        ...noteEvents(
          Array.from({ length: 32 + n }, (_, s) => [s * 240, s % 4 === 0 ? 36 : 42, 60 + ((s * 7 + n) % 50)] as [number, number, number]),
          60,
        ),
      ]),
    ]),
  ),
}));

test('thirty files and one feel: what it does to each, the same bytes as one by one, and a cancel keeps what is done', async ({ page }) => {
  await openShelf(page);
  await page
    .getByTestId('file-input')
    .setInputFiles([...files, { name: 'letter.mid', mimeType: 'audio/midi', buffer: Buffer.from('Dear all') }]);
  const dialog = page.getByRole('dialog', { name: '31 MIDI files' });
  await dialog.getByRole('combobox', { name: 'Which' }).click();
  await page.getByRole('option', { name: 'Late Ferry' }).click();
  await press(page, 'Preview');
  const lines = dialog.getByRole('list', { name: 'Files' }).getByRole('listitem');
  await expect(lines.last()).toContainText('This is not a standard MIDI file.');
  await expect(lines.first()).toContainText(/32 hits: \d+ moved, [\d.]+ ms on average/i);
  expect(await violationsInBothThemes(page, '[role=dialog]')).toEqual([]);
  const { name, bytes } = await downloaded(page, () => press(page, 'Save 30 as a zip'));
  expect(name).toBe('performed.zip');
  const zip = unzipSync(bytes);
  expect(Object.keys(zip)).toHaveLength(30);
  const feel = writeFeelFile(READY_FEELS.find((f) => f.name === 'Late Ferry')!.feel);
  await page.keyboard.press('Escape');

  // One of them by hand.
  await bringIn(page, files[11]!.name, files[11]!.buffer);
  await page.waitForURL(/\/bench\//);
  await benchReady(page);
  await page.evaluate(() => window.nodSway!.bench().setUi({ dialog: 'feels' }));
  await page.getByRole('button', { name: 'Use Late Ferry' }).click();
  expect(Buffer.compare(Buffer.from(await exportMidi(page)), Buffer.from(zip['take-12.mid']!))).toBe(0);
  // All of them by the API: the notes are the same to the tick.
  for (const { name: file, buffer } of files) {
    const answer = await page.request.post('/api/perform', { multipart: { midi: { name: file, mimeType: 'audio/midi', buffer }, feel } });
    expect([file, contentAfterName(new Uint8Array(await answer.body()), 'part')]).toEqual([
      file,
      contentAfterName(zip[file]!, file.replace(/\.mid$/, '').replace('-', ' ')),
    ]);
  }

  // Cancelled: what is done can be had.
  await openShelf(page);
  await page.getByTestId('file-input').setInputFiles(files);
  await page.evaluate(() => {
    // The twelfth file takes for ever.
    const { postMessage } = Worker.prototype;
    let sent = 0;
    Worker.prototype.postMessage = function (this: Worker, ...args: Parameters<typeof postMessage>) {
      if (++sent !== 12) postMessage.apply(this, args);
    } as typeof postMessage;
  });
  await press(page, 'Preview');
  await expect(page.getByText('11 of 30')).toBeVisible();
  // Closing asks first, because it would stop the batch.
  await page.keyboard.press('Escape');
  const asked = page.getByRole('alertdialog', { name: 'Still running' });
  await expect(asked).toContainText('Finished 11 of 30 files. If you stop now, the finished files are discarded.');
  await asked.getByRole('button', { name: 'Keep going' }).click();
  await expect(asked).toBeHidden();
  await page.getByRole('dialog').getByRole('button', { name: 'Cancel' }).click();
  const some = unzipSync((await downloaded(page, () => press(page, 'Save 11 as a zip'))).bytes);
  expect(Object.keys(some)).toHaveLength(11);
});

/** A file's bytes without the name of its track, whose length differs. */
function contentAfterName(bytes: Uint8Array, name: string): string {
  const at = Buffer.from(bytes).indexOf(name);
  return Buffer.from(bytes.slice(at + name.length)).toString('hex');
}

test('an old backup is asked for, and put off', async ({ page }) => {
  await prepareParts(page, [['Reel', newPart()]]);
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Reel' })).toBeVisible();
  await expect(page.getByTestId('backup-reminder')).toHaveCount(0);
  await page.clock.setSystemTime(Date.now() + 40 * 86_400_000);
  await page.reload();
  const reminder = page.getByTestId('backup-reminder');
  await expect(reminder).toContainText('40 days');
  await reminder.getByRole('button', { name: 'Later' }).click();
  await expect(reminder).toBeHidden();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Reel' })).toBeVisible();
  await expect(reminder).toHaveCount(0);
});
