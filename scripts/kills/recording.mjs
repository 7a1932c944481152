// Strokes on the pads while a take is recorded.
import { openBench, tableOf } from './browser.mjs';

const STRIKE = () => {
  let keys = 0;
  const step = () => {
    const { recorder, pads } = window.nodSway.recording();
    const { phase, strokes } = recorder.state.getState();
    if (phase === 'recording') {
      if (document.querySelector('[data-testid=save-state]').textContent.startsWith('saved')) void window.tell(strokes);
      pads.strike([36, 38, 42][keys++ % 3], 60 + (keys % 60), performance.now());
    }
    setTimeout(step, 15 + Math.random() * 90);
  };
  step();
};

export const recording = {
  name: 'strokes in a recording',
  async begin({ page }, address, tell) {
    await openBench(page, address);
    await page.exposeFunction('tell', (strokes) => tell(strokes));
    await page.evaluate(() => window.nodSway.bench().setUi({ page: 'takes' }));
    await page.keyboard.press('Shift+R');
    await page.waitForFunction(() => window.nodSway.recording().recorder.state.getState().phase === 'recording');
  },
  async work({ page }) {
    await page.evaluate(STRIKE);
    await new Promise(() => {});
  },
  async look({ page }, address, claimed = 0) {
    await openBench(page, address);
    const id = address.split('/').at(-1);
    const takes = (await tableOf(page, 'takes')).filter((row) => row.partId === id).sort((a, b) => b.take.recordedAt - a.take.recordedAt);
    const events = takes[0]
      ? (await tableOf(page, 'takeEvents')).filter((row) => row.takeId === takes[0].id).flatMap((row) => row.events)
      : [];
    const strokes = events.filter((e) => e.kind === 'note').length;
    return strokes < claimed ? `${claimed} strokes were called saved, ${strokes} were found` : null;
  },
};
