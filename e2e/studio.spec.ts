import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { tracksOf, type Timed } from '../tests/support/read-midi';
import { writeWav } from '../src/core/audio/wav';
import {
  chooseExport,
  exportMidi,
  exportSound,
  flatBeat,
  meterEvent,
  midiFile,
  noteEvents,
  openMidi,
  press,
  saved,
  tempoEvent,
  text,
  trackChunk,
  type TestEvent,
} from './support';

/** What leaves for other programs, and the instrument that it leaves for. */

async function choose(page: Page, label: string, option: string | RegExp): Promise<void> {
  await page.getByRole('combobox', { name: label, exact: true }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
}

async function openTarget(page: Page): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder(/./).last().fill('Choose the output map');
  await page.getByRole('option', { name: /^Choose the output map/i }).click();
  await expect(page.getByRole('dialog', { name: /^Output map/i })).toBeVisible();
}

const onsOf = (tracks: readonly Timed[][]) =>
  tracks
    .flat()
    .flatMap((e) => (e.type === 'noteOn' ? [{ at: e.at, channel: e.channel + 1, key: e.noteNumber, velocity: e.velocity }] : []));
const endsOf = (bytes: Uint8Array) => tracksOf(bytes).map((t) => t.at(-1)!.at);

test('a target is learnt by strikes, kept, and used by exports and Send out alike', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  const rows = await page.evaluate(() => window.nodSway!.bench().part.rows.map((r) => r.voice));
  await openTarget(page);
  await press(page, 'Learn by striking');
  const keys: Record<string, number> = {};
  for (const [i, row] of rows.entries()) {
    await expect(page.getByRole('status').filter({ hasText: /^Strike/i })).toBeVisible();
    keys[row] = 50 + 3 * i;
    await page.evaluate((key) => window.nodSway!.recording()!.pads.strike(key, 90, performance.now()), keys[row]);
    await expect
      .poll(() =>
        page.evaluate((r) => (window.nodSway!.bench().part.target?.keys as { rows?: Record<string, number> } | undefined)?.rows?.[r], row),
      )
      .toBe(keys[row]);
  }
  await expect(page.getByRole('button', { name: 'Learn by striking' })).toBeVisible();
  const set = async (name: string, value: number) => {
    await page.getByRole('dialog').getByRole('spinbutton', { name, exact: true }).fill(String(value));
    await page.getByRole('dialog').getByRole('spinbutton', { name, exact: true }).press('Enter');
  };
  await set('Channel', 4);
  await set('Loudest velocity sent', 64);
  await choose(page, 'Length of notes', 'always the same');
  await page.getByRole('textbox', { name: /name/i }).fill('Deck unit');
  await press(page, 'Save this output map');
  await expect(page.getByRole('dialog', { name: 'Output map: Deck unit' })).toBeVisible();
  await page.keyboard.press('Escape');

  const bytes = await exportMidi(page);
  const written = onsOf(tracksOf(bytes));
  const part = await page.evaluate(() => window.nodSway!.bench().part.hits.map((h) => [h.voice, h.tick / 84, h.velocity] as const));
  // At 960 a quarter a tick is 84 of ours; velocity 100 of a ceiling of 64 is 1 + 63 * 99 / 126.
  expect(written.map((n) => [n.at, n.channel, n.key, n.velocity])).toEqual(
    part.map(([voice, at, velocity]) => [at, 4, keys[voice]!, Math.round(1 + (63 * (velocity - 1)) / 126)]),
  );
  const [track] = tracksOf(bytes);
  const offs = track!.filter((e) => e.type === 'noteOff').map((e) => e.at);
  // 60 ms at 120 BPM are 115 ticks.
  expect(Math.min(...offs)).toBe(115);

  await page.getByRole('tab', { name: 'Takes' }).click();
  await press(page, 'MIDI out');
  await expect(page.getByText('with the output map Deck unit')).toBeVisible();
  await choose(page, 'Output', 'Simulated receiver');
  await press(page, 'Play');
  const sent = () => page.evaluate(() => window.nodSway!.recording()!.receiver.received.map((m) => [...m.bytes]));
  await expect
    .poll(async () => (await sent()).filter((b) => (b[0]! & 0xf0) === 0x90).length, { timeout: 60_000 })
    .toBeGreaterThan(written.length);
  // A busy machine leaves out what it is too late for: over the passes all notes come, and no others.
  const distinct = (list: readonly (readonly [number, number, number])[]) => [...new Set(list.map((n) => n.join(' ')))].sort();
  const ons = async () => (await sent()).filter((b) => (b[0]! & 0xf0) === 0x90).map((b) => [(b[0]! & 0x0f) + 1, b[1]!, b[2]!] as const);
  await expect
    .poll(async () => distinct(await ons()), { timeout: 60_000 })
    .toEqual(distinct(written.map((n) => [n.channel, n.key, n.velocity])));
  await press(page, 'Stop');
  // What began has ended, once each.
  await expect
    .poll(async () => {
      const all = await sent();
      return all.filter((b) => (b[0]! & 0xf0) === 0x80).length - all.filter((b) => (b[0]! & 0xf0) === 0x90).length;
    })
    .toBe(0);

  // It came with the part, and is there for every other one.
  await saved(page);
  await page.reload();
  await page.waitForFunction(() => window.nodSway?.scene());
  expect(await page.evaluate(() => window.nodSway!.bench().part.target?.name)).toBe('Deck unit');
  expect(await exportMidi(page)).toEqual(bytes);
  await page.goto('/library');
  await expect(page.getByText('Deck unit')).toBeVisible();
});

