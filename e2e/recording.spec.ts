import { expect, test, type Page } from '@playwright/test';
import { chooseExport, flatBeat, openMidi, openPrepared, press, saved } from './support';
import { fakePort, midi } from './fake-port';
import { newPart } from './prepared';

/** Recording while the music goes on, with pads and with a port as browsers give it. */

const phase = (page: Page) => page.evaluate(() => window.nodSway!.recording()!.recorder.state.getState().phase);
const voices = (page: Page) =>
  page.evaluate(() =>
    window
      .nodSway!.bench()
      .part.hits.filter((h) => h.id.startsWith('take:'))
      .map((h) => `${h.choke ? 'choke ' : ''}${h.voice}`),
  );

async function choose(page: Page, label: string, option: string): Promise<void> {
  await page.getByRole('combobox', { name: label, exact: true }).click();
  await page.getByRole('option', { name: option, exact: true }).click();
}

/** An empty part at 120, played from a port whose settings are open. */
async function openWithPort(page: Page, bars: number): Promise<void> {
  await fakePort(page);
  await openPrepared(page, newPart({ tempo: 120, bars }));
  await page.getByRole('tab', { name: 'Takes' }).click();
  await press(page, 'Look for MIDI devices');
  await choose(page, 'Play from', 'Deck pads');
  await page.getByText('Velocity and guards').click();
}

/** Begins to record one pass. */
async function recordOnce(page: Page): Promise<void> {
  await page.getByRole('spinbutton', { name: 'Passes to record' }).fill('1');
  await page.getByRole('spinbutton', { name: 'Passes to record' }).press('Enter');
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect.poll(() => phase(page), { timeout: 60_000 }).toBe('recording');
}

test('punched in and out twice in a running loop: it never stops, nothing is doubled or lost; the last pass is dropped by a key', async ({
  page,
}) => {
  await openMidi(page, 'beat.mid', flatBeat(2).bytes);
  await press(page, 'Play');
  await page.waitForFunction(() => window.nodSway!.engine.log.length > 4);
  const started = await page.evaluate(() => window.nodSway!.engine.startedAt);
  const hits = await page.evaluate(() => window.nodSway!.bench().part.hits.length);
  const strike = (key: number) => page.evaluate((k) => window.nodSway!.recording()!.pads.strike(k, 101, performance.now()), key);

  await page.keyboard.press('Shift+R');
  await expect.poll(() => phase(page)).toBe('recording');
  await strike(49);
  await expect.poll(() => voices(page)).toEqual(['crash']);
  await page.keyboard.press('Shift+R');
  await expect.poll(() => phase(page)).toBe('done');
  await page.keyboard.press('Shift+R');
  await expect.poll(() => phase(page)).toBe('recording');
  await strike(56);
  await expect.poll(async () => (await voices(page)).sort()).toEqual(['cowbell', 'crash']);
  await page.keyboard.press('Shift+Backspace');
  await expect.poll(() => voices(page)).toEqual(['crash']);
  await strike(54);
  await expect.poll(async () => (await voices(page)).sort()).toEqual(['crash', 'tambourine']);
  await page.keyboard.press('Shift+R');
  await expect.poll(() => phase(page)).toBe('done');

  // The whole time the same playing, each of its hits once in each pass that was over.
  const passes = await page.evaluate(() => Math.max(...window.nodSway!.engine.log.map((o) => o.pass)));
  await page.waitForFunction((n) => Math.max(...window.nodSway!.engine.log.map((o) => o.pass)) > n, passes);
  const heard = await page.evaluate((count) => {
    const { engine, hitOfSlot, bench } = window.nodSway!;
    const written = new Set(
      bench()
        .part.hits.filter((h) => !h.id.startsWith('take:'))
        .map((h) => h.id),
    );
    const seen = new Map<string, number>();
    for (const o of engine.log)
      if (written.has(hitOfSlot(o.slot)!)) seen.set(`${o.slot}.${o.pass}`, (seen.get(`${o.slot}.${o.pass}`) ?? 0) + 1);
    const last = Math.max(...engine.log.map((o) => o.pass));
    const each = Array.from({ length: last }, (_, pass) => [...seen.keys()].filter((k) => k.endsWith(`.${pass}`)).length);
    return {
      doubled: [...seen.values()].filter((n) => n > 1).length,
      lacking: each.filter((n) => n !== count),
      startedAt: engine.startedAt,
      jumped: engine.jumps.length,
    };
  }, hits);
  expect(heard).toMatchObject({ doubled: 0, startedAt: started });
  // What a jump of the machine's audio clock took is not the recorder's doing.
  if (heard.jumped === 0) expect(heard.lacking).toEqual([]);
  await press(page, 'Stop');
});

