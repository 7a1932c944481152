import { parseMidi } from 'midi-file';
import { expect, test, type Page } from '@playwright/test';
import { freeMidi } from '../tests/support/free-part';
import { newPart } from './prepared';
import { benchReady, exportMidi, flatBeat, importMidi, openPrepared, press, saved } from './support';

/** Parts that were played without a click: noticed, counted, exported with their times, set steady, corrected. */

const part = (page: Page) => page.evaluate(() => window.nodSway!.bench().part);
/** When each drum note sounds, in seconds by the file's own tempo events, and its key. */
function timesOf(bytes: Uint8Array): [key: number, seconds: number][] {
  const { header, tracks } = parseMidi(bytes);
  const ppq = header.ticksPerBeat!;
  const events = tracks
    .flatMap((track) => {
      let now = 0;
      return track.map((event) => ({ event, at: (now += event.deltaTime) }));
    })
    .sort((a, b) => a.at - b.at || (a.event.type === 'setTempo' ? -1 : 0) - (b.event.type === 'setTempo' ? -1 : 0));
  let [tick, seconds, us] = [0, 0, 500_000];
  return events
    .flatMap(({ event, at }): [number, number][] => {
      seconds += ((at - tick) / ppq) * (us / 1e6);
      tick = at;
      if (event.type === 'setTempo') us = event.microsecondsPerBeat;
      return event.type === 'noteOn' && event.velocity > 0 ? [[event.noteNumber, seconds]] : [];
    })
    .sort((a, b) => a[1] - b[1] || a[0] - b[0]);
}
const fromFirst = (times: readonly (readonly [number, number])[]): number[] => times.map(([, at]) => (at - times[0]![1]) * 1000);

test('a file that was played freely is noticed; its beats are found, the grid follows, and the export has its times', async ({ page }) => {
  const bytes = freeMidi(8);
  await importMidi(page, 'free.mid', bytes);
  await expect(page.getByTestId('free-offer')).toContainText('played freely');
  await press(page, 'Find its tempo');
  const counts = page.getByRole('radiogroup', { name: 'Count' });
  await expect(counts.getByRole('radio').first()).toContainText('4/4 at 159 BPM');
  await expect(counts.getByRole('radio').first()).toHaveAttribute('aria-checked', 'true');
  // Another count is tried, and the first one taken after all.
  const ways = page.getByRole('region', { name: 'Ways to count it' });
  await ways.getByRole('button', { name: 'Half tempo' }).click();
  await expect(counts.getByRole('radio').first()).toContainText('4/4 at 79 BPM');
  await counts.getByRole('radio').first().click();
  await expect(counts.getByRole('radio').first()).toContainText('4/4 at 159 BPM');
  await ways.getByRole('button', { name: 'Apply' }).click();
  await expect(page.getByRole('combobox', { name: 'Tempo of the grid' })).toHaveText('follows the player');
  await expect(page.getByTestId('drift')).toBeVisible();
  await expect(page.getByTestId('free-offer')).toBeHidden();
  const original = fromFirst(timesOf(bytes));
  const exported = fromFirst(timesOf(await exportMidi(page)));
  expect(exported).toHaveLength(original.length);
  exported.forEach((at, i) => expect(Math.abs(at - original[i]!)).toBeLessThan(0.6));

  // A beat is moved by keys: the grid goes, the hits stay.
  const before = await part(page);
  const flag = page.getByRole('button', { name: 'Beat 2 of bar 1' });
  await flag.focus();
  await flag.press('ArrowRight');
  await expect.poll(async () => (await part(page)).tempo[2]!.microsecondsPerQuarter).not.toBe(before.tempo[2]!.microsecondsPerQuarter);
  const moved = fromFirst(timesOf(await exportMidi(page)));
  moved.forEach((at, i) => expect(Math.abs(at - original[i]!)).toBeLessThan(0.6));
  await page.keyboard.press('Control+z');

  // Steady, and back again, after a reload too.
  await page.getByRole('combobox', { name: 'Tempo of the grid' }).click();
  await page.getByRole('option', { name: 'steady' }).click();
  await expect(page.getByRole('spinbutton', { name: 'Steady tempo' })).toHaveValue('158.9');
  expect((await part(page)).tempo).toHaveLength(1);
  await saved(page);
  await page.reload();
  await benchReady(page);
  await page.getByRole('tab', { name: /Tempo/ }).click();
  await page.getByRole('combobox', { name: 'Tempo of the grid' }).click();
  await page.getByRole('option', { name: 'follows the player' }).click();
  await expect.poll(async () => (await part(page)).tempo.length).toBe(before.tempo.length);
  const again = fromFirst(timesOf(await exportMidi(page)));
  again.forEach((at, i) => expect(Math.abs(at - original[i]!)).toBeLessThan(0.6));
});

test('a straight file is not asked about; the page finds nothing to do by itself', async ({ page }) => {
  await importMidi(page, 'beat.mid', flatBeat(4).bytes);
  await expect(page.getByTestId('free-offer')).toBeHidden();
  await page.getByRole('tab', { name: 'Tempo' }).click();
  await expect(page.getByRole('button', { name: 'Find the beats', exact: true })).toBeVisible();
  expect((await part(page)).tempo).toHaveLength(1);
});

