import { readFileSync } from 'node:fs';
import { expect, test, type APIRequestContext, type Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { readWav } from '../src/core/audio/read-wav';
import type { Groove } from '../src/core/model/groove';
import { findOnsets } from '../src/core/onsets/onsets';
import { wavFile } from '../tests/support/sound-files';
import { violationsInBothThemes } from './axe';
import { benchReady, chooseExport, exportMidi, exportSound, notesOf, openDemo, openShelf, press, saved } from './support';

/** Recorded loops: dropped, heard, counted, cut, swung, played in another order, layered, taken out; checked by what is rendered. */

const HARBOUR = readFileSync('public/breaks/harbour.wav');
const RATE = 44_100;
const part = (page: Page) => page.evaluate(() => window.nodSway!.bench().part);
const shownBreak = async (page: Page) => (await part(page)).breaks![0]!;
const steps = (page: Page) => page.evaluate(() => window.nodSway!.bench().history.undo.map((e) => e.label));
const undoSteps = (page: Page) => page.evaluate(() => window.nodSway!.bench().history.undo.length);
const breaksPage = (page: Page) => page.getByRole('tab', { name: /^Breaks/i }).click();
const found = (page: Page) => page.getByTestId('strokes-found');
const pick = async (page: Page, label: string, option: string | RegExp) => {
  await page.getByRole('combobox', { name: label, exact: true }).click();
  await page.getByRole('option', { name: option }).click();
};

async function dropOnShelf(page: Page, name: string, bytes: Uint8Array): Promise<void> {
  await openShelf(page);
  await page.getByTestId('file-input').setInputFiles({ name, mimeType: 'audio/wav', buffer: Buffer.from(bytes) });
}

async function openSound(page: Page, name: string, bytes: Uint8Array, strokes: string): Promise<void> {
  await dropOnShelf(page, name, bytes);
  await page.waitForURL(/\/bench\//);
  await benchReady(page);
  await expect(found(page)).toHaveText(strokes);
}

/** A bar at 100 BPM, a click on each sixteenth. */
const clicks = (): Uint8Array =>
  wavFile(Math.round(2.4 * RATE), (i) => {
    const since = i - Math.round(Math.floor(i / (0.15 * RATE) + 1e-9) * 0.15 * RATE);
    return since < 900 ? 0.5 * Math.exp(-since / 150) * Math.sin(since * 0.7 + 1) : 0;
  });

const onsetsOf = (bytes: Uint8Array): number[] => {
  const { rate, channels } = readWav(bytes);
  return findOnsets(channels[0]!, rate).map((o) => o.seconds);
};

async function exportZip(page: Page, what: string): Promise<Record<string, Uint8Array>> {
  await press(page, 'Export');
  await chooseExport(page, what);
  const waiting = page.waitForEvent('download');
  await page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true }).click();
  const bytes = new Uint8Array(readFileSync(await (await waiting).path()));
  await expect(page.getByTestId('export-account')).toBeVisible();
  await page.keyboard.press('Escape');
  return unzipSync(bytes);
}

