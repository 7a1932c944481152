import { expect, test, type Page } from '@playwright/test';
import { readFileSync } from 'node:fs';
import {
  drawn,
  exportMidi,
  held,
  meterEvent,
  midiFile,
  noteEvents,
  notesOf,
  openMidi,
  press,
  saved,
  tempoEvent,
  trackChunk,
  type Note,
} from './support';

/** The Feel page: a flat file made human by moves, heard while it plays, compared with numbers from the formulas. */

const moves = (page: Page) => page.evaluate(() => window.nodSway!.bench().part.feel.moves);

async function setNumber(page: Page, name: string, value: number): Promise<void> {
  const field = page.getByRole('spinbutton', { name });
  await field.fill(String(value));
  await field.press('Enter');
}

/** Rows by checkbox in the scope of the open move. */
async function scopeTo(page: Page, ...rows: string[]): Promise<void> {
  await page.getByRole('button', { name: /^Scope: /i }).click();
  await press(page, 'None');
  for (const row of rows) await page.getByRole('checkbox', { name: row, exact: true }).check();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
}

/** Four bars at 120 BPM, 480 a quarter: hats on eighths, kicks on 1 and 3, snares on 2 and 4, one of them 45 ticks late. */
function flat(): { notes: Note[]; bytes: Uint8Array } {
  const notes: Note[] = [];
  for (let b = 0; b < 4; b++) {
    for (let s = 0; s < 8; s++) notes.push([b * 1920 + s * 240, 42, 100]);
    notes.push([b * 1920, 36, 100], [b * 1920 + 960, 36, 100], [b * 1920 + 480 + (b === 1 ? 45 : 0), 38, 100], [b * 1920 + 1440, 38, 100]);
  }
  notes.sort((a, c) => a[0] - c[0] || a[1] - c[1]);
  return { notes, bytes: midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents(notes, 60)])]) };
}

const sorted = (notes: Note[]): Note[] => [...notes].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
const halfUp = (n: number): number => Math.floor(n + 0.5);