test('a take without a click, played by the practice player whose tempo wanders: counted when it stops, and played with its click', async ({
  page,
}) => {
  await openPrepared(page, newPart());
  await page.getByRole('tab', { name: 'Takes' }).click();
  await page.getByRole('combobox', { name: 'Timing' }).click();
  await page.getByRole('option', { name: 'without a click' }).click();
  await page.getByRole('combobox', { name: 'Play from' }).click();
  await page.getByRole('option', { name: 'Practice player' }).click();
  await page.getByRole('combobox', { name: 'Pattern' }).click();
  await page.getByRole('option', { name: 'Backbeat, all at once' }).click();
  await press(page, 'Record');
  const strokes = () => page.evaluate(() => window.nodSway!.recording()!.recorder.state.getState().strokes);
  await expect.poll(strokes, { timeout: 120_000 }).toBeGreaterThan(70);
  await press(page, 'Stop and keep the take');
  await expect.poll(async () => (await part(page)).playerTempo?.length ?? 0, { timeout: 120_000 }).toBeGreaterThan(12);
  await expect.poll(() => page.evaluate(() => window.nodSway!.engine.isPlaying)).toBe(true);
  await expect(page.getByRole('checkbox', { name: 'click during playback' })).toBeChecked();
  await page.keyboard.press('Space');
  // Where the first count is not certain, the others stand beside it.
  const now = await part(page);
  expect([now.meter[0]!.numerator, now.meter[0]!.denominator]).toEqual([4, 4]);
  expect(now.tempo.some((t) => t.microsecondsPerQuarter !== now.tempo[0]!.microsecondsPerQuarter)).toBe(true);
  expect(now.hits.every((h) => h.id.startsWith('take:'))).toBe(true);
});

test('on a part that has hits nothing is recorded without a click; a new part is one click away', async ({ page }) => {
  await importMidi(page, 'beat.mid', flatBeat(1).bytes);
  const first = page.url();
  await page.getByRole('tab', { name: 'Takes' }).click();
  await page.getByRole('combobox', { name: 'Timing' }).click();
  await page.getByRole('option', { name: 'without a click' }).click();
  await press(page, 'Record');
  await expect(page.getByText('Recording without a click needs an empty part')).toBeVisible();
  await press(page, 'New part');
  await page.waitForURL((url) => url.href !== first && url.pathname.startsWith('/bench/'));
  await benchReady(page);
  await expect(page.getByRole('combobox', { name: 'Timing' })).toHaveText('without a click');
  expect((await part(page)).hits).toEqual([]);
});

test('the simulated sender’s clock starts the part, at its tempo; stopping to follow stops it', async ({ page }) => {
  await openPrepared(page, newPart());
  await page.getByRole('tab', { name: 'Takes' }).click();
  await page.getByRole('button', { name: 'MIDI clock' }).click();
  await page.getByRole('combobox', { name: 'Clock to follow' }).click();
  await page.getByRole('option', { name: 'Simulated sender' }).click();
  await expect(page.getByTestId('clock-state')).toContainText(/^1(09|10|11)\.\d BPM, jitter \d\.\d ms\.$/);
  await expect.poll(() => page.evaluate(() => window.nodSway!.engine.isPlaying)).toBe(true);
  // The part's own tempo stays 100: it is played faster.
  expect((await part(page)).tempo[0]!.microsecondsPerQuarter).toBe(600_000);
  await page.getByRole('combobox', { name: 'Clock to follow' }).click();
  await page.getByRole('option', { name: 'no clock' }).click();
  await expect.poll(() => page.evaluate(() => window.nodSway!.engine.isPlaying)).toBe(false);
});

test('taps on beats 1 and 2 choose the count', async ({ page }) => {
  await importMidi(page, 'free.mid', freeMidi(8));
  await press(page, 'Find its tempo');
  const counts = page.getByRole('radiogroup', { name: 'Count' });
  await expect(counts.getByRole('radio').first()).toContainText('4/4 at 159 BPM');
  // The taps fall on beats 3 and 4 of the first reading: that bar line moves by two beats.
  const [from, to] = await page.evaluate(() => {
    const { tempo, origin } = window.nodSway!.bench().part;
    const seconds = (until: number) =>
      tempo.reduce((sum, t, i) => {
        const end = Math.min(until, tempo[i + 1]?.tick ?? Infinity);
        return end > t.tick ? sum + ((end - t.tick) / 80_640) * (t.microsecondsPerQuarter / 1e6) : sum;
      }, 0);
    return [seconds(origin + 10 * 80_640), seconds(origin + 11 * 80_640)];
  });
  await press(page, 'Tap beats 1 and 2');
  for (const [n, at] of [from, to].entries()) {
    // The part plays at its placeholder tempo of 120 again: two quarters a second.
    await page.evaluate((tick) => Object.assign(window.nodSway!.engine, { position: () => tick }), at! * 2 * 80_640);
    await page.getByRole('button', { name: `Tap beat ${n + 1}` }).click();
  }
  await expect(counts.getByRole('radio').first()).toContainText('4/4');
  await expect(counts.getByRole('radio').first()).toHaveAttribute('aria-checked', 'true');
  const bar = await page.evaluate((second) => {
    const { tempo, origin, meter } = window.nodSway!.bench().part;
    let at = 0;
    for (const [i, t] of tempo.entries()) {
      const next = tempo[i + 1];
      const length = next ? ((next.tick - t.tick) / 80_640) * (t.microsecondsPerQuarter / 1e6) : Infinity;
      if (second < at + length) {
        const tick = t.tick + ((second - at) / (t.microsecondsPerQuarter / 1e6)) * 80_640;
        return ((tick - origin) / 80_640 / meter[0]!.numerator) % 1;
      }
      at += length;
    }
    return Number.NaN;
  }, from!);
  expect(Math.min(bar, 1 - bar)).toBeLessThan(0.05);
});