test('a dropped loop plays by itself, is listened to, corrected by hand and counted; all of it is undone, and there after a reload', async ({
  page,
}) => {
  await openSound(page, 'old_harbour-2.wav', HARBOUR, '22 of 22 hits found');
  await page.waitForFunction(() => window.nodSway!.engine.log.length > 0);
  await press(page, 'Stop');
  await expect(page).toHaveTitle('old harbour 2 · Nod Sway');
  await expect(page.getByLabel('The break old harbour 2').getByText('2 bars at 92.0 BPM')).toBeVisible();
  expect((await part(page)).rows.map((r) => r.name)).toEqual(['Hat slices', 'Snare slices', 'Kick slices']);

  // The water rises until something drowns, and falls again.
  const water = page.getByRole('slider', { name: 'Sensitivity', exact: true });
  await water.focus();
  for (let i = 0; i < 22; i++) await page.keyboard.press('ArrowUp');
  await expect(found(page)).not.toHaveText(/^22 of/i);
  const fewer = (await part(page)).hits.length;
  expect(fewer).toBeLessThan(22);

  // A stroke of the hand's own stays whatever the water does; one is moved, and keeps its name.
  const picture = page.getByTestId('break-picture');
  await picture.hover();
  const box = (await picture.boundingBox())!;
  await page.keyboard.down('Shift');
  await picture.dblclick({ position: { x: box.width * 0.86, y: 60 } });
  await page.keyboard.up('Shift');
  await expect.poll(async () => (await part(page)).hits.length).toBe(fewer + 1);
  const head = page
    .getByRole('group', { name: /^Hits of/i })
    .getByRole('button')
    .nth(3);
  const before = await head.getAttribute('data-stroke');
  await head.hover();
  const spot = (await head.boundingBox())!;
  await page.mouse.move(spot.x + 7, spot.y + 7);
  await page.mouse.down();
  await page.keyboard.down('Shift');
  await page.mouse.move(spot.x + 27, spot.y + 7, { steps: 5 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  const moved = (await shownBreak(page)).hand.find((m) => `n${m.n}` === before);
  expect(moved?.at).toBeGreaterThan(0);
  expect((await part(page)).hits.length).toBe(fewer + 1);

  // Counted as one bar, then by the first reading again; a bar line is put elsewhere by keys.
  await breaksPage(page);
  await press(page, '1 × 4/4 at 46.0');
  expect((await part(page)).bars).toBe(1);
  await press(page, '2 × 4/4 at 92.0');
  await page.getByRole('button', { name: /^Bar line 2 at/i }).focus();
  await page.keyboard.press('ArrowRight');
  expect((await shownBreak(page)).lines[1]).toBeCloseTo(2.609 + 0.01, 3);
  await saved(page);
  const kept = await part(page);

  await page.reload();
  await benchReady(page);
  expect(await part(page)).toEqual(kept);
  await expect(page.getByTestId('break-strip')).toBeVisible();
  while ((await steps(page)).length > 0) await page.keyboard.press('Control+z');
  const first = await part(page);
  expect(first.hits).toHaveLength(1);
  expect(first.heard).toBeUndefined();
  expect(await violationsInBothThemes(page)).toEqual([]);
});

test('swung by 60 % its pieces sound where swing says, to the millisecond; played in another order from pads they are recorded', async ({
  page,
}) => {
  await openSound(page, 'clicks.wav', clicks(), '16 of 16 hits found');
  await page.getByRole('tab', { name: /^Feel/i }).click();
  await press(page, 'Add swing');
  await pick(page, 'Division', '1/16');
  const field = page.getByRole('spinbutton', { name: 'Swing in %' });
  await field.fill('60');
  await field.press('Enter');
  const bpm = 100;
  const found = onsetsOf(await exportSound(page));
  const wanted = Array.from({ length: 16 }, (_, s) => (60 / bpm / 2) * (Math.floor(s / 2) + (s % 2 === 0 ? 0 : 0.6)));
  expect(found).toHaveLength(16);
  found.forEach((at, i) => expect(Math.abs(at - wanted[i]!)).toBeLessThan(0.001));

  // Pads strike pieces: the fifth, then the second, one after another.
  await breaksPage(page);
  await pick(page, 'What pads play', 'slices of clicks');
  await expect(page.getByRole('region', { name: 'Pads' })).toBeVisible();
  await page.evaluate(() => {
    const { getState } = { getState: window.nodSway!.bench };
    getState().run('Empty it', (p) => ({ ...p, hits: [], feel: { ...p.feel, moves: [] } }));
  });
  await page.keyboard.press('p');
  await page.keyboard.press('t');
  await page.getByRole('button', { name: 'Step entry' }).click();
  await page
    .getByRole('checkbox', { name: /step/i })
    .or(page.getByRole('switch', { name: /step/i }))
    .first()
    .click();
  await page.getByRole('region', { name: 'Pads' }).getByRole('button', { name: /^5 /i }).click();
  await expect.poll(async () => (await part(page)).hits.length).toBe(1);
  await page.waitForFunction((then) => performance.now() - then > 60, await page.evaluate(() => performance.now()));
  await page.getByRole('region', { name: 'Pads' }).getByRole('button', { name: /^2 /i }).click();
  await expect.poll(async () => (await part(page)).hits.map((h) => h.piece)).toEqual([4, 1]);
});

test('layered under the flat demo: brought in, its groove, which the API gives too, on the hats, exported as files, as pieces with MIDI, left out of MIDI; undone to the start', async ({
  page,
  request,
}) => {
  await openDemo(page, 'Gangway Strut');
  const before = await part(page);
  const file = await exportMidi(page);
  await breaksPage(page);
  await pick(page, 'Built-in break', 'Harbour break');
  await expect(found(page)).toHaveText('22 of 22 hits found');
  const layered = await part(page);
  // Eight bars: four rounds of two, at this part's tempo.
  expect(layered.hits.length).toBe(before.hits.length + 88);
  expect(layered.tempo).toEqual(before.tempo);
  expect(await exportMidi(page)).toEqual(file);

  // Also where its recording is not in sight, and so not taken up.
  await press(page, 'Hide its picture');
  await press(page, 'Extract groove …');
  const learnt = await page.getByTestId('verdict').textContent();
  await press(page, 'Cancel');
  await press(page, 'Show its picture');
  await expect(found(page)).toBeVisible();
  await press(page, 'Extract groove …');
  await expect(page.getByTestId('verdict')).toHaveText(learnt!);
  await page.getByRole('dialog').getByRole('button', { name: /^Save/i }).click();
  await expect(page.getByText('is among your grooves')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.evaluate(() => window.nodSway!.bench().select([]));
  // On the hats alone: they lean as the recording did.
  await page.getByRole('tab', { name: /^Feel/i }).click();
  await press(page, 'Add groove');
  await page.getByRole('button', { name: /^Groove: /i }).click();
  await page.getByRole('region', { name: 'Yours' }).getByRole('button').first().click();
  await page.keyboard.press('Escape');
  await press(page, 'Stop');
  await page.getByRole('button', { name: /^Scope: /i }).click();
  await press(page, 'None');
  await page.getByRole('checkbox', { name: 'Closed hat', exact: true }).check();
  await page.keyboard.press('Escape');
  const [plain, grooved] = [notesOf(file), notesOf(await exportMidi(page))];
  const of = (notes: typeof plain, key: number) => notes.filter(([, k]) => k === key).map(([tick]) => tick);
  expect(of(grooved, 42)).not.toEqual(of(plain, 42));
  expect(of(grooved, 36)).toEqual(of(plain, 36));
  // Learnt from all that is struck in the recording, not from its rows, which have one hit for what falls together.
  const answered = await grooveOfHarbour(request);
  expect(answered.steps.reduce((n, s) => n + s.n, 0)).toBeGreaterThan(22);
  const used = (await part(page)).feel.moves.flatMap((m) => (m.kind === 'groove' ? [m.groove] : []));
  expect(used).toHaveLength(1);
  expectSameSteps(used[0]!, answered);

  const zip = await exportZip(page, 'the slices of its breaks');
  const names = Object.keys(zip).sort();
  expect(names.filter((n) => n.endsWith('.wav'))).toHaveLength(22);
  expect(names).toContain('harbour-break/01-kick.wav');
  const notes = notesOf(zip['harbour-break/harbour-break.mid']!);
  expect(notes).toHaveLength(88);
  expect(new Set(notes.map(([, key]) => key))).toEqual(new Set(Array.from({ length: 22 }, (_, i) => 36 + i)));
  const piece = readWav(zip['harbour-break/01-kick.wav']!);
  const source = readWav(new Uint8Array(HARBOUR));
  const from = Math.round(layered.breaks![0]!.pieces[0]!.from * RATE);
  let apart = 0;
  for (let i = 50; i < 4000; i++) apart = Math.max(apart, Math.abs(piece.channels[0]![i]! - source.channels[0]![from + i]!));
  expect(apart).toBeLessThan(0.0002);

  const files = unzipSync(await exportSound(page, (p) => pick(p, 'What of the sound', 'the breaks and the rest, a file each')));
  const [ofBreaks, rest, ...more] = Object.keys(files).sort();
  expect([/^Gangway Strut 96bpm \d+bars Wheelhouse breaks\.wav$/.test(ofBreaks!), rest!.endsWith(' rest.wav'), more]).toEqual([
    true,
    true,
    [],
  ]);
  expect(onsetsOf(files[ofBreaks!]!).length).toBeGreaterThan(80);
  expect(await violationsInBothThemes(page, '#page')).toEqual([]);

  while ((await steps(page)).length > 0) await page.keyboard.press('Control+z');
  expect(await part(page)).toEqual(before);
});

test('what is no loop is answered: not audio, silence, noise, one stroke, six channels, 8 bits, 192 kHz, cut off', async ({ page }) => {
  const refused = async (name: string, bytes: Uint8Array, words: string) => {
    await dropOnShelf(page, name, bytes);
    await expect(page.getByText(words)).toBeVisible();
  };
  await refused('words.wav', new TextEncoder().encode('no sound at all'), 'This is not a sound that can be read.');
  await refused(
    'still.wav',
    wavFile(RATE, () => 0),
    'This file is silent.',
  );
  const opened = async (name: string, bytes: Uint8Array, words: string | RegExp) => {
    await dropOnShelf(page, name, bytes);
    await page.waitForURL(/\/bench\//);
    await expect(page.getByText(words).first()).toBeVisible();
  };
  const stroke = (i: number): number => (i > 2000 ? 0.6 * Math.exp((2000 - i) / 2000) * Math.sin(i * 0.05) : 0);
  await opened('one.wav', wavFile(RATE, stroke), 'One hit was heard, too few to tell a tempo');
  let noise = 1;
  await opened(
    'noise.wav',
    wavFile(20 * RATE, () => (noise = (noise * 16_807) % 2_147_483_647) / 2_147_483_647 - 0.5),
    'No hit stands out in this recording',
  );
  await opened('six.wav', wavFile(RATE, stroke, { channels: 6 }), 'It has 6 channels: the first two are used.');
  await opened('cut.wav', wavFile(RATE, stroke, { cut: 4000 }), 'The file ends early; what could be read is used.');
  await opened('eight.wav', wavFile(RATE, stroke, { bits: 8 }), /hits? found/);
  await opened(
    'fast.wav',
    wavFile(96_000, (i) => stroke(i / 4), { rate: 192_000, bits: '32f' }),
    /hits? found/,
  );
});

test('a loop dropped among the grooves is listened to and learnt from: the groove that the API gives', async ({ page, request }) => {
  await page.goto('/grooves');
  await page.getByRole('button', { name: 'Extract' }).first().click();
  await page.getByTestId('learn-file').setInputFiles({ name: 'harbour.wav', mimeType: 'audio/wav', buffer: HARBOUR });
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('button', { name: /^Save/i })).toBeVisible();
  await dialog.getByRole('button', { name: /^Save/i }).click();
  await expect(page.getByRole('heading', { name: /harbour/i }).first()).toBeVisible();
  const kept = await page.evaluate(() => (window.nodSwayGrooves!.state().own ?? []).map((k) => k.groove));
  const answered = await grooveOfHarbour(request);
  expect(kept).toHaveLength(1);
  expectSameSteps(kept[0]!, answered);
});

const grooveOfHarbour = async (request: APIRequestContext): Promise<Groove> =>
  (await (
    await request.post('/api/groove', { multipart: { audio: { name: 'harbour.wav', mimeType: 'audio/wav', buffer: HARBOUR } } })
  ).json()) as Groove;

/** The dialog offers to learn around lines that fit the loop: all steps are off by the same then. */
function expectSameSteps({ steps }: Groove, other: Groove) {
  const off = steps[0]!.offset - other.steps[0]!.offset;
  expect(steps.map((s) => s.n)).toEqual(other.steps.map((s) => s.n));
  steps.forEach(({ level, offset }, i) => {
    expect(level).toBeCloseTo(other.steps[i]!.level, 3);
    expect(offset - off).toBeCloseTo(other.steps[i]!.offset, 3);
  });
}

test('a loop dropped on the stems comes in under the part; one stroke becomes the row’s sound', async ({ page }) => {
  await openDemo(page, 'Net Menders');
  const drop = async (name: string, bytes: Uint8Array) => {
    const transfer = await page.evaluateHandle(
      ({ file, list }) => {
        const data = new DataTransfer();
        data.items.add(new File([Uint8Array.from(list)], file));
        return data;
      },
      { file: name, list: [...bytes] },
    );
    const box = (await page.getByTestId('stems').boundingBox())!;
    const at = { dataTransfer: transfer, clientX: box.x + 200, clientY: box.y + box.height * 0.6 };
    await page.getByTestId('stems').dispatchEvent('dragover', at);
    await page.getByTestId('stems').dispatchEvent('drop', at);
  };
  await drop('loop.wav', clicks());
  await expect(page.getByText('loop is under the part')).toBeVisible();
  await expect(page.getByTestId('break-strip')).toBeVisible();
  await drop(
    'tin.wav',
    wavFile(RATE, (i) => 0.6 * Math.exp(-i / 3000) * Math.sin(i * 0.09)),
  );
  await expect.poll(async () => (await part(page)).rows.some((r) => r.plays && 'own' in r.plays)).toBe(true);
});

/** Two bars at 120 BPM: a low thump on 1 and 3, a burst of noise on 2 and 4, the same each time. */
function thumpsAndBursts(): Uint8Array {
  let seed = 7;
  const noise = Float32Array.from({ length: Math.round(0.12 * RATE) }, () => {
    seed = (Math.imul(seed, 1_103_515_245) + 12_345) >>> 0;
    return seed / 2 ** 31 - 1;
  });
  return wavFile(4 * RATE, (i) => {
    const [beat, since] = [Math.floor(i / (0.5 * RATE)), i % (0.5 * RATE)];
    return beat % 2 === 0
      ? 0.7 * Math.exp(-since / (0.05 * RATE)) * Math.sin((2 * Math.PI * 60 * since) / RATE)
      : 0.4 * Math.exp(-since / (0.02 * RATE)) * (noise[since] ?? 0);
  });
}

test('hits that sound alike are heard, named together and followed; uncertain ones are stepped through; all is undone', async ({
  page,
}) => {
  await openSound(page, 'thumps.wav', thumpsAndBursts(), '8 of 8 hits found');
  await breaksPage(page);
  await page.getByRole('button', { name: 'Hits that sound alike' }).click();
  const names = async () => {
    const { breaks, hits } = await part(page);
    return hits.map((h) => breaks![0]!.pieces[h.piece!]!).map((p) => [p.kind, ...(p.also ? [p.also] : [])].join('+'));
  };
  const first = await names();
  const other = first[1] === 'hat' ? 'snare' : 'hat';

  // One burst is named in the picture; the other three follow it, the thumps do not.
  const heads = page.getByRole('group', { name: /^Hits of/i }).getByRole('button');
  await heads.nth(1).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: `Mark as ${other}`, exact: true }).click();
  await expect(page.getByText(`1 hit named ${other}; 3 more that sound alike followed`)).toBeVisible();
  expect(await names()).toEqual([first[0], other, first[2], other, first[4], other, first[6], other]);

  // The group of the thumps is heard, marked in the picture, and named as one step.
  const before = await undoSteps(page);
  const group = page.getByRole('combobox', { name: 'Name of 4 hits like the one at 0.00 s' });
  await page.getByRole('button', { name: /^Hear the .* at 0\.00 s$/ }).click();
  await page.waitForFunction(() => window.nodSway!.engine.log.length > 0);
  await page.getByRole('listitem').filter({ has: group }).getByRole('button', { name: '4 hits' }).click();
  await expect(heads.nth(2)).toHaveAccessibleName(/, marked$/);
  await expect(heads.nth(1)).not.toHaveAccessibleName(/, marked$/);
  await group.click();
  await page.getByRole('option', { name: 'snare and kick', exact: true }).click();
  expect(await names()).toEqual(['snare+kick', other, 'snare+kick', other, 'snare+kick', other, 'snare+kick', other]);
  expect(await undoSteps(page)).toBe(before + 1);

  // Exported as MIDI, each is written with the keys of what it is called.
  const key = { hat: 42, snare: 38 }[other];
  expect(notesOf(await exportMidi(page)).map(([, k]) => k)).toEqual([36, 38, key, 36, 38, key, 36, 38, key, 36, 38, key]);

  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect(await names()).toEqual(first);
});
