import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { expect, test, type Page, type TestInfo } from '@playwright/test';
import { zipSync } from 'fflate';
import { strokeLevel } from '../src/core/loudness/k-weighting';
import { drum, wavFile } from '../tests/support/sound-files';
import { chooseExport, heardSecond, midiFile, noteEvents, openMidi, press, saved, tempoEvent, trackChunk, type Note } from './support';

/** Sounds of the user's own: dropped, guessed, corrected, tried, kept, given away; checked by what is heard. */

const RATE = 44_100;

/** One bar with a snare on its first beat alone. */
const oneSnare = (velocity = 100): Uint8Array => {
  const notes: Note[] = [[0, 38, velocity]];
  return midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), ...noteEvents(notes, 60)])]);
};

/** The pitch of a plain tone, from its zero crossings in its first fifth of a second. */
function pitchOf(samples: Float32Array): number {
  let crossings = 0;
  for (let i = 200; i < 200 + RATE / 5; i++) if (samples[i]! < 0 !== samples[i + 1]! < 0) crossings++;
  return (crossings / 2) * 5;
}

async function dropOn(page: Page, selector: string, files: readonly { name: string; bytes: Uint8Array }[]): Promise<void> {
  const transfer = await page.evaluateHandle(
    (list) => {
      const data = new DataTransfer();
      for (const { name, bytes } of list) data.items.add(new File([Uint8Array.from(bytes)], name));
      return data;
    },
    files.map(({ name, bytes }) => ({ name, bytes: [...bytes] })),
  );
  await page.locator(selector).first().dispatchEvent('dragover', { dataTransfer: transfer });
  await page.locator(selector).first().dispatchEvent('drop', { dataTransfer: transfer });
}

const tone = (hz: number, level = 0.8): Uint8Array<ArrayBuffer> => wavFile(RATE / 2, drum(hz, { level, ring: 0.2 }));
const playsOf = (page: Page) => page.evaluate(() => window.nodSway!.bench().part.rows.map((r) => r.plays));

/** Files in a folder of their own, for a field that takes folders. */
function folderOf(info: TestInfo, name: string, files: Readonly<Record<string, Uint8Array>>): string {
  const folder = info.outputPath(name);
  for (const [path, bytes] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    writeFileSync(join(folder, path), bytes);
  }
  return folder;
}

test('an own row with an own sound: dropped on its name, as loud as the kit’s, exported as heard, undone, still there after a reload', async ({
  page,
}) => {
  await openMidi(page, 'one.mid', oneSnare());
  // A row of one's own that is like a snare takes the snare's stroke.
  await press(page, 'Rows');
  await page.getByRole('menuitem', { name: 'Add row …' }).click();
  await page.getByRole('option', { name: 'Row with your own name …' }).click();
  await page.getByRole('textbox', { name: 'Name of the row' }).fill('Tin lid');
  await page.getByRole('combobox', { name: 'What it sounds like' }).click();
  await page.getByRole('option', { name: 'Snare', exact: true }).click();
  await press(page, 'Add the row');
  const own = await page.evaluate(() => {
    const { part, run } = window.nodSway!.bench();
    const row = part.rows.find((r) => r.voice.startsWith('own:'))!.voice;
    run('to the lid', (p) => ({ ...p, rows: p.rows.filter((r) => r.voice === row), hits: p.hits.map((h) => ({ ...h, voice: row })) }));
    return row;
  });
  const kit = await heardSecond(page);
  await dropOn(page, `[data-row-names] [data-row="${own}"]`, [{ name: 'tin 01.wav', bytes: tone(700, 0.05) }]);
  await expect(page.getByText('Tin lid plays tin 01.')).toBeVisible();
  const lid = await heardSecond(page);
  expect(Math.abs(pitchOf(lid) - 700)).toBeLessThan(8);
  // Whatever the file's level: within a decibel of what the kit has here.
  expect(Math.abs(strokeLevel(lid, RATE) - strokeLevel(kit, RATE))).toBeLessThan(1);
  await press(page, 'Export');
  await chooseExport(page, 'the sound');
  const waiting = page.waitForEvent('download');
  await page.getByRole('dialog').getByRole('button', { name: 'Export', exact: true }).click();
  const wav = readFileSync(await (await waiting).path());
  await page.keyboard.press('Escape');
  const exported = Float32Array.from(
    { length: 40_000 },
    (_, i) => ((wav.readInt8(44 + i * 6 + 2) << 16) | wav.readUInt16LE(44 + i * 6)) / 8_388_607,
  );
  expect(Math.abs(pitchOf(exported) * (48_000 / RATE) - 700)).toBeLessThan(8);
  await page.keyboard.press('Control+z');
  expect(await playsOf(page)).toEqual([undefined]);
  await page.keyboard.press('Control+y');
  await saved(page);
  await page.reload();
  await page.waitForFunction(
    () =>
      window.nodSway !== undefined &&
      window.nodSway.engine.ownSounds.sound((window.nodSway.bench().part.rows[0]!.plays as { own: string }).own) !== undefined,
  );
  expect(Math.abs(pitchOf(await heardSecond(page)) - 700)).toBeLessThan(8);
});