test('the click is switched on and off while it plays, in its own tone, and is in no export', async ({ page }) => {
  await openPrepared(page, newPart({ tempo: 200, bars: 1 }));
  await page.getByRole('tab', { name: 'Takes' }).click();
  await press(page, 'Play');
  await page.waitForFunction(() => window.nodSway!.engine.isPlaying);
  const loudest = () =>
    page.evaluate(async () => {
      const { samples } = await window.nodSway!.engine.capture(0.7);
      return samples.reduce((most, x) => Math.max(most, Math.abs(x)), 0);
    });
  expect(await loudest()).toBeLessThan(0.0005);
  await page.keyboard.press('Shift+K');
  await expect(page.getByRole('checkbox', { name: 'during playback too' })).toBeChecked();
  await choose(page, 'Tone of the click', 'a bell');
  await expect.poll(loudest).toBeGreaterThan(0.01);
  await page.keyboard.press('Shift+K');
  await expect.poll(loudest).toBeLessThan(0.0005);
  await page.keyboard.press('Shift+K');
  await press(page, 'Stop');
  await press(page, 'Export');
  await chooseExport(page, 'the drum part alone');
  // Clicks are no notes: there is nothing to write.
  await expect(page.getByTestId('export-refusal')).toContainText('The part has no hits yet.');
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true })).toBeDisabled();
});

test('a hat pedal is learnt; opening over a bar it makes closed, half and open rows, closing damps, a grabbed cymbal is choked', async ({
  page,
}) => {
  await openWithPort(page, 1);
  await press(page, 'Learn the pedal');
  const pedal = (value: number, at: number | null) => [[0xb9, 4, value], at] as const;
  const note = (key: number, at: number) => [[0x99, key, 90], at] as const;
  await midi(
    page,
    [0, 30, 90, 127, 100, 40].map((v) => pedal(v, null)),
  );
  await expect(page.getByText(/The pedal opens the hat/i)).toBeVisible();
  await recordOnce(page);
  // Over a bar of two seconds: closed, half, open; closed slowly; a crash that a hand ends.
  await midi(page, [
    pedal(120, 0.05),
    note(42, 0.1),
    pedal(60, 0.4),
    note(42, 0.5),
    pedal(10, 0.8),
    note(42, 0.9),
    pedal(60, 1.15),
    pedal(110, 1.3),
    note(49, 1.4),
    [[0xa9, 49, 100], 1.7],
  ]);
  await expect.poll(() => phase(page), { timeout: 60_000 }).toBe('done');
  expect(await voices(page)).toEqual(['hat-closed', 'hat-half', 'hat-open', 'choke hat-open', 'crash', 'choke crash']);
  const at = await page.evaluate(() => window.nodSway!.bench().part.hits.map((h) => Math.round((h.tick / 80640) * 500)));
  [100, 500, 900, 1300, 1400, 1700].forEach((ms, i) => expect(Math.abs(at[i]! - ms)).toBeLessThan(4));

  // Heard: what the open hat leaves is gone after the choke.
  await press(page, 'Close');
  await page.evaluate(() =>
    window.nodSway!.bench().run('The hat alone', (p) => ({ ...p, hits: p.hits.filter((h) => h.voice === 'hat-open') })),
  );
  const rendered = await page.evaluate(async () => {
    const { engine } = window.nodSway!;
    const energy = async () => {
      const { firstFrame, samples } = await engine.capture(2.2);
      const from = Math.round(((engine.startedAt! as number) * engine.sampleRate - firstFrame) % (2 * engine.sampleRate));
      const start = ((from % (2 * engine.sampleRate)) + 2 * engine.sampleRate) % (2 * engine.sampleRate);
      const level = (a: number, b: number) => {
        let sum = 0;
        let n = 0;
        for (let i = 0; i < samples.length; i++) {
          const t = ((i - start + 4 * engine.sampleRate) % (2 * engine.sampleRate)) / engine.sampleRate;
          if (t >= a && t < b) [sum, n] = [sum + samples[i]! ** 2, n + 1];
        }
        return Math.sqrt(sum / n);
      };
      return { ringing: level(1.0, 1.25), damped: level(1.4, 1.85) };
    };
    await engine.play(0 as never);
    await engine.allReady();
    await new Promise<void>((done) => {
      const look = () => (engine.log.some((o) => o.pass > 0) ? done() : requestAnimationFrame(look));
      look();
    });
    return energy();
  });
  expect(rendered.damped).toBeLessThan(rendered.ringing / 30);
  await saved(page);
});

