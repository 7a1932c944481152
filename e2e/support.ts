import { readFileSync } from 'node:fs';
import { expect, type Locator, type Page } from '@playwright/test';
import { parseMidi } from 'midi-file';
import type { Part } from '../src/core/model/part';
import { midiFile, meterEvent, noteEvents, tempoEvent, text, trackChunk, type TestEvent } from '../tests/support/midi-bytes';
import { partOfMidi, preparePart } from './prepared';

/** What flows share: bringing files in, finding drawn stems, taking files out. */

export { midiFile, meterEvent, noteEvents, tempoEvent, text, trackChunk, type TestEvent };

export type Note = [tick: number, key: number, velocity: number];

/** Note-ons of a channel (1 to 16), read by a package of its own. */
export function notesOf(bytes: Uint8Array, channel = 10): Note[] {
  const found: Note[] = [];
  for (const track of parseMidi(bytes).tracks) {
    let now = 0;
    for (const e of track) {
      now += e.deltaTime;
      if (e.type === 'noteOn' && e.channel === channel - 1 && e.velocity > 0) found.push([now, e.noteNumber, e.velocity]);
    }
  }
  return found.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
}

export const ppqOf = (bytes: Uint8Array): number | undefined => parseMidi(bytes).header.ticksPerBeat;

export async function bringIn(page: Page, name: string, bytes: Uint8Array): Promise<void> {
  await page.getByTestId('file-input').setInputFiles({ name, mimeType: 'audio/midi', buffer: Buffer.from(bytes) });
}

export async function openShelf(page: Page): Promise<void> {
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Gangway Strut' })).toBeVisible();
}

/** The Bench is there and has drawn its stems. */
export async function benchReady(page: Page): Promise<void> {
  await page.waitForFunction(() => window.nodSway?.scene() !== null && window.nodSway !== undefined);
}

/** Opens the part that a file makes, from a store that has it already. */
export async function openMidi(page: Page, name: string, bytes: Uint8Array): Promise<void> {
  await openPrepared(page, partOfMidi(name, bytes), bytes);
}

export async function openPrepared(page: Page, part: Part, song?: Uint8Array): Promise<void> {
  const id = await preparePart(page, part, song);
  await page.goto(`/bench/${id}`);
  await benchReady(page);
}

/** Drops a file on the shelf and waits for its Bench. */
export async function importMidi(page: Page, name: string, bytes: Uint8Array): Promise<void> {
  await openShelf(page);
  await bringIn(page, name, bytes);
  await page.waitForURL(/\/bench\//);
  await benchReady(page);
}

/** Opens a demo part by its address: it is put on the shelf by that. */
export async function openDemo(page: Page, name: string): Promise<void> {
  await page.goto(`/bench/demo-${name.toLowerCase().replace(/ /g, '-')}`);
  await benchReady(page);
}

/** Bars of eighths on the hat, backbeat and kicks, all at one velocity: 480 ticks a quarter. */
export function flatBeat(bars = 2, velocity = 100): { bytes: Uint8Array; notes: Note[] } {
  const notes: Note[] = [];
  for (let b = 0; b < bars; b++) {
    for (let s = 0; s < 16; s += 1) {
      const tick = b * 1920 + s * 120;
      if (s % 4 === 0) notes.push([tick, 36, velocity]);
      if (s === 4 || s === 12) notes.push([tick, 38, velocity]);
      notes.push([tick, 42, velocity]);
    }
  }
  notes.sort((a, c) => a[0] - c[0] || a[1] - c[1]);
  return { notes, bytes: midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents(notes, 60)])]) };
}

export interface DrawnStem {
  id: string;
  index: number;
  headX: number;
  headY: number;
  footX: number;
  footY: number;
  lean: number;
}

/** The stem of a hit as it was last drawn. */
export async function stemOf(page: Page, voice: string, nth: number): Promise<DrawnStem> {
  return page.evaluate(
    ([v, n]) => {
      const bench = window.nodSway!.bench();
      const scene = window.nodSway!.scene()!;
      const row = scene.rows.findIndex((r) => r.voice === v);
      const s = scene.stems[row]![n as number]!;
      return {
        id: bench.part.hits[s.index]!.id,
        index: s.index,
        headX: s.headX,
        headY: s.headY,
        footX: s.footX,
        footY: s.footY,
        lean: s.lean,
      };
    },
    [voice, nth] as const,
  );
}

