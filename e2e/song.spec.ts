import { expect, test, type Page } from '@playwright/test';
import { parseMidi } from 'midi-file';
import {
  chooseExport,
  exportMidi,
  flatBeat,
  meterEvent,
  midiFile,
  noteEvents,
  notesOf,
  openMidi,
  press,
  tempoEvent,
  trackChunk,
  type Note,
} from './support';
import { readFileSync } from 'node:fs';

/** Sections, switched live and in a running order, checked by the audio thread's log and the exported bytes. */

const KEYS = [36, 38, 42, 37] as const;

/** Four bars at 240 BPM, a second each: quarters of another drum in each. */
const fourBars = (): Uint8Array => {
  const notes: Note[] = KEYS.flatMap((key, bar) => Array.from({ length: 4 }, (_, i): Note => [bar * 1920 + i * 480, key, 100]));
  return midiFile(0, 480, [trackChunk([tempoEvent(0, 250_000), meterEvent(0, 4, 2), ...noteEvents(notes, 60)])]);
};

/** Tick and text of each marker. */
function markersOf(bytes: Uint8Array): [number, string][] {
  let now = 0;
  return parseMidi(bytes).tracks[0]!.flatMap((e): [number, string][] => {
    now += e.deltaTime;
    return e.type === 'marker' ? [[now, e.text]] : [];
  });
}

const orderPage = (page: Page) => page.getByRole('tab', { name: /^Order/i }).click();

async function makeSections(page: Page): Promise<void> {
  await orderPage(page);
  for (let bar = 0; bar < 4; bar++) {
    await page.evaluate((b) => window.nodSway!.bench().setTransport({ loop: true, fromBar: b, toBar: b + 1 }), bar);
    await page.getByRole('button', { name: /^make a section of bar/i }).click();
  }
}

/** Keys of what was struck, quarter by quarter since playing began; empty where none was, several where more. */
const quartersOf = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const { engine, hitOfSlot } = window.nodSway!;
    const quarter = 44_100 / 4;
    const first = engine.log[0]!.frame;
    // On a busy machine the clock may jump before the first stroke, which is late then: the others tell the time.
    const phase = engine.log.at(-1)!.frame % quarter;
    const start = Math.round((first - phase) / quarter) * quarter + phase;
    const list: string[] = [];
    for (const { frame, slot } of engine.log) {
      const k = Math.round((frame - start) / quarter);
      const key = hitOfSlot(slot)!.split('@')[0]!;
      const late = frame - start - k * quarter;
      list[k] = `${list[k] ?? ''}${key}${Math.abs(late) <= 1 || (frame === first && late > 0) ? '' : '?'}`;
    }
    return Array.from(list, (q) => q ?? '');
  });

test('sections are called by keys while the beat plays: each comes on the bar line, none is lost or doubled; kept as running order, exported with markers, undone', async ({
  page,
}) => {
  await openMidi(page, 'four.mid', fourBars());
  const first = await exportMidi(page);
  const before = await page.evaluate(() => JSON.stringify(window.nodSway!.bench().part));
  await makeSections(page);
  await expect(page.getByRole('list', { name: 'Sections' }).getByRole('listitem')).toHaveCount(4);
  await page.evaluate(() => window.nodSway!.bench().setTransport({ loop: true, fromBar: 0, toBar: 1 }));
  await press(page, 'Play');
  const sounds = (n: number) =>
    expect(
      page
        .getByRole('list', { name: 'Sections' })
        .getByRole('listitem')
        .nth(n - 1),
    ).toContainText(', sounds');
  await sounds(1);
  await page.waitForFunction(() => window.nodSway!.engine.log.length > 0);
  for (const n of [2, 4, 3, 1]) {
    await page.keyboard.press(`Shift+Digit${n}`);
    await sounds(n);
  }
  await press(page, 'Stop');
  const quarters = await quartersOf(page);
  // Every quarter has one stroke, at its frame; each bar is of one drum; the bars come as they were called.
  expect(quarters.every((q) => /^\d+$/.test(q))).toBe(true);
  const bars = Array.from({ length: Math.floor(quarters.length / 4) }, (_, b) => quarters.slice(4 * b, 4 * b + 4));
  expect(bars.every((bar) => new Set(bar).size === 1)).toBe(true);
  expect(quarters.filter((q, i) => q !== quarters[i - 1])).toEqual(['36', '38', '37', '42', '36']);

  await page.getByRole('button', { name: 'Use as running order' }).click();
  const order = await page.evaluate(() => window.nodSway!.bench().part.order!.map((e) => [e.section, e.times ?? 1] as const));
  const ids = await page.evaluate(() => window.nodSway!.bench().part.sections!.map((s) => s.id));
  expect(order.map(([id]) => ids.indexOf(id))).toEqual([0, 1, 3, 2, 0]);
  const ordered = await exportMidi(page);
  const played = order.flatMap(([id, times]) => Array.from({ length: times }, () => KEYS[ids.indexOf(id)]!));
  expect(notesOf(ordered).map(([tick, key]) => [tick, key])).toEqual(
    played.flatMap((key, bar) => [0, 1, 2, 3].map((i) => [bar * 3840 + i * 960, key])),
  );
  const names = await page.evaluate(() => window.nodSway!.bench().part.sections!.map((s) => s.name));
  expect(markersOf(ordered)).toEqual(played.map((key, bar) => [bar * 3840, names[KEYS.indexOf(key)]]));
  // What was heard is what is written, bar by bar.
  expect(bars.slice(0, 2).map((b) => Number(b[0]))).toEqual(played.slice(0, 2));

  for (let i = 0; i < 5; i++) await page.keyboard.press('Control+z');
  expect(await page.evaluate(() => JSON.stringify(window.nodSway!.bench().part))).toBe(before);
  expect(await exportMidi(page)).toEqual(first);
});