test('a row over some bars, with one track per row, dragged out and exported again by one key', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(4).bytes);
  await press(page, 'Export');
  await chooseExport(page, 'the drum part alone');
  const dialog = page.getByRole('dialog', { name: 'Export' });
  const fill = async (name: string, value: number) => {
    await dialog.getByRole('spinbutton', { name, exact: true }).fill(String(value));
    await dialog.getByRole('spinbutton', { name, exact: true }).press('Enter');
  };
  await choose(page, 'Rows to export', 'snare alone');
  await fill('From bar', 2);
  await fill('To bar', 3);
  await fill('Times', 3);
  await choose(page, 'Output map of the export', 'General MIDI, one track per row');
  await expect(dialog.getByTestId('drag-out')).toContainText('beat Snare 120bpm 6bars.mid');

  // What a drag hands out is the file that is exported.
  const dragged = await page.evaluate(async () => {
    const data = new DataTransfer();
    const made: Blob[] = [];
    const make = URL.createObjectURL.bind(URL);
    URL.createObjectURL = (of: Blob) => {
      made.push(of);
      return make(of);
    };
    document.querySelector('[data-testid="drag-out"]')!.dispatchEvent(new DragEvent('dragstart', { bubbles: true, dataTransfer: data }));
    URL.createObjectURL = make;
    const [, type, name] = /^(audio\/midi):(.*?):blob:.*$/.exec(data.getData('DownloadURL'))!;
    return { type, name, bytes: [...new Uint8Array(await made[0]!.arrayBuffer())] };
  });
  const waiting = page.waitForEvent('download');
  await dialog.getByRole('button', { name: 'Export', exact: true }).click();
  const file = await waiting;
  const bytes = new Uint8Array(readFileSync(await file.path()));
  expect([dragged.name, dragged.bytes]).toEqual([file.suggestedFilename(), [...bytes]]);
  const tracks = tracksOf(bytes);
  expect(endsOf(bytes)).toEqual([6 * 3840, 6 * 3840]);
  expect(onsOf(tracks).map((n) => [n.at, n.key])).toEqual(Array.from({ length: 12 }, (_, i) => [960 + 1920 * i, 38]));

  // The same again, with the part as it is now.
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
  await page.evaluate(() =>
    window.nodSway!.bench().run('Delete the first snare of bar 2', (p) => ({
      ...p,
      hits: p.hits.filter((h) => !(h.voice === 'snare' && h.tick === 80640 * 5)),
    })),
  );
  const again = page.waitForEvent('download');
  await page.keyboard.press('Control+e');
  const second = new Uint8Array(readFileSync(await (await again).path()));
  expect(onsOf(tracksOf(second)).map((n) => n.at)).toEqual(
    onsOf(tracks)
      .map((n) => n.at)
      .filter((_, i) => i % 4 !== 0),
  );
  expect(endsOf(second)).toEqual(endsOf(bytes));
  await expect(page.getByText('beat Snare 120bpm 6bars.mid was downloaded.')).toBeVisible();
});

