import type { Page } from '@playwright/test';

/** A port whose messages the test sends with `strikeMidi`. */
export async function fakePort(page: Page): Promise<void> {
  await page.addInitScript(() => {
    const port = Object.assign(new EventTarget(), {
      id: 'p1',
      name: 'Deck pads',
      type: 'input',
      state: 'connected',
      open: () => Promise.resolve(),
    });
    const access = Object.assign(new EventTarget(), { inputs: new Map([['p1', port]]), outputs: new Map() });
    Object.defineProperty(navigator, 'requestMIDIAccess', { value: () => Promise.resolve(access) });
    (window as unknown as { strikeMidi: unknown }).strikeMidi = (bytes: number[], at: number) => {
      const event = new Event('midimessage');
      Object.defineProperty(event, 'data', { value: Uint8Array.from(bytes) });
      Object.defineProperty(event, 'timeStamp', { value: at });
      port.dispatchEvent(event);
    };
  });
}

/** Messages with the time at which each was struck: seconds from the first downbeat, or now. */
export const midi = (page: Page, messages: readonly (readonly [bytes: readonly number[], after: number | null])[]) =>
  page.evaluate((all) => {
    const { engine } = window.nodSway!;
    for (const [bytes, after] of all)
      (window as unknown as { strikeMidi: (bytes: number[], at: number) => void }).strikeMidi(
        [...bytes],
        after === null ? performance.now() : engine.pageTimeOf((engine.startedAt! + after) as never),
      );
  }, messages);
