import { expect, test, type Page } from '@playwright/test';
import { clickStem, flatBeat, openMidi, meterEvent, midiFile, noteEvents, openDemo, stemOf, tempoEvent, trackChunk } from './support';

interface Heard {
  id: string;
  pass: number;
  /** Seconds from the first pass's start. */
  at: number;
}

/** The audio thread's own log, in seconds from the start of the first pass. */
const heard = (page: Page): Promise<Heard[]> =>
  page.evaluate(() => {
    const d = window.nodSway!;
    const anchor = (d.engine as unknown as { state: { anchorFrame: number } }).state.anchorFrame;
    return d.engine.log.map((o) => ({ id: d.hitOfSlot(o.slot)!, pass: o.pass, at: (o.frame - anchor) / d.engine.sampleRate }));
  });

/** Where the audio clock went on without asking for sound, in seconds from the start of the first pass. */
const clockJumps = (page: Page): Promise<{ from: number; to: number }[]> =>
  page.evaluate(() => {
    const { engine } = window.nodSway!;
    const anchor = (engine as unknown as { state: { anchorFrame: number } }).state.anchorFrame;
    return engine.jumps.map((j) => ({ from: (j.from - anchor) / engine.sampleRate, to: (j.to - anchor) / engine.sampleRate }));
  });

const play = async (page: Page): Promise<void> => {
  await page.getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
};

const passOf = (page: Page, pass: number): Promise<unknown> =>
  page.waitForFunction((n) => window.nodSway!.engine.log.some((o) => o.pass >= n), pass);

test('W toggled 20 times in mid-bar: every hit of every pass once, at the time of one version', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  await page.getByRole('button', { name: 'Add swing' }).click();
  await page.getByRole('button', { name: '2:1', exact: true }).click();
  // The first kick is pushed 8 ms early as well.
  await page.evaluate(() => {
    const { run, part } = window.nodSway!.bench();
    run('push', (p) => ({
      ...p,
      hits: p.hits.map((h) => (h === part.hits.find((k) => k.voice === 'kick') ? { ...h, nudge: { ms: -8 as never, velocity: 0 } } : h)),
    }));
  });
  await play(page);
  for (let i = 0; i < 20; i++) {
    const before = await page.evaluate(() => window.nodSway!.engine.log.length);
    await page.keyboard[i % 2 === 0 ? 'down' : 'up']('w');
    await page.waitForFunction((n) => window.nodSway!.engine.log.length > n + 1, before);
  }
  await passOf(page, 3);
  await page.getByRole('button', { name: 'Stop' }).click();

  const log = (await heard(page)).filter((h) => h.pass < 3);
  const jumps = await clockJumps(page);
  const beat = flatBeat(1).notes;
  expect(new Set(log.map((h) => `${h.id} ${h.pass}`)).size).toBe(log.length);
  for (const h of log) {
    const { written, performed } = timesOf(h);
    const off = Math.min(Math.abs(h.at - written), Math.abs(h.at - performed));
    // What a busy machine's clock jumped over starts at once when it is back.
    const isBack = jumps.some((j) => Math.abs(h.at - j.to) < 1.01 / 44100);
    expect(isBack ? 0 : off).toBeLessThan(1.01 / 44100);
  }
  // Nothing is missing but what fell into a jump longer than the tenth of a second that is made good.
  const there = new Set(log.map((h) => `${h.id.split('.')[0]} ${h.pass}`));
  const lost = [0, 1, 2]
    .flatMap((pass) => beat.map(([tick, key]) => ({ id: `${key}@${tick * (20160 / 120)}`, pass })))
    .filter((h) => !there.has(`${h.id} ${h.pass}`));
  for (const h of lost) {
    const { written, performed } = timesOf(h);
    expect(jumps.some((j) => j.to - j.from > 0.1 && [written, performed].some((at) => at >= j.from - 0.1 && at <= j.to))).toBe(true);
  }
  expect(log.length + lost.length).toBe(3 * beat.length);
});

/**
 * When a hit of the flow above sounds, in seconds: at 120 BPM a pair of sixteenths lasts a quarter second; 66.67 % is 16.67 % of it late.
 */
function timesOf({ id, pass }: { id: string; pass: number }): { written: number; performed: number } {
  const [key, tick] = id.split('.')[0]!.split('@').map(Number) as [number, number];
  const written = (tick / 80640) * 0.5 + pass * 2;
  return { written, performed: written + ((tick / 20160) % 2 === 1 ? 0.1667 * 0.25 : 0) - (key === 36 && tick === 0 ? 0.008 : 0) };
}