test('verse, chorus and fill out of one two-bar beat: copied, changed, filled, put in order, exported with markers, all undone', async ({
  page,
}) => {
  await openMidi(page, 'beat.mid', flatBeat(2, 100).bytes);
  const first = await exportMidi(page);
  const before = await page.evaluate(() => JSON.stringify(window.nodSway!.bench().part));
  await orderPage(page);
  await page.evaluate(() => window.nodSway!.bench().setTransport({ loop: true, fromBar: 0, toBar: 2 }));
  await page.getByRole('button', { name: /^make a section of bars 1 to 2/i }).click();
  const sections = page.getByRole('list', { name: 'Sections' }).getByRole('listitem');
  for (const name of ['Chorus', 'Fill']) {
    await page.getByRole('button', { name: 'What to do with Intro', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Copy it after the last bar' }).click();
    await sections.last().getByRole('textbox').fill(name);
    await page.keyboard.press('Enter');
  }
  // The chorus is louder; the last bar ends with a fill.
  await page.evaluate(() => window.nodSway!.bench().setTransport({ fromBar: 2, toBar: 4 }));
  await page.getByRole('tab', { name: /^Bars/i }).click();
  await page.getByRole('button', { name: 'Select', exact: true }).click();
  await page.keyboard.press('Shift+u');
  await page.evaluate(() => window.nodSway!.bench().setTransport({ fromBar: 4, toBar: 6 }));
  await page.getByRole('button', { name: /^Fills/i }).click();
  await page.getByRole('button', { name: 'Hear fill 1' }).click();
  await page.getByRole('toolbar').getByRole('button', { name: 'Apply' }).click();
  await orderPage(page);
  for (const name of ['Intro', 'Intro', 'Chorus', 'Fill']) {
    await page.getByRole('combobox', { name: 'Add a line' }).click();
    await page.getByRole('option', { name, exact: true }).click();
  }
  const ordered = await exportMidi(page);
  const notes = notesOf(ordered);
  const verse = notesOf(first);
  const bars = (from: number, to: number) =>
    notes.filter(([tick]) => tick >= from * 3840 && tick < to * 3840).map(([tick, key, velocity]) => [tick - from * 3840, key, velocity]);
  expect(bars(0, 2)).toEqual(verse.map(([tick, key, velocity]) => [tick, key, velocity]));
  expect(bars(2, 4)).toEqual(bars(0, 2));
  expect(bars(4, 6)).toEqual(verse.map(([tick, key, velocity]) => [tick, key, velocity + 10]));
  expect(bars(6, 7)).toEqual(bars(0, 1));
  expect(bars(7, 8)).not.toEqual(bars(1, 2));
  expect(markersOf(ordered)).toEqual([
    [0, 'Intro'],
    [2 * 3840, 'Intro'],
    [4 * 3840, 'Chorus'],
    [6 * 3840, 'Fill'],
  ]);
  for (let i = 0; i < 11; i++) await page.keyboard.press('Control+z');
  expect(await page.evaluate(() => JSON.stringify(window.nodSway!.bench().part))).toBe(before);
  expect(await exportMidi(page)).toEqual(first);
});

test('the running order is heard with its rests; a line is changed and moved by keys; a section alone as a file', async ({ page }) => {
  await openMidi(page, 'four.mid', fourBars());
  await makeSections(page);
  const add = async (name: string) => {
    await page.getByRole('combobox', { name: 'Add a line' }).click();
    await page.getByRole('option', { name, exact: true }).click();
  };
  for (const name of ['Intro', 'Verse', 'Chorus']) await add(name);
  await page.getByRole('button', { name: 'Line 1: Intro, once' }).click();
  await page.getByRole('spinbutton', { name: 'Times of line 1' }).fill('2');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Line 3: Chorus, once' }).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect(page.getByRole('button', { name: 'Line 2: Chorus, once' })).toBeVisible();
  await page.getByRole('button', { name: 'Line 2: Chorus, once' }).click();
  await page.getByRole('group', { name: 'Rows of line 2' }).getByRole('button', { name: 'Closed hat' }).click();
  await expect(page.getByRole('button', { name: 'Line 2: Chorus, once, without closed hat' })).toBeVisible();
  await page.getByRole('button', { name: 'Play the order' }).click();
  // It ends by itself.
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
  const k = (key: number): string[] => [0, 1, 2, 3].map(() => String(key));
  expect(await quartersOf(page)).toEqual([...k(36), ...k(36), '', '', '', '', ...k(38)]);

  await page.getByRole('button', { name: 'Export', exact: true }).click();
  await chooseExport(page, 'the drum part alone');
  await page.getByRole('combobox', { name: 'What is taken out' }).click();
  await page.getByRole('option', { name: 'each section as a file, in a zip' }).click();
  const waiting = page.waitForEvent('download');
  await page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true }).click();
  const { unzipSync } = await import('fflate');
  const files = unzipSync(new Uint8Array(readFileSync(await (await waiting).path())));
  expect(Object.keys(files)).toEqual(['Intro', 'Verse', 'Chorus', 'Bridge'].map((name) => `${name} 240bpm 1bar.mid`));
  expect(notesOf(files['Bridge 240bpm 1bar.mid']!).map(([tick, key]) => [tick, key])).toEqual([0, 1, 2, 3].map((i) => [i * 960, 37]));
});