test('made human with three moves for different rows, swept while it plays, compared, decided, exported, reloaded, baked, undone', async ({
  page,
}) => {
  const { notes, bytes } = flat();
  await openMidi(page, 'flat.mid', bytes);

  // Swing of eighths for the hats, the snare tightened, the kick early.
  await press(page, 'Add swing');
  await page.getByRole('combobox', { name: 'Division' }).click();
  await page.getByRole('option', { name: '1/8' }).click();
  await setNumber(page, 'Swing in %', 60);
  await scopeTo(page, 'Closed hat');
  await press(page, 'Add quantize');
  await setNumber(page, 'Strength in %', 50);
  await scopeTo(page, 'Snare');
  await press(page, 'Add lay back');
  await setNumber(page, 'Lay in ms late', -6);
  await scopeTo(page, 'Kick');
  expect((await moves(page)).map((m) => [m.kind, m.scope?.voices])).toEqual([
    ['swing', ['hat-closed']],
    ['quantize', ['snare']],
    ['lay', ['kick']],
  ]);
  await expect(page.getByRole('region', { name: 'Swing, move 1' }).getByTestId('effect')).toHaveText('Moves 16 hits by 50.0 ms.');

  // The doubtful snare, 45 of 120 ticks behind its line, is sent to the later one; then tighten moves it by half of what is left.
  await page.getByRole('region', { name: 'Quantize, move 2' }).getByRole('button', { name: 'Quantize', exact: false }).first().click();
  const doubtful = page.getByTestId('doubtful');
  await expect(doubtful).toContainText(/1 uncertain hit|decided/i);
  await doubtful.getByRole('button', { name: 'belongs to the later line', exact: true }).click();
  await expect(doubtful).toContainText('1 decided');

  /** At 960 a quarter: hats' second eighths at 60 % of a pair of 960; kicks 6 ms (11.52 ticks) early, the first moved to 0. */
  const expected = (percent: number): Note[] =>
    sorted(
      notes.map(([t, k, v]): Note => {
        const tick = t * 2;
        if (k === 42) return [halfUp(tick + (tick % 960 === 480 ? (percent / 100 - 0.5) * 960 : 0)), k, v];
        if (k === 36) return [Math.max(0, halfUp(tick - 11.52)), k, v];
        // Written at 525 of the bar, 75 before the sixteenth at 600: half of that way, doubled by the resolution.
        return [t % 1920 === 525 ? tick + 75 : tick, k, v];
      }),
    );
  expect(notesOf(await exportMidi(page))).toEqual(expected(60));

  // Swept for some seconds while the loop plays: nothing is doubled, nothing lost.
  await press(page, 'Play');
  await page.waitForFunction(() => window.nodSway!.engine.log.length > 8);
  const log = await page.evaluate(
    () =>
      new Promise<{ doubled: string[]; missing: string[]; passes: number }>((done) => {
        const { engine, bench } = window.nodSway!;
        const start = performance.now();
        const sweep = bench().open('sweep', 'drag');
        const frame = (now: number) => {
          const t = (now - start) / 1000;
          sweep.preview((p) => ({
            ...p,
            feel: {
              ...p.feel,
              moves: p.feel.moves.map((m) => (m.kind === 'swing' ? { ...m, percent: 50 + 20 * Math.abs(Math.sin(2 * t)) } : m)),
            },
          }));
          if (t < 5) return requestAnimationFrame(frame);
          sweep.cancel();
          const waitForPass = () => {
            const last = Math.max(...engine.log.map((o) => o.pass));
            if (last < 1) return requestAnimationFrame(waitForPass);
            const seen = new Map<string, number>();
            for (const o of engine.log) seen.set(`${o.slot}.${o.pass}`, (seen.get(`${o.slot}.${o.pass}`) ?? 0) + 1);
            const missing: string[] = [];
            for (let pass = 0; pass < last; pass++)
              for (let slot = 0; slot < bench().part.hits.length; slot++) if (!seen.has(`${slot}.${pass}`)) missing.push(`${slot}.${pass}`);
            done({ doubled: [...seen].filter(([, n]) => n > 1).map(([name]) => name), missing, passes: last });
          };
          waitForPass();
        };
        requestAnimationFrame(frame);
      }),
  );
  expect(log).toMatchObject({ doubled: [], missing: [] });
  await press(page, 'Stop');

  // Held, another feel is drawn and heard; let go, this one is back.
  await page.getByRole('combobox', { name: 'Compare with' }).click();
  await page.getByRole('option', { name: 'Late Ferry' }).click();
  await page.keyboard.down('Shift');
  await page.keyboard.down('Q');
  await drawn(page);
  const version = () => page.evaluate(() => window.nodSway!.bench().transport.version);
  expect(await version()).toBe('other');
  const snareLean = () =>
    page.evaluate(() => {
      const s = window.nodSway!.scene()!;
      return s.stems[s.rows.findIndex((r) => r.voice === 'snare')]![0]!.lean;
    });
  await expect.poll(snareLean).toBeGreaterThan(4);
  await held(page);
  await page.keyboard.up('Q');
  await page.keyboard.up('Shift');
  expect(await version()).toBe('performed');

  await saved(page);
  await page.reload();
  await page.waitForFunction(() => window.nodSway?.scene());
  expect(notesOf(await exportMidi(page))).toEqual(expected(60));

  // Baked in: the same notes, no moves; one undo brings the feel back.
  await press(page, 'Commit feel');
  expect(await moves(page)).toEqual([]);
  expect(notesOf(await exportMidi(page))).toEqual(expected(60));
  expect(notesOf(await exportMidi(page, 'part', 'written'))).toEqual(expected(60));
  await page.keyboard.press('Control+z');
  expect((await moves(page)).map((m) => m.kind)).toEqual(['swing', 'quantize', 'lay']);
});