test('a held pad goes on striking on the swung grid; one row over sixteen pads has sixteen velocities', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  await press(page, 'Add swing');
  const percent = await page.evaluate(() => (window.nodSway!.bench().part.feel.moves[0] as { percent: number }).percent);
  await page.getByRole('tab', { name: 'Takes' }).click();
  await press(page, 'Show the pads');
  await choose(page, 'Held pads', 'on 1/16, as swung');
  await press(page, 'Play');
  await page.waitForFunction(() => window.nodSway!.engine.log.length > 4);
  await page.keyboard.press('Shift+R');
  await expect.poll(() => phase(page)).toBe('recording');
  const tom = (await page
    .getByRole('group', { name: 'Right hand' })
    .getByRole('button', { name: /^Tom floor/i })
    .boundingBox())!;
  await page.mouse.move(tom.x + 20, tom.y + tom.height / 2);
  await page.mouse.down();
  await expect.poll(async () => (await voices(page)).length, { timeout: 60_000 }).toBeGreaterThan(9);
  await page.mouse.up();
  await page.keyboard.press('Shift+R');
  await expect.poll(() => phase(page)).toBe('done');
  // After the first, which was played, all stand on swung lines: 1/16 at 120 are 125 ms, the second of a pair at its percent of 250.
  const off = await page.evaluate(
    (p) =>
      window
        .nodSway!.bench()
        .part.hits.filter((h) => h.id.startsWith('take:'))
        .map((h) => ((h.tick / 80640) * 500 + 250_000) % 250)
        .map((ms) => Math.min(Math.abs(ms), Math.abs(ms - (250 * p) / 100), Math.abs(ms - 250))),
    percent,
  );
  expect(off.filter((ms) => ms > 1).length).toBeLessThanOrEqual(1);

  await choose(page, 'Pads play', 'snare, sixteen velocities');
  const pads = page.getByRole('region', { name: 'Pads' }).getByRole('button');
  await expect(pads).toHaveCount(16);
  await page.evaluate(() => {
    const levels: number[] = [];
    window.nodSway!.recording()!.pads.listen((e) => e.kind === 'note' && levels.push(e.value));
    Object.assign(window, { levels });
  });
  for (const n of [0, 7, 8, 15]) await pads.nth(n).click();
  expect(await page.evaluate(() => (window as unknown as { levels: number[] }).levels)).toEqual([71, 127, 8, 64]);
  await press(page, 'Stop');
});

test('bounces of a pad and what rings over from another are kept out, while it is heard and in the take; a roll of sixteen a second is whole', async ({
  page,
}) => {
  await openWithPort(page, 2);
  await press(page, 'Keep crosstalk out of a pad');
  await midi(page, [[[0x99, 41, 20], null]]);
  await expect(page.getByRole('spinbutton', { name: /^Crosstalk on pad 41/i })).toBeVisible();
  await recordOnce(page);
  const note = (key: number, velocity: number, at: number) => [[0x99, key, velocity], at] as const;
  // Sixteen strokes 62.5 ms apart: each bounces 9 ms later, and the tom's pad rings 3 ms behind. Then a soft stroke of the tom that is
  // meant.
  const roll = Array.from({ length: 16 }, (_, n) => 0.1 + n / 16);
  await midi(page, [...roll.flatMap((t) => [note(38, 96, t), note(41, 9, t + 0.003), note(38, 40, t + 0.009)]), note(41, 30, 2.5)]);
  await expect.poll(() => phase(page), { timeout: 60_000 }).toBe('done');
  expect((await voices(page)).sort()).toEqual([...Array<string>(16).fill('snare'), 'tom-floor'].sort());
  const places = await page.evaluate(() =>
    window
      .nodSway!.bench()
      .part.hits.filter((h) => h.voice === 'snare')
      .map((h) => [(h.tick / 80640) * 500, h.velocity]),
  );
  roll.forEach((t, n) => expect([Math.abs(places[n]![0]! - t * 1000) < 4, places[n]![1]]).toEqual([true, 96]));
  await saved(page);
});