/** Presses the button of that very name. */
export const press = (page: Page, name: string): Promise<void> => page.getByRole('button', { name, exact: true }).click();

export const stems = (page: Page): Locator => page.getByTestId('stems');

/** Drags from one place on the canvas by some pixels, in several moves, and waits until it was drawn. */
export async function drag(page: Page, from: { x: number; y: number }, by: { x: number; y: number }, release = true): Promise<void> {
  const box = (await stems(page).boundingBox())!;
  await page.mouse.move(box.x + from.x, box.y + from.y);
  await page.mouse.down();
  await page.mouse.move(box.x + from.x + by.x / 2, box.y + from.y + by.y / 2, { steps: 4 });
  await page.mouse.move(box.x + from.x + by.x, box.y + from.y + by.y, { steps: 4 });
  if (release) await page.mouse.up();
  await drawn(page);
}

/** Two frames later everything asked for has been drawn. */
export const drawn = (page: Page): Promise<void> =>
  page.evaluate(
    () => new Promise<void>((done) => requestAnimationFrame(() => requestAnimationFrame(() => requestAnimationFrame(() => done())))),
  );

export async function clickStem(
  page: Page,
  stem: { headX: number; headY: number },
  modifiers: ('Shift' | 'Control')[] = [],
): Promise<void> {
  await stems(page).click({ position: { x: stem.headX, y: stem.headY }, modifiers });
  await drawn(page);
}

/** Changes the sentence of the open export, where it says something else. */
export async function chooseExport(page: Page, what: string): Promise<void> {
  const picker = page.getByRole('dialog').getByRole('combobox', { name: 'What to export' });
  if ((await picker.textContent())?.includes(what)) return;
  await picker.click();
  await page.getByRole('option', { name: what }).click();
}

/** Exports through the dialog and gives the file's bytes. */
export async function exportMidi(
  page: Page,
  what: 'part' | 'song' = 'part',
  version: 'performed' | 'written' = 'performed',
): Promise<Uint8Array> {
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  const dialog = page.getByRole('dialog');
  await chooseExport(page, what === 'part' ? 'the drum part alone' : 'the song with these drums');
  if (version === 'written') {
    await dialog.getByRole('combobox', { name: 'Version' }).click();
    await page.getByRole('option', { name: 'as written' }).click();
  }
  const waiting = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Export', exact: true }).click();
  const file = await (await waiting).path();
  await expect(page.getByTestId('export-account')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
  return new Uint8Array(readFileSync(file));
}

/** Exports the sound as a file, or several in a zip. */
export async function exportSound(page: Page, choose: (page: Page) => Promise<void> = () => Promise.resolve()): Promise<Uint8Array> {
  await press(page, 'Export');
  await chooseExport(page, 'the sound');
  await choose(page);
  const waiting = page.waitForEvent('download');
  await page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true }).click();
  const bytes = new Uint8Array(readFileSync(await (await waiting).path()));
  await expect(page.getByTestId('export-account')).toBeVisible();
  await page.keyboard.press('Escape');
  return bytes;
}

export const saved = (page: Page): Promise<void> => expect(page.getByTestId('save-state')).toHaveText('saved in this browser');

/** Percent of the part's first swing move. */
export const swingPercent = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const move = window.nodSway!.bench().part.feel.moves.find((m) => m.kind === 'swing');
    return move?.kind === 'swing' ? move.percent : Number.NaN;
  });

/** Plays from the start until every stroke is ready, then once more: the left side of the first second that is heard. */
export async function heardSecond(page: Page): Promise<Float32Array> {
  await press(page, 'Play');
  await page.evaluate(() => window.nodSway!.engine.allReady());
  await press(page, 'Stop');
  for (;;) {
    const captured = page.evaluate(async () => {
      const { engine } = window.nodSway!;
      engine.log.length = 0;
      engine.jumps.length = 0;
      const c = await engine.capture(1.6);
      const start = engine.log[0]!.frame - c.firstFrame;
      return { samples: Array.from(c.samples.slice(start, start + 44_100)), jumps: engine.jumps.length };
    });
    await press(page, 'Play');
    const { samples, jumps } = await captured;
    await press(page, 'Stop');
    // Where the machine stalled, hits of that second are late or lost: it is heard again.
    if (jumps === 0) return Float32Array.from(samples);
  }
}

/** Long enough for a press to be more than a tap. */
export const held = async (page: Page): Promise<void> => {
  await page.waitForFunction((since) => performance.now() > since + 300, await page.evaluate(() => performance.now()));
};
