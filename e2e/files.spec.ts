import { expect, test, type Page } from '@playwright/test';
import { violationsInBothThemes } from './axe';
import {
  benchReady,
  bringIn,
  chooseExport,
  drawn,
  exportMidi,
  flatBeat,
  held,
  importMidi,
  meterEvent,
  midiFile,
  noteEvents,
  notesOf,
  openMidi,
  openShelf,
  saved,
  tempoEvent,
  trackChunk,
  type Note,
} from './support';

test('three kinds of bad file say what happened and what to do; nothing is added', async ({ page }) => {
  await openShelf(page);
  const cards = page.getByRole('listitem').filter({ has: page.getByRole('heading') });
  const before = await cards.count();
  await bringIn(page, 'letter.mid', new TextEncoder().encode('Dear all, this is not music.'));
  await expect(page.getByText('letter.mid: This is not a standard MIDI file.')).toBeVisible();
  await expect(page.getByText('Its contents are damaged or of another kind: export it again where it was made.')).toBeVisible();
  await bringIn(page, 'silence.mid', midiFile(0, 96, [trackChunk([tempoEvent(0, 500_000)])]));
  await expect(page.getByText('The MIDI file has no notes.')).toBeVisible();
  await bringIn(page, 'huge.mid', new Uint8Array(8 * 1024 * 1024 + 1));
  await expect(page.getByText('The file is larger than 8 MiB.')).toBeVisible();
  expect(await cards.count()).toBe(before);
  await expect(page).toHaveURL(/\/$/);
});

test('drums that are not on channel 10 are picked from a list', async ({ page }) => {
  await openShelf(page);
  const drums: Note[] = [
    [0, 36, 90],
    [240, 38, 80],
    [480, 36, 70],
  ];
  await bringIn(
    page,
    'odd.mid',
    midiFile(1, 480, [
      trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2)]),
      trackChunk(noteEvents([[0, 60, 90]], 100, 1)),
      trackChunk(noteEvents(drums, 50, 3)),
    ]),
  );
  const dialog = page.getByRole('dialog', { name: 'Where are the drums?' });
  await expect(dialog.getByText('Kick, Snare')).toBeVisible();
  await dialog.getByRole('checkbox', { name: 'Track 3, channel 3, 3 notes' }).click();
  await dialog.getByRole('button', { name: 'Create part' }).click();
  await page.waitForURL(/\/bench\//);
  await benchReady(page);
  expect(notesOf(await exportMidi(page, 'song'), 3)).toEqual(drums.map(([t, k, v]) => [t * 2, k, v]));
});

test('a part that sits behind its grid is offered the lines, and the hits stay', async ({ page }) => {
  const late: Note[] = Array.from({ length: 32 }, (_, i) => [i * 120 + 48, i % 2 ? 42 : 36, 90]);
  await importMidi(
    page,
    'late.mid',
    midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), meterEvent(0, 4, 2), ...noteEvents(late, 30)])]),
  );
  // 48 of 480 ticks at 120 BPM.
  const offer = page.getByTestId('origin-offer');
  await expect(offer).toContainText('50 ms behind');
  await offer.getByRole('button', { name: 'Move the lines' }).click();
  await expect(offer).toBeHidden();
  await expect.poll(() => page.evaluate(() => window.nodSway!.bench().part.origin)).toBe(8064);
  expect(await page.evaluate(() => window.nodSway!.bench().part.hits.every((h) => h.home === h.tick))).toBe(true);
  expect(notesOf(await exportMidi(page))).toEqual(late.map(([t, k, v]) => [t * 2, k, v]));
  // Swing now counts from the moved lines: every second sixteenth comes 48 of 960 late.
  await page.getByRole('button', { name: 'Add swing' }).click();
  await page.getByRole('button', { name: '3:2', exact: true }).click();
  expect(notesOf(await exportMidi(page))).toEqual(late.map(([t, k, v], i) => [t * 2 + (i % 2 ? 48 : 0), k, v]));
});

test('a part file brings everything back, and a damaged one names the field', async ({ page }) => {
  const beat = flatBeat();
  await importMidi(page, 'beat.mid', beat.bytes);
  await page.getByRole('button', { name: 'Add swing' }).click();
  const before = await page.evaluate(() => JSON.stringify(window.nodSway!.bench().part));
  await page.getByRole('button', { name: 'Export', exact: true }).click();
  await chooseExport(page, 'the part with everything');
  const waiting = page.waitForEvent('download');
  await page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true }).click();
  const file = await (await waiting).path();
  const json = (await import('node:fs')).readFileSync(file, 'utf8');

  await openShelf(page);
  await bringIn(page, 'broken.nodsway.json', new TextEncoder().encode(json.replace('"bars":2', '"bars":0')));
  await expect(page.getByText(/The part file is not valid: bars: must be/i)).toBeVisible();
  await bringIn(page, 'copy.nodsway.json', new TextEncoder().encode(json));
  await page.waitForURL(/\/bench\//);
  await benchReady(page);
  expect(JSON.parse(await page.evaluate(() => JSON.stringify(window.nodSway!.bench().part)))).toEqual(JSON.parse(before));
  expect(await page.evaluate(() => window.nodSway!.bench().hasSong)).toBe(true);
});