test('the sound itself starts at the frame that the log names, and a soft hit is softer', async ({ page }) => {
  const notes = noteEvents(
    [
      [0, 37, 120],
      [480, 37, 40],
    ],
    60,
  );
  await openMidi(page, 'rim.mid', midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 2, 2), ...notes])]));
  await play(page);
  await passOf(page, 0);
  const { firstFrame, samples, log, rate } = await page.evaluate(async () => {
    const { engine } = window.nodSway!;
    const c = await engine.capture(4.2);
    return { firstFrame: c.firstFrame, samples: Array.from(c.samples), log: engine.log.map((o) => ({ ...o })), rate: engine.sampleRate };
  });
  const inside = log.filter((o) => o.frame - 100 > firstFrame && o.frame + 2000 < firstFrame + samples.length);
  expect(inside.length).toBeGreaterThanOrEqual(2);
  const peak = (from: number, count: number): number => samples.slice(from, from + count).reduce((m, s) => Math.max(m, Math.abs(s)), 0);
  for (const o of inside) {
    const at = o.frame - firstFrame;
    // Before it there is at most the room of the one before; a stroke begins from nothing, and is there with its first milliseconds.
    expect(peak(at - 50, 50)).toBeLessThan(0.03 * peak(at, 400));
    expect(peak(at + 1, 3)).toBeGreaterThan(0);
  }
  const loud = inside.find((o) => o.velocity === 120)!;
  const soft = inside.find((o) => o.velocity === 40)!;
  expect(peak(soft.frame - firstFrame, rate / 20)).toBeLessThan(0.4 * peak(loud.frame - firstFrame, rate / 20));
});

test('a loop of bars plays those bars alone; muting, soloing and silence say what they do', async ({ page }) => {
  await openDemo(page, 'Gangway Strut');
  const first = page.getByRole('spinbutton', { name: 'First bar of the loop' });
  await first.fill('2');
  await first.press('Enter');
  const last = page.getByRole('spinbutton', { name: 'Last bar of the loop' });
  await last.fill('2');
  await last.press('Enter');
  await page.getByRole('button', { name: 'Solo Kick' }).click();
  await play(page);
  await passOf(page, 2);
  const ids = new Set((await heard(page)).map((h) => h.id));
  // Bar 2 of the strut has kicks at steps 0, 3, 8 and 14: ticks from 4 quarters on.
  expect([...ids].sort()).toEqual([0, 3, 8, 14].map((s) => `36@${4 * 80640 + s * 20160}`).sort());

  await page.getByRole('button', { name: 'Mute Kick' }).click();
  await expect(page.getByTestId('silence')).toContainText('The soloed rows have no hits here');
  await page.getByRole('button', { name: 'Solo Kick' }).click();
  await expect(page.getByTestId('silence')).toBeHidden();
});

test('a swing changed in mid-loop is heard at the next due off-beat', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  await page.getByRole('button', { name: 'Add swing' }).click();
  await page.getByRole('button', { name: '1:1', exact: true }).click();
  await play(page);
  await passOf(page, 0);
  await page.getByRole('button', { name: '3:1', exact: true }).click();
  await passOf(page, 2);
  const late = (await heard(page)).filter((h) => {
    const tick = Number(h.id.split('.')[0]!.split('@')[1]);
    return (tick / 20160) % 2 === 1 && h.at - h.pass * 2 - (tick / 80640) * 0.5 > 0.06;
  });
  expect(late.length).toBeGreaterThan(8);
  // Whatever was changed in mid-loop, each hit of each pass sounded once.
  const log = (await heard(page)).map((h) => `${h.id} ${h.pass}`);
  expect(new Set(log).size).toBe(log.length);
  for (const pass of [0, 1]) expect(log.filter((h) => h.endsWith(` ${pass}`))).toHaveLength(flatBeat(1).notes.length);
});

test('a voice is heard from its row’s name, and selecting a stem sounds it', async ({ page }) => {
  await openDemo(page, 'Fog Signal');
  const peak = () =>
    page.evaluate(async () => {
      // Longer than a busy machine takes to bring a click here.
      const { samples } = await window.nodSway!.engine.capture(2);
      return samples.reduce((m, s) => Math.max(m, Math.abs(s)), 0);
    });
  await page.getByRole('button', { name: 'Open Cowbell', exact: true }).click();
  await page.waitForFunction(() => window.nodSway!.engine.status === 'ready');
  const listening = peak();
  await page.getByRole('button', { name: 'Open Cowbell', exact: true }).click();
  expect(await listening).toBeGreaterThan(0.05);
  const second = peak();
  await clickStem(page, await stemOf(page, 'snare', 0));
  expect(await second).toBeGreaterThan(0.05);
});

test('the tempo is typed, stepped and tapped', async ({ page }) => {
  await openDemo(page, 'Galley Brushes');
  const tempo = page.getByRole('spinbutton', { name: 'Tempo in BPM' });
  await tempo.fill('91.5');
  await tempo.press('Enter');
  const bpm = () => page.evaluate(() => 60e6 / window.nodSway!.bench().part.tempo[0]!.microsecondsPerQuarter);
  expect(await bpm()).toBeCloseTo(91.5, 6);
  await tempo.press('ArrowUp');
  expect(await bpm()).toBeCloseTo(92.5, 6);
  // In one go: how quickly a test machine clicks must not matter.
  await page.getByRole('button', { name: 'Tap' }).evaluate((button: HTMLElement) => [1, 2, 3, 4].forEach(() => button.click()));
  expect(await bpm()).toBeGreaterThan(93);
  const steps = await page.evaluate(() => window.nodSway!.bench().history.undo.length);
  for (let i = 0; i < steps; i++) await page.getByRole('button', { name: 'Undo' }).click();
  expect(await bpm()).toBeCloseTo(88, 6);
});
