import { expect, test, type Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { exportSound, flatBeat, heardSecond, openMidi } from './support';

/** Kit, mix and audio files, checked by what is heard and written. */

const soundPage = (page: Page) => page.getByRole('tab', { name: /^Sound/i }).click();

const energyOf = (samples: Float32Array): number => samples.reduce((sum, x) => sum + x * x, 0);

test('another kit is one choice and keeps the part; half the response makes soft hits louder; both are heard', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1, 40).bytes);
  await soundPage(page);
  const before = await heardSecond(page);
  expect(energyOf(before)).toBeGreaterThan(0);
  // Soft hits: with half the response they are nearer to those at 100.
  for (const row of ['Kick', 'Snare', 'Closed hat']) {
    await page.getByRole('button', { name: `Sound of ${row}` }).click();
    await page.getByRole('spinbutton', { name: `Response of ${row}` }).fill('50');
    await page.keyboard.press('Enter');
  }
  const half = await heardSecond(page);
  // At velocity 40 the law is 11.9 dB under 100, half of it 6 dB less.
  expect(Math.abs(10 * Math.log10(energyOf(half) / energyOf(before)) - 5.97)).toBeLessThan(0.5);
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  const hits = await page.evaluate(() => JSON.stringify(window.nodSway!.bench().part.hits));
  await page.getByRole('combobox', { name: 'Kit' }).click();
  await page.getByRole('option', { name: 'Beacon' }).click();
  const beacon = await heardSecond(page);
  expect(beacon).not.toEqual(before);
  expect(await page.evaluate(() => JSON.stringify(window.nodSway!.bench().part.hits))).toBe(hits);
});

/** Stereo samples of a WAV file of 24 bits. */
function samplesOf(bytes: Uint8Array): { rate: number; left: number[]; right: number[] } {
  const v = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const frames = v.getUint32(40, true) / 6;
  const at = (i: number, side: number): number =>
    (v.getUint16(44 + i * 6 + side * 3, true) + (v.getInt8(46 + i * 6 + side * 3) << 16)) / 8388607;
  return {
    rate: v.getUint32(24, true),
    left: Array.from({ length: frames }, (_, i) => at(i, 0)),
    right: Array.from({ length: frames }, (_, i) => at(i, 1)),
  };
}

const pick = async (page: Page, label: string, option: string) => {
  await page.getByRole('combobox', { name: label }).click();
  await page.getByRole('option', { name: option }).click();
};

test('the mix and its rows are exported; the loop’s length is exact, and the rows add up', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1, 90).bytes);
  const mix = samplesOf(await exportSound(page, (p) => pick(p, 'At the end', 'Seamless loop')));
  // One bar of 4/4 at 120 BPM.
  expect([mix.rate, mix.left.length]).toEqual([48_000, 96_000]);
  const zip = unzipSync(
    await exportSound(page, async (p) => {
      await pick(p, 'At the end', 'Seamless loop');
      await pick(p, 'What of the sound', 'stems (one file per row), in a zip');
    }),
  );
  expect(Object.keys(zip).sort()).toEqual(['closed hat', 'kick', 'room', 'snare'].map((row) => `beat 120bpm 1bar Wheelhouse ${row}.wav`));
  const rows = Object.values(zip).map(samplesOf);
  expect(rows.map((r) => r.left.length)).toEqual([96_000, 96_000, 96_000, 96_000]);
  // Nothing was limited in so soft a mix: within the steps of 24 bits.
  const apart = mix.left.reduce((most, x, i) => Math.max(most, Math.abs(x - rows.reduce((sum, r) => sum + r.left[i]!, 0))), 0);
  const peak = mix.left.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
  expect(20 * Math.log10(apart / peak)).toBeLessThan(-90);
});