test('60 % in odd bars and 70 % in even ones; a scope is taken from the selection or pointed out; moves are reordered and switched', async ({
  page,
}) => {
  const { notes, bytes } = flat();
  await openMidi(page, 'flat.mid', bytes);
  await press(page, 'Add swing');
  await page.getByRole('combobox', { name: 'Division' }).click();
  await page.getByRole('option', { name: '1/8' }).click();
  await setNumber(page, 'Swing in %', 60);
  await page.getByRole('button', { name: /^Scope: /i }).click();
  await page.getByRole('combobox', { name: 'Which bars' }).click();
  await page.getByRole('option', { name: 'odd' }).click();
  await page.keyboard.press('Escape');
  await press(page, 'Duplicate the swing');
  await setNumber(page, 'Swing in %', 70);
  await page.getByRole('button', { name: /^Scope: /i }).click();
  await page.getByRole('combobox', { name: 'Which bars' }).click();
  await page.getByRole('option', { name: 'even' }).click();
  await page.keyboard.press('Escape');
  const hats = async () => notesOf(await exportMidi(page)).filter(([, k]) => k === 42);
  expect(await hats()).toEqual(
    notes
      .filter(([, k]) => k === 42)
      .map(([t, k, v]) => [t * 2 + (t % 480 === 240 ? (Math.floor(t / 1920) % 2 === 0 ? 96 : 192) : 0), k, v]),
  );

  // Pointing: the hat's name and bar 3 on the ruler.
  await page.getByRole('button', { name: /^Scope: /i }).click();
  await press(page, 'Everything');
  await press(page, 'Pick them among the hits');
  await page.getByRole('button', { name: 'Open Closed hat', exact: true }).click();
  const ruler = await page.evaluate(() => {
    window.nodSway!.bench().setView({ scroll: (2 * 4 * 80640) as never });
    return (document.querySelector('[data-testid=stems]') as HTMLElement).getBoundingClientRect().toJSON() as { x: number; y: number };
  });
  await drawn(page);
  await page.mouse.click(ruler.x + 60, ruler.y + 12);
  await press(page, 'Done');
  expect((await moves(page))[1]?.scope).toEqual({ voices: ['hat-closed'], bars: { from: 3, to: 3 } });
  await press(page, 'Move the swing up');
  expect((await moves(page)).map((m) => (m.kind === 'swing' ? m.percent : 0))).toEqual([70, 60]);
  // A press switches; a hold takes the move away for as long.
  const first = page.getByRole('region', { name: 'Swing, move 1' }).getByRole('switch');
  await first.click();
  expect((await moves(page))[0]?.on).toBe(false);
  await first.click();
  expect((await moves(page))[0]?.on).toBeUndefined();
  await first.hover();
  await page.mouse.down();
  await expect.poll(async () => (await moves(page))[0]?.on).toBe(false);
  await page.mouse.up();
  await expect.poll(async () => (await moves(page))[0]?.on).toBeUndefined();
});

test('whole feels: a ready one, one of one’s own kept, exported, deleted and brought in; a bad file says what is wrong', async ({
  page,
}) => {
  await openMidi(page, 'flat.mid', flat().bytes);
  await press(page, 'Save, export or import presets …');
  await press(page, 'Use Quay Shuffle');
  expect((await moves(page)).map((m) => m.kind)).toEqual(['swing', 'accents', 'humanize']);
  await press(page, 'Save, export or import presets …');
  await page.getByLabel('Name for this feel').fill('Second watch');
  await press(page, 'Save this feel');
  const mine = page.getByRole('list', { name: 'Your feels' });
  await expect(mine).toContainText('Second watch');
  const waiting = page.waitForEvent('download');
  await press(page, 'Export Second watch');
  const download = await waiting;
  expect(download.suggestedFilename()).toBe('second-watch.nodfeel.json');
  const text = readFileSync(await download.path(), 'utf8');
  expect(JSON.parse(text)).toMatchObject({
    format: 'nod-sway/feel@3',
    moves: [{ kind: 'swing' }, { kind: 'accents' }, { kind: 'humanize' }],
  });
  // Renamed; Escape leaves the name, and the dialog open.
  await press(page, 'Rename Second watch');
  await page.getByLabel('New name of Second watch').fill('Never');
  await page.keyboard.press('Escape');
  await expect(mine).toContainText('Second watch');
  await press(page, 'Rename Second watch');
  await page.getByLabel('New name of Second watch').fill('Dog watch');
  await page.keyboard.press('Enter');
  await expect(mine).toContainText('Dog watch');
  await expect(mine).not.toContainText('Second watch');
  await press(page, 'Delete Dog watch');
  await expect(mine).toBeHidden();
  await page
    .getByTestId('library-file')
    .setInputFiles({ name: 'third watch.nodfeel.json', mimeType: 'application/json', buffer: Buffer.from(text) });
  await expect(mine).toContainText('third watch');
  await page.getByTestId('library-file').setInputFiles({
    name: 'bad.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"nod-sway/feel@1","moves":[{"kind":"lay","ms":200}]}'),
  });
  await expect(page.getByText('The feel is not valid', { exact: false })).toBeVisible();
  await press(page, 'Use third watch');
  expect((await moves(page)).map((m) => m.kind)).toEqual(['swing', 'accents', 'humanize']);
});

test('the same part and a feel of every kind give the same bytes in the browser and through the API', async ({ page, request }) => {
  const { bytes } = flat();
  await openMidi(page, 'flat.mid', bytes);
  for (const name of [
    'Add quantize',
    'Add swing',
    'Add groove',
    'Add lay back',
    'Add humanize',
    'Add stagger',
    'Add accents',
    'Add timbre',
  ])
    await press(page, name);
  const feel = await page.evaluate(() => window.nodSway!.bench().part.feel);
  expect(feel.moves).toHaveLength(8);
  const out = await exportMidi(page);
  const answer = await request.post('/api/perform', {
    multipart: { midi: { name: 'flat.mid', mimeType: 'audio/midi', buffer: Buffer.from(bytes) }, feel: JSON.stringify(feel) },
  });
  expect(answer.status()).toBe(200);
  expect(notesOf(new Uint8Array(await answer.body()))).toEqual(notesOf(out));
});