test('a recording beside the part goes round the loop with it, is muted by a key, and is in no export', async ({ page }) => {
  // What is begun, when and from where, by the audio nodes themselves.
  await page.addInitScript(() => {
    const started: [at: number, offset: number, length: number][] = [];
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (at = 0, offset = 0, length = 0) {
      started.push([at, offset, length]);
      return start.call(this, at, offset, length);
    };
    Object.assign(window, { started });
  });
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  const sound = () => exportSound(page);
  const before = await sound();
  await page.getByRole('tab', { name: 'Takes' }).click();
  await press(page, 'Backing track');
  // Clicks at 100 BPM, the first half a second in.
  const rate = 8000;
  const samples = Float32Array.from({ length: rate * 12 }, (_, i) =>
    (i - rate / 2) % (0.6 * rate) >= 0 && (i - rate / 2) % (0.6 * rate) < 80 && i >= rate / 2
      ? Math.sin(i) * (((i - rate / 2) / (0.6 * rate)) % 4 < 1 ? 0.9 : 0.4)
      : 0,
  );
  await page.getByTestId('backing-input').setInputFiles({
    name: 'harbour_song.wav',
    mimeType: 'audio/wav',
    buffer: Buffer.from(writeWav(samples, samples, { rate, bits: '16' })),
  });
  await expect(page.getByText('harbour song')).toBeVisible({ timeout: 60_000 });
  const field = page.getByRole('spinbutton', { name: 'First downbeat' });
  // On its picture: by the keyboard, then dragged a second later.
  const flag = page.getByRole('slider', { name: 'First downbeat in the recording' });
  await field.fill('0.5');
  await field.press('Enter');
  await flag.press('ArrowRight');
  await expect(flag).toHaveAttribute('aria-valuetext', '0.510 s');
  const line = (await flag.locator('line').boundingBox())!;
  const second = (await page.getByTestId('downbeat-picture').boundingBox())!.width / 6;
  await page.mouse.move(line.x + 3, line.y + 30);
  await page.mouse.down();
  await page.mouse.move(line.x + 3 + second / 2, line.y + 30);
  await page.mouse.move(line.x + 3 + second, line.y + 30);
  await page.mouse.up();
  expect(Number((await flag.getAttribute('aria-valuenow'))!)).toBeCloseTo(1.51, 1);
  await page.getByRole('button', { name: /^Undo/i }).click();
  await expect(flag).toHaveAttribute('aria-valuetext', '0.510 s');
  await field.fill('0.5');
  await field.press('Enter');
  await page.getByRole('button', { name: /^take its \d+\.\d BPM$/i }).click();
  const tempo = await page.evaluate(() => 60e6 / window.nodSway!.bench().part.tempo[0]!.microsecondsPerQuarter);
  expect([100, 50, 200].some((bpm) => Math.abs(tempo - bpm) < 1.5)).toBe(true);
  const bar = 240 / tempo;
  await press(page, 'Play');
  type Started = [number, number, number][];
  const whole = () =>
    page.evaluate((length) => (window as unknown as { started: Started }).started.filter((s) => Math.abs(s[2] - length) < 1e-6), bar);
  await expect.poll(async () => (await whole()).length, { timeout: 60_000 }).toBeGreaterThan(2);
  const rounds = await whole();
  for (const [, offset] of rounds) expect(offset).toBeCloseTo(0.5, 6);
  for (let i = 1; i < rounds.length; i++) expect(rounds[i]![0] - rounds[i - 1]![0]).toBeCloseTo(bar, 6);
  const anchor = await page.evaluate(() => window.nodSway!.engine.startedAt as number);
  expect(((rounds[0]![0] - anchor) / bar) % 1).toBeCloseTo(0, 6);
  await page.keyboard.press('Shift+B');
  await expect(page.getByRole('checkbox', { name: 'heard' })).not.toBeChecked();
  await page.keyboard.press('Shift+B');
  await press(page, 'Stop');
  // The tempo was taken, and nothing else: with the old one the export is what it was.
  await page.evaluate(() =>
    window
      .nodSway!.bench()
      .run('The tempo before', (p) => ({ ...p, tempo: p.tempo.map((t) => ({ ...t, microsecondsPerQuarter: 500_000 })) })),
  );
  expect(Buffer.from(await sound()).equals(Buffer.from(before))).toBe(true);
  await saved(page);
  await page.reload();
  await page.waitForFunction(() => window.nodSway?.scene());
  expect(await page.evaluate(() => window.nodSway!.bench().part.backing?.name)).toBe('harbour song');
});