test('a folder becomes a kit: guessed, corrected, played by layers; given away as a file, deleted, brought back', async ({
  page,
}, info) => {
  await openMidi(page, 'one.mid', oneSnare(10));
  await page.getByRole('tab', { name: /^Sound/i }).click();
  await page.getByRole('button', { name: 'Your own sounds …' }).click();
  const folder = folderOf(info, 'Boat shed', {
    'Snare/shed v1.wav': tone(300, 0.05),
    'Snare/shed v2.wav': tone(600, 0.2),
    'Snare/shed v3.wav': tone(900, 0.9),
    'Kick/low.wav': tone(70),
    'odd.wav': tone(1500),
    'read me.txt': new TextEncoder().encode('nothing to hear'),
  });
  await page.getByLabel('Folder of sounds').setInputFiles(folder);
  const dialog = page.getByRole('dialog', { name: 'Your own kit' });
  await expect(dialog.getByRole('textbox', { name: 'Name of the kit' })).toHaveValue('Boat shed');
  await expect(dialog.getByText('One other file is not audio.')).toBeVisible();
  await expect(dialog.getByRole('combobox', { name: 'What shed plays' })).toHaveText('Snare');
  await expect(dialog.getByRole('combobox', { name: 'What odd plays' })).toHaveText('nothing: leave it out');
  await dialog.getByRole('combobox', { name: 'What odd plays' }).click();
  await page.getByRole('option', { name: 'Cowbell' }).click();
  // The hardest recording goes in with the middle one.
  await dialog.getByRole('button', { name: 'Layers of shed' }).click();
  await dialog.getByRole('button', { name: 'Into a softer layer: shed v3.wav' }).click();
  await expect(dialog.getByRole('button', { name: 'Layers of shed' })).toHaveAccessibleName('Layers of shed');
  await expect(dialog.getByText('2 layers, 3 takes')).toBeVisible();
  await dialog.getByRole('button', { name: 'Save the kit and use it' }).click();
  await expect(page.getByRole('combobox', { name: 'Kit', exact: true })).toHaveText('Boat shed');
  // A soft stroke plays the soft layer, a hard one another.
  expect(Math.abs(pitchOf(await heardSecond(page)) - 300)).toBeLessThan(8);
  await page.evaluate(() =>
    window.nodSway!.bench().run('louder', (p) => ({ ...p, hits: p.hits.map((h) => ({ ...h, velocity: 120 as typeof h.velocity })) })),
  );
  const hard = pitchOf(await heardSecond(page));
  expect(Math.min(Math.abs(hard - 600), Math.abs(hard - 900))).toBeLessThan(10);

  await page.getByRole('button', { name: 'Your own sounds …' }).click();
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Export Boat shed' }).click();
  const download = await waiting;
  expect(download.suggestedFilename()).toBe('boat-shed.nodkit.zip');
  const zip = new Uint8Array(readFileSync(await download.path()));
  await page.getByRole('button', { name: 'Delete Boat shed' }).click();
  await expect(page.getByRole('list', { name: 'Your kits' })).toBeHidden();
  await page.keyboard.press('Escape');
  await expect(page.getByText('is not in this browser: Wheelhouse plays instead')).toBeVisible();
  expect(Math.abs(pitchOf(await heardSecond(page)) - hard)).toBeGreaterThan(10);
  await dropOn(page, '[data-testid=stems]', [{ name: 'Boat-shed.nodkit.zip', bytes: zip }]);
  await page.getByRole('button', { name: 'Save the kit and use it' }).click();
  await expect(page.getByText('over Wheelhouse')).toBeVisible();
  const again = pitchOf(await heardSecond(page));
  expect(Math.min(Math.abs(again - 600), Math.abs(again - 900))).toBeLessThan(10);
});

