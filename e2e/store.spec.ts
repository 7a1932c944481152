import { expect, test, type Page } from '@playwright/test';
import { benchReady, clickStem, exportMidi, flatBeat, importMidi, notesOf, openDemo, openShelf, saved, stemOf } from './support';

/** The browser's store is forbidden, silent, refusing, or changed by another tab: said, and nothing lost. */

const softer = async (page: Page) => {
  await clickStem(page, await stemOf(page, 'snare', 0));
  await page.keyboard.press('ArrowDown');
};
const snare = (page: Page) => page.evaluate(() => window.nodSway!.bench().part.hits.find((h) => h.voice === 'snare')!.velocity);
/** Edits are refused as by a full disk until window.roomAgain is set. */
const refuseEdits = (page: Page) =>
  page.evaluate(() => {
    const { add } = IDBObjectStore.prototype;
    IDBObjectStore.prototype.add = function (...args) {
      if (this.name === 'edits' && !('roomAgain' in window)) throw new DOMException('no room', 'QuotaExceededError');
      return add.apply(this, args);
    };
  });

test('a forbidden store: all works in memory, says so, and can be exported', async ({ page }) => {
  await page.addInitScript(() => {
    IDBFactory.prototype.open = () => {
      throw new DOMException('forbidden', 'SecurityError');
    };
    // A library that was here before and cannot be opened now is not lost.
    localStorage.setItem('nod-sway:library', JSON.stringify({ parts: [['reel', 'Reel']], others: {} }));
  });
  const beat = flatBeat(1);
  await openShelf(page);
  await expect(page.getByTestId('store-notice')).toContainText('Your work is lost when you close this tab');
  await importMidi(page, 'beat.mid', beat.bytes);
  await expect(page.getByTestId('store-notice')).toContainText('Your work is lost when you close this tab');
  await page.getByRole('button', { name: 'Dismiss' }).click();
  await softer(page);
  await expect(page.getByTestId('save-state')).toHaveText('kept in this tab only');
  expect(notesOf(await exportMidi(page)).find(([, k]) => k === 38)![2]).toBe(99);
  // Still there on the shelf, as long as the tab is.
  await page.getByRole('link', { name: 'Back to the Shelf' }).click();
  await page.getByRole('heading', { name: 'beat' }).click();
  await benchReady(page);
  expect(await snare(page)).toBe(99);
});

test('a store that never answers says so after five seconds', async ({ page }) => {
  await page.clock.install();
  await page.addInitScript(() => {
    IDBFactory.prototype.open = () => {
      Object.assign(window, { askedAt: Date.now() });
      return {} as IDBOpenDBRequest;
    };
  });
  await page.goto('/');
  await expect(page.getByRole('heading', { name: 'Nod Sway' })).toBeVisible();
  await page.waitForFunction(() => 'askedAt' in window);
  await page.clock.fastForward(3000);
  // The clock goes on by itself, too: on a slow machine the five seconds may be over by now.
  const { since, said } = await page.evaluate(() => ({
    since: Date.now() - (window as unknown as { askedAt: number }).askedAt,
    said: document.querySelector('[data-testid=store-notice]') !== null,
  }));
  if (since < 5000) expect(said).toBe(false);
  await page.clock.fastForward(6000);
  await expect(page.getByTestId('store-notice')).toContainText('does not respond');
});

test('a part taken off the shelf in another tab: heard at once, and kept as a new part', async ({ page, context }) => {
  await importMidi(page, 'beat.mid', flatBeat(1).bytes);
  const first = page.url();
  const other = await context.newPage();
  await openShelf(other);
  await other.getByRole('button', { name: 'Delete beat' }).click();
  const trouble = page.getByTestId('save-trouble');
  await expect(trouble).toContainText('deleted in another tab');
  await softer(page);
  // Put back, it is what it was, and what was done meanwhile is saved.
  await trouble.getByRole('button', { name: 'Put it back' }).click();
  await saved(page);
  await expect(trouble).toBeHidden();
  expect(page.url()).toBe(first);
  await expect(other.getByRole('heading', { name: 'beat', exact: true })).toBeVisible();
  await other.getByRole('button', { name: 'Delete beat' }).click();
  await expect(trouble).toContainText('deleted in another tab');
  await trouble.getByRole('button', { name: 'Keep it as a new part' }).click();
  await page.waitForURL((url) => url.href !== first && url.pathname.startsWith('/bench/'));
  await benchReady(page);
  await saved(page);
  expect(await snare(page)).toBe(99);
});