test('a song’s other tracks are heard as plain tones beside its drums, the bass at first, at the part’s own tempo', async ({ page }) => {
  await page.addInitScript(() => {
    const begun: { offset: number; length: number; seconds: number; crossings: number }[] = [];
    const start = AudioBufferSourceNode.prototype.start;
    AudioBufferSourceNode.prototype.start = function (at = 0, offset = 0, length = 0) {
      const samples = this.buffer!.getChannelData(0);
      let crossings = 0;
      // Of the first half second.
      for (let i = 1; i < this.buffer!.sampleRate / 2; i++) if (samples[i - 1]! < 0 && samples[i]! >= 0) crossings++;
      begun.push({ offset, length, seconds: this.buffer!.duration, crossings });
      return start.call(this, at, offset, length);
    };
    Object.assign(window, { begun });
  });
  const drums = trackChunk(
    noteEvents(
      [
        [0, 36, 100],
        [480, 38, 100],
        [960, 36, 100],
        [1440, 38, 100],
      ],
      60,
    ),
  );
  const name = (words: string): TestEvent => [0, 0xff, 3, words.length, ...text(words)];
  // An A of 110 Hz for a bar of two seconds, and an organ above.
  const bass = trackChunk([name('Low strings'), ...noteEvents([[0, 45, 100]], 1900, 2)]);
  const organ = trackChunk([name('Organ'), ...noteEvents([[0, 81, 100]], 1900, 3)]);
  await openMidi(page, 'song.mid', midiFile(1, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2)]), drums, bass, organ]));
  await page.getByRole('tab', { name: 'Takes' }).click();
  await press(page, 'Backing track');
  const group = page.getByRole('group', { name: 'Other tracks of the song' });
  await group.getByRole('checkbox', { name: /plain tones/i }).check();
  await expect(group.getByRole('checkbox', { name: 'Low strings' })).toBeChecked();
  await expect(group.getByRole('checkbox', { name: 'Organ' })).not.toBeChecked();
  await press(page, 'Play');
  type Begun = { offset: number; length: number; seconds: number; crossings: number };
  const begun = () => page.evaluate(() => (window as unknown as { begun: Begun[] }).begun);
  const last = async () => (await begun()).at(-1);
  await expect.poll(async () => (await begun()).length, { timeout: 60_000 }).toBeGreaterThan(0);
  expect(Math.abs((await last())!.crossings - 55)).toBeLessThanOrEqual(1);
  // Twice as fast the same bar takes a second.
  await page.evaluate(() =>
    window
      .nodSway!.bench()
      .run('Twice the tempo', (p) => ({ ...p, tempo: p.tempo.map((t) => ({ ...t, microsecondsPerQuarter: 250_000 })) })),
  );
  await expect.poll(async () => (await last())!.seconds, { timeout: 60_000 }).toBeLessThan(1.8);
  const count = (await begun()).length;
  await group.getByRole('checkbox', { name: /plain tones/i }).uncheck();
  await expect(group.getByRole('checkbox', { name: 'Organ' })).toBeHidden();
  await press(page, 'Stop');
  expect((await begun()).length - count).toBeLessThan(4);
});