test('with a row open two keys try the sounds of its kind from a folder while the loop plays: Escape goes back, Enter keeps', async ({
  page,
}) => {
  await openMidi(page, 'one.mid', oneSnare());
  // A folder of the browser's own stands for one of the disk; asking for it needs a person.
  await page.evaluate(
    async (files) => {
      const root = await navigator.storage.getDirectory();
      const folder = await root.getDirectoryHandle('Crate', { create: true });
      for (const [name, bytes] of files) {
        const file = await (await folder.getFileHandle(name, { create: true })).createWritable();
        await file.write(Uint8Array.from(bytes));
        await file.close();
      }
      Object.assign(window, { showDirectoryPicker: () => Promise.resolve(folder) });
    },
    [
      ['snare tin.wav', [...tone(500)]],
      ['snare lid.wav', [...tone(1100)]],
      ['kick.wav', [...tone(60)]],
    ] as [string, number[]][],
  );
  await page.keyboard.press('Control+k');
  await page.keyboard.type('sample');
  await page.getByRole('option', { name: /^Your own sounds/i }).click();
  await page.getByRole('button', { name: 'Look in another folder …' }).click();
  await expect(page.getByText('3 sound files', { exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.evaluate(() => window.nodSway!.bench().setFocus('snare'));
  // One back from the kit's own is the last of the folder.
  await page.keyboard.press('b');
  await expect(page.getByText('Snare: snare tin, 6 of 6.')).toBeVisible();
  expect(Math.abs(pitchOf(await heardSecond(page)) - 500)).toBeLessThan(8);
  await page.keyboard.press('b');
  await expect(page.getByText('Snare: snare lid, 5 of 6.')).toBeVisible();
  expect(Math.abs(pitchOf(await heardSecond(page)) - 1100)).toBeLessThan(10);
  await page.keyboard.press('Escape');
  await expect.poll(() => playsOf(page)).toEqual([undefined]);
  await page.keyboard.press('y');
  await expect(page.getByText('Snare: Dry Dock, 2 of 6.')).toBeVisible();
  await page.keyboard.press('b');
  await page.keyboard.press('b');
  await expect(page.getByText('Snare: snare tin, 6 of 6.')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect.poll(() => playsOf(page)).toEqual([{ own: expect.any(String), name: 'snare tin' }]);
  await expect.poll(() => page.evaluate(() => window.nodSway!.bench().underway)).toBeNull();
  await saved(page);
  await page.reload();
  await page.waitForFunction(
    () =>
      window.nodSway !== undefined &&
      window.nodSway.engine.ownSounds.sound((window.nodSway.bench().part.rows[0]!.plays as { own: string }).own) !== undefined,
  );
  expect(Math.abs(pitchOf(await heardSecond(page)) - 500)).toBeLessThan(8);
});

test('what is no sound, or too much, is said by name, and nothing of it is kept', async ({ page }) => {
  await openMidi(page, 'one.mid', oneSnare());
  const row = '[data-row-names] [data-row=snare]';
  const refused = async (name: string, bytes: Uint8Array, words: RegExp) => {
    await dropOn(page, row, [{ name, bytes }]);
    await expect(page.getByText(words).first()).toBeVisible();
    expect(await playsOf(page)).toEqual([undefined]);
  };
  await refused('notes.txt', new TextEncoder().encode('no sound at all'), /notes\.txt: This is not a sound that can be read/);
  await refused(
    'none.wav',
    wavFile(0, () => 0),
    /none\.wav: This is not a sound/,
  );
  await refused(
    'mute.wav',
    wavFile(4000, () => 0),
    /mute\.wav: This file is silent/,
  );
  await refused('up.zip', zipSync({ '../up.wav': tone(200) }), /points outside it/);
  await refused('twice.zip', zipSync({ 'a.wav': tone(200), 'A.wav': tone(300) }), /is in it twice/);
  await refused(
    'list.nodkit.zip',
    zipSync({
      'manifest.json': new TextEncoder().encode(
        JSON.stringify({
          format: 'nod-sway/kit@2',
          id: 'k',
          name: 'K',
          sounds: [{ id: 's', name: 'S', voice: 'snare', layers: [{ upTo: 127, takes: [{ file: 'audio/x.wav', name: 'x', level: -9 }] }] }],
        }),
      ),
    }),
    /it names audio\/x\.wav, which is not in it/,
  );
  // Read as far as it goes, and said so, before anything is kept.
  await dropOn(page, row, [
    { name: 'cut.wav', bytes: wavFile(RATE / 4, drum(300), { cut: 2000 }) },
    { name: 'six.wav', bytes: wavFile(RATE / 4, drum(310), { channels: 6 }) },
    { name: 'fast.wav', bytes: wavFile(192_000 / 4, drum(320, { rate: 192_000 }), { rate: 192_000, bits: '32f' }) },
    { name: 'broken.wav', bytes: new Uint8Array(40) },
  ]);
  const dialog = page.getByRole('dialog', { name: 'A sound for Snare' });
  await expect(dialog.getByText('cut.wav: the file ends early.')).toBeVisible();
  await expect(dialog.getByText('six.wav: 6 channels: the first two.')).toBeVisible();
  await expect(dialog.getByText('broken.wav: This is not a sound that can be read.')).toBeVisible();
  await expect(dialog.getByText(/3 takes/i)).toBeVisible();
  await dialog.getByRole('button', { name: 'Cancel' }).click();
  await expect(dialog).toBeHidden();
  const kept = await page.evaluate(
    () =>
      new Promise<number>((done) => {
        const open = indexedDB.open('nod-sway');
        open.onsuccess = () => {
          const count = open.result.transaction('samples').objectStore('samples').count();
          count.onsuccess = () => done(count.result);
        };
      }),
  );
  expect(kept).toBe(0);
});