test('leaving with edits that are not saved asks; they wait on the shelf and go on where they stopped', async ({ page }) => {
  await importMidi(page, 'beat.mid', flatBeat(1).bytes);
  await refuseEdits(page);
  await softer(page);
  await expect(page.getByTestId('save-state')).toHaveText('not saved');
  const asked = page.waitForEvent('dialog');
  const closing = page.close({ runBeforeUnload: true });
  const dialog = await asked;
  expect(dialog.type()).toBe('beforeunload');
  await dialog.dismiss();
  await closing;
  await page.getByRole('link', { name: 'Back to the Shelf' }).click();
  const waiting = page.getByTestId('unsaved-part');
  await expect(waiting).toContainText('beat has edits that are not saved');
  const file = page.waitForEvent('download');
  await waiting.getByRole('button', { name: 'Save a part file' }).click();
  expect((await file).suggestedFilename()).toBe('beat.nodsway.json');
  await waiting.getByRole('button', { name: 'Open it' }).click();
  await benchReady(page);
  expect(await snare(page)).toBe(99);
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByTestId('save-trouble')).toBeVisible();
  // As soon as there is room it is saved by itself.
  await page.evaluate(() => Object.assign(window, { roomAgain: true }));
  await saved(page);
  await page.reload();
  await benchReady(page);
  expect(await snare(page)).toBe(99);
});

test('a history that cannot be read yet leaves the part open, and is there as soon as it can be read', async ({ page }) => {
  await importMidi(page, 'beat.mid', flatBeat(1).bytes);
  await softer(page);
  await saved(page);
  await page.addInitScript(() => {
    const { getAll } = IDBObjectStore.prototype;
    IDBObjectStore.prototype.getAll = function (...args) {
      // The history alone: what opens the part reads the edits behind its body, of which this part has one.
      if (this.name === 'edits' && window.nodSway && !('readAgain' in window)) throw new DOMException('lost', 'InvalidStateError');
      return getAll.apply(this, args);
    };
  });
  await page.reload();
  await benchReady(page);
  await softer(page);
  await saved(page);
  expect(await snare(page)).toBe(98);
  await page.evaluate(() => Object.assign(window, { readAgain: true }));
  await page.waitForFunction(() => window.nodSway!.bench().history.undo.length === 2);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect(await snare(page)).toBe(100);
});

test('an edit in the grooves place that is refused is not lost, nor are those after it', async ({ page }) => {
  await page.goto('/grooves?part=demo-net-menders');
  await expect(page.getByRole('combobox', { name: 'Heard on' })).toContainText('Net Menders');
  await refuseEdits(page);
  await page
    .getByRole('button', { name: /^Use .* on all rows$/i })
    .first()
    .click();
  await expect(page.getByTestId('save-trouble')).toContainText('no room left');
  await page.evaluate(() => Object.assign(window, { roomAgain: true }));
  await expect(page.getByTestId('save-trouble')).toBeHidden();
  await page.goto('/bench/demo-net-menders');
  await benchReady(page);
  expect(await page.evaluate(() => window.nodSway!.bench().part.feel.moves.map((m) => m.kind))).toContain('groove');
});