test('a row comes round over three eighths, a hit sounds in the second of two passes: shown, and written as they sound', async ({
  page,
}) => {
  await openMidi(page, 'four.mid', fourBars());
  await orderPage(page);
  const pick = async (label: string, option: string) => {
    await page.getByRole('combobox', { name: label }).click();
    await page.getByRole('option', { name: option, exact: true }).click();
  };
  await pick('Row with its own loop length', 'Kick');
  // Six sixteenths: the strokes on the first beat and a quarter later, over and over to the end.
  const round = Array.from({ length: 11 }, (_, k) => [k * 1440, k * 1440 + 960])
    .flat()
    .filter((t) => t < 4 * 3840);
  expect(
    notesOf(await exportMidi(page))
      .filter(([, key]) => key === 36)
      .map(([tick]) => tick),
  ).toEqual(round);
  await page.getByRole('button', { name: 'Kick as written' }).click();
  await page.getByRole('tab', { name: /^Hits/i }).click();
  await page.evaluate(() => {
    const { part, select } = window.nodSway!.bench();
    select(
      part.hits
        .filter((h) => h.voice === 'snare')
        .slice(0, 1)
        .map((h) => h.id),
    );
  });
  await page.getByRole('button', { name: /^Probability and passes/i }).click();
  await page.getByRole('group', { name: 'Passes in which it sounds' }).getByRole('button', { name: '2', exact: true }).click();
  await page.getByRole('spinbutton', { name: 'Of how many passes' }).fill('2');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Probability and passes/i })).toContainText('2nd of every 2 passes');
  expect(notesOf(await exportMidi(page)).filter(([, key]) => key === 38).length).toBe(3);
  await press(page, 'Undo');
});