test('bringing demo parts back never overwrites what a user changed', async ({ page }) => {
  await page.goto('/bench/demo-fog-signal');
  await benchReady(page);
  await page.getByRole('button', { name: 'Add swing' }).click();
  await saved(page);
  await openShelf(page);
  await page.getByRole('heading', { name: 'Low Tide' }).hover();
  await page.getByRole('button', { name: 'Delete Low Tide' }).click();
  await expect(page.getByRole('heading', { name: 'Low Tide' })).toBeHidden();
  await page.getByRole('button', { name: 'Restore missing demo parts' }).click();
  await expect(page.getByText('1 demo part restored.')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Low Tide' })).toBeVisible();
  await page.goto('/bench/demo-fog-signal');
  await benchReady(page);
  expect(await page.evaluate(() => window.nodSway!.bench().part.feel.moves.length)).toBe(1);
});

test('an import is kept as it came, and compared at once', async ({ page }) => {
  await openShelf(page);
  await bringIn(page, 'beat.mid', flatBeat(1).bytes);
  await page.waitForURL(/\/bench\//);
  await benchReady(page);
  await page.getByRole('button', { name: 'Soften the off-beat hats' }).click();
  const softest = () =>
    page.evaluate(() =>
      Math.min(
        ...window
          .nodSway!.scene()!
          .stems.flat()
          .map((s) => window.nodSway!.scene()!.performance.velocities[s.index]!),
      ),
    );
  await drawn(page);
  expect(await softest()).toBe(75);
  await page.keyboard.down('Shift');
  await page.keyboard.down('Q');
  await drawn(page);
  expect([await page.evaluate(() => window.nodSway!.bench().transport.version), await softest()]).toEqual(['other', 100]);
  await held(page);
  await page.keyboard.up('Q');
  await page.keyboard.up('Shift');
  await drawn(page);
  expect([await softest(), await page.evaluate(() => window.nodSway!.bench().ui.other)]).toEqual([75, null]);
});

/** Drops a file on the stems. */
async function dropOnStems(page: Page, name: string, bytes: Uint8Array): Promise<void> {
  const dropped = await page.evaluateHandle(
    ([fileName, data]) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([Uint8Array.from(data)], fileName, { type: 'audio/midi' }));
      return transfer;
    },
    [name, [...bytes]] as const,
  );
  await page.getByTestId('stems').dispatchEvent('dragover', { dataTransfer: dropped });
  await page.getByTestId('stems').dispatchEvent('drop', { dataTransfer: dropped });
}

test('a file that is dropped on a Bench asks where it goes: a part of its own, after the last bar, rows beside', async ({ page }) => {
  await openMidi(page, 'beat.mid', flatBeat(1).bytes);
  const address = page.url();
  const shaker = midiFile(0, 480, [
    trackChunk([
      tempoEvent(0, 600_000),
      ...noteEvents(
        [
          [0, 70, 60],
          [240, 70, 50],
          [960, 38, 80],
        ],
        60,
      ),
    ]),
  ]);
  const shape = () =>
    page.evaluate(() => {
      const { part } = window.nodSway!.bench();
      return {
        bars: part.bars,
        rows: part.rows.map((r) => r.voice),
        hits: part.hits.length,
        sections: part.sections?.map((s) => s.name) ?? [],
      };
    });
  const before = await shape();
  const dialog = page.getByRole('dialog');

  await dropOnStems(page, 'broken.mid', new TextEncoder().encode('MThd'));
  await expect(
    page
      .getByText('The MIDI file', { exact: false })
      .or(page.getByText('This is not a standard MIDI file', { exact: false }))
      .first(),
  ).toBeVisible();
  await expect(dialog).toBeHidden();

  await dropOnStems(page, 'shaker.mid', shaker);
  await expect(dialog).toContainText('It plays at 120 BPM here, not at 100.');
  expect(await violationsInBothThemes(page, '[role=dialog]')).toEqual([]);
  await dialog.getByRole('button', { name: 'Add its rows to this part' }).click();
  const beside = await shape();
  expect([beside.bars, beside.hits, beside.rows.filter((r) => !before.rows.includes(r)).sort()]).toEqual([
    1,
    before.hits + 3,
    ['maracas', 'snare:2'],
  ]);
  await page.keyboard.press('Control+z');

  await dropOnStems(page, 'shaker.mid', shaker);
  await dialog.getByRole('button', { name: 'After the last bar' }).click();
  expect(await shape()).toMatchObject({ bars: 2, hits: before.hits + 3, sections: ['shaker'] });
  const exported = notesOf(await exportMidi(page));
  expect(exported.filter(([, key]) => key === 70)).toEqual([
    [3840, 70, 60],
    [4320, 70, 50],
  ]);
  await page.keyboard.press('Control+z');

  await dropOnStems(page, 'shaker.mid', shaker);
  await dialog.getByRole('button', { name: 'New part' }).click();
  expect(await shape()).toEqual(before);
  expect(page.url()).toBe(address);
  await page.getByRole('button', { name: 'Open it' }).click();
  await page.waitForURL((url) => url.href !== address);
  await benchReady(page);
  // How it came is kept, and stays.
  await page.getByRole('button', { name: 'Versions', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Compare with As imported' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Delete As imported' })).toHaveCount(0);
});