test('a banner moves no stem, and one of our files goes where it belongs wherever it is dropped', async ({ page }) => {
  await openDemo(page, 'Galley Brushes');
  const box = () => page.getByTestId('stems').boundingBox();
  const before = await box();
  await page.evaluate(() => window.nodSway!.bench().run('mute all', (p) => ({ ...p, rows: p.rows.map((r) => ({ ...r, muted: true })) })));
  await page.keyboard.press('Space');
  await expect(page.getByTestId('silence')).toBeVisible();
  expect(await box()).toEqual(before);
  await openShelf(page);
  const feel = { format: 'nod-sway/feel@1', seed: 1, sway: 1, moves: [] };
  await page
    .getByTestId('file-input')
    .setInputFiles({ name: 'late watch.nodfeel.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify(feel)) });
  await expect(page.getByText('late watch is a feel: it is among yours now.')).toBeVisible();
});

test('a browser that throws its data away: what is open is written back, what is gone is named, and no demos are laid over it', async ({
  page,
  context,
}) => {
  await importMidi(page, 'beat.mid', flatBeat(1).bytes);
  await softer(page);
  await saved(page);
  await page.waitForFunction(() => localStorage.getItem('nod-sway:library')?.includes('beat'));
  // Of the other parts this tab has read nothing then.
  await page.reload();
  await benchReady(page);
  // As Chromium does where a write fails on a full disk.
  const session = await context.newCDPSession(page);
  await session.send('Storage.clearDataForOrigin', { origin: new URL(page.url()).origin, storageTypes: 'indexeddb' });
  await softer(page);
  await saved(page);
  await expect(page.getByTestId('store-notice')).toContainText('These parts can no longer be read:');
  await page.reload();
  await benchReady(page);
  expect(await snare(page)).toBe(98);
  // Its song came along: the other tracks can still be exported.
  expect(await exportMidi(page, 'song')).toBeDefined();
  await page.getByRole('link', { name: 'Back to the Shelf' }).click();
  const lost = page.getByTestId('library-lost');
  await expect(lost).toContainText('Gangway Strut');
  await expect(lost).not.toContainText('beat');
  await expect(page.getByRole('heading', { level: 2 })).toHaveText(['beat']);
  await lost.getByRole('button', { name: 'Add the demo parts' }).click();
  await expect(page.getByRole('heading', { name: 'Gangway Strut' })).toBeVisible();
  await expect(lost).toBeHidden();
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Gangway Strut' })).toBeVisible();
  await expect(lost).toBeHidden();
});

test('a library that is gone at the start is named before anything is laid over it', async ({ page, context }) => {
  await importMidi(page, 'beat.mid', flatBeat(1).bytes);
  await saved(page);
  await page.waitForFunction(() => localStorage.getItem('nod-sway:library')?.includes('beat'));
  await page.goto('about:blank');
  const session = await context.newCDPSession(page);
  await session.send('Storage.clearDataForOrigin', { origin: 'http://127.0.0.1:3210', storageTypes: 'indexeddb' });
  await page.goto('/');
  const lost = page.getByTestId('library-lost');
  await expect(lost).toContainText('beat');
  await expect(page.getByText('The Shelf is empty.')).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Gangway Strut' })).toBeHidden();
  await page.reload();
  await expect(lost).toContainText('beat');
  await lost.getByRole('button', { name: 'Dismiss' }).click();
  await expect(lost).toBeHidden();
});

test('a library whose database is thrown away alone comes back from the second copy, to the last edit', async ({ page }) => {
  await importMidi(page, 'beat.mid', flatBeat(1).bytes);
  await softer(page);
  await saved(page);
  const before = await snare(page);
  // A page of the same origin that keeps nothing open.
  await page.goto('/icon.svg');
  await page.evaluate(
    () =>
      new Promise<void>((done, failed) => {
        const gone = indexedDB.deleteDatabase('nod-sway');
        gone.onsuccess = () => done();
        gone.onerror = gone.onblocked = () => failed(new Error('not deleted'));
      }),
  );
  await page.goto('/');
  const notice = page.getByTestId('store-notice');
  await expect(notice).toContainText('are back from the second copy.');
  await expect(page.getByTestId('library-lost')).toBeHidden();
  await notice.getByRole('button', { name: 'Dismiss' }).click();
  await expect(notice).toBeHidden();
  await page.getByRole('link', { name: 'beat' }).click();
  await benchReady(page);
  expect(await snare(page)).toBe(before);
  expect(await exportMidi(page, 'song')).toBeDefined();
});

test('edits that wait for a choice between two tabs outlive the tab, and the choice is offered again', async ({ page, context }) => {
  await importMidi(page, 'beat.mid', flatBeat(1).bytes);
  const other = await context.newPage();
  await other.goto(page.url());
  await benchReady(other);
  // Both edit at once: this tab hears of the other's edit while its own is under way.
  await page.evaluate(() => window.nodSway!.bench().open('hold', 'drag'));
  await softer(other);
  await saved(other);
  await page.evaluate(() =>
    window
      .nodSway!.bench()
      .run('Soften', (p) => ({ ...p, hits: p.hits.map((h) => (h.voice === 'snare' ? { ...h, velocity: 55 as typeof h.velocity } : h)) })),
  );
  await expect(page.getByTestId('save-trouble')).toContainText('changed in another tab');
  await page.evaluate(() =>
    window.nodSway!.bench().run('Soften more', (p) => ({
      ...p,
      hits: p.hits.map((h) => (h.voice === 'snare' ? { ...h, velocity: 44 as typeof h.velocity } : h)),
    })),
  );
  await expect
    .poll(() =>
      page.evaluate(async () => {
        const db = await new Promise<IDBDatabase>((done) => {
          const request = indexedDB.open('nod-sway');
          request.onsuccess = () => done(request.result);
        });
        const rows = await new Promise<{ unchosen?: { steps: string[] } }[]>((done) => {
          const request = db.transaction('versions').objectStore('versions').getAll();
          request.onsuccess = () => done(request.result as { unchosen?: { steps: string[] } }[]);
        });
        db.close();
        return rows.map((row) => row.unchosen?.steps.length);
      }),
    )
    .toContain(2);
  await page.close();
  await other.reload();
  await benchReady(other);
  const left = other.getByTestId('left-over');
  await left.getByRole('button', { name: 'See both' }).click();
  await expect(other.getByTestId('both-differ')).toContainText('softer');
  await other.getByRole('button', { name: 'Use the closed tab’s version' }).click();
  await expect(left).toBeHidden();
  expect(await snare(other)).toBe(44);
  await saved(other);
  await other.reload();
  await benchReady(other);
  expect(await snare(other)).toBe(44);
  await expect(left).toBeHidden();
});