test('one visit to a scope is one step; every row but these; a timbre move changes the sound alone', async ({ page }) => {
  await openMidi(page, 'flat.mid', flat().bytes);
  await press(page, 'Add timbre');
  const scope = async () => (await moves(page))[0]?.scope?.voices;
  await page.getByRole('button', { name: /^Scope: /i }).click();
  // All are ticked, since all are meant; ticked anew from none.
  await expect(page.getByRole('checkbox', { name: 'Closed hat', exact: true })).toBeChecked();
  await press(page, 'None');
  for (const row of ['Snare', 'Kick']) await page.getByRole('checkbox', { name: row, exact: true }).check();
  await page.getByRole('button', { name: 'Invert' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toBeHidden();
  expect(await scope()).toEqual(['hat-closed']);
  await expect(page.getByRole('region', { name: 'Timbre, move 1' }).getByTestId('effect')).toHaveText('Changes the sound of 32 hits.');
  await page.keyboard.press('Control+z');
  expect([await scope(), (await moves(page)).length]).toEqual([undefined, 1]);
  expect(notesOf(await exportMidi(page))).toEqual(sorted(flat().notes.map(([t, k, v]): Note => [t * 2, k, v])));
});

test('moves are dragged into another order; what they change in a long part is found by a worker; J rolls again', async ({ page }) => {
  const notes: Note[] = Array.from({ length: 160 * 16 }, (_, i) => [i * 120, 42, 90] as Note);
  await openMidi(page, 'long.mid', midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents(notes, 60)])]));
  await press(page, 'Add humanize');
  await press(page, 'Add lay back');
  const lay = page.getByRole('region', { name: 'Lay back, move 2' });
  await expect(lay.getByTestId('effect')).toHaveText('Moves 2560 hits by 8.0 ms.');
  const seed = async () => (await moves(page)).find((m) => m.kind === 'humanize')?.seed;
  await page.evaluate(() => window.nodSway!.bench().setUi({ openMove: 0 }));
  await page.keyboard.press('j');
  expect(await seed()).toBe(1);
  await page.evaluate(() => window.nodSway!.bench().setUi({ openMove: null }));
  await page.keyboard.press('j');
  expect(await page.evaluate(() => window.nodSway!.bench().part.feel.seed)).toBe(2);

  await lay.hover();
  const grip = lay.getByTitle('Drag to reorder');
  const target = page.getByRole('region', { name: 'Humanize, move 1' });
  await expect(async () => {
    const from = (await grip.boundingBox())!;
    const to = (await target.boundingBox())!;
    await page.mouse.move(from.x + 6, from.y + 6);
    await page.mouse.down();
    await page.mouse.move(from.x + 6, from.y - 14, { steps: 4 });
    await page.mouse.move(to.x + 12, to.y + 8, { steps: 8 });
    await page.mouse.up();
    expect((await moves(page)).map((m) => m.kind)).toEqual(['lay', 'humanize']);
  }).toPass();
  await page.keyboard.press('Control+z');
  expect((await moves(page)).map((m) => m.kind)).toEqual(['humanize', 'lay']);
});

test('a move that changes nothing says so, and what it offers is heard: one step', async ({ page }) => {
  await openMidi(page, 'flat.mid', flat().bytes);
  const card = page.getByRole('region', { name: 'Lay back, move 1' });
  await page.evaluate(() =>
    window.nodSway!.bench().run('Lie on the line', (p) => ({ ...p, feel: { ...p.feel, moves: [{ kind: 'lay', ms: 0 }] } })),
  );
  await expect(card.getByTestId('effect')).toContainText('It changes nothing right now.');
  await card.getByRole('button', { name: 'try 8 ms late' }).click();
  await expect(card.getByTestId('effect')).toContainText(/Moves \d+ hits/i);
  // At 120 BPM 8 ms are 15.36 ticks of 960.
  expect(notesOf(await exportMidi(page))).toEqual(sorted(flat().notes.map(([t, k, v]): Note => [t * 2 + 15, k, v])));
  await page.keyboard.press('Control+z');
  expect((await moves(page))[0]).toMatchObject({ ms: 0 });
  await expect(card.getByTestId('effect')).toContainText('It changes nothing right now.');
});
