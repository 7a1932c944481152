import * as Comlink from 'comlink';
import type { WholePart } from '@/core/analysis/whole';
import type { Hit, Part } from '@/core/model/part';
import { whenReady } from './ready';
import type { WholeApi } from './whole.worker';

/** Measures long parts away from the page; of several questions at once only the last is answered. */
export class WholeClient {
  private readonly worker = new Worker(new URL('./whole.worker.ts', import.meta.url), { type: 'module' });
  private readonly ready = whenReady(this.worker);
  private readonly api = Comlink.wrap<WholeApi>(this.worker);
  private sent: readonly Hit[] | null = null;
  private asked: Part | null = null;
  private busy = false;

  constructor(private readonly onAnswer: (part: Part, whole: WholePart) => void) {}

  ask(part: Part): void {
    this.asked = part;
    if (!this.busy) void this.run();
  }

  private async run() {
    this.busy = true;
    await this.ready;
    for (let part = this.asked; part; part = this.asked) {
      this.asked = null;
      if (this.sent !== part.hits) await this.api.setHits(part.hits);
      this.sent = part.hits;
      const { tempo, meter, origin, bars, feel } = part;
      const whole = await this.api.measure({ tempo, meter, origin, bars, feel });
      if (this.asked === null) this.onAnswer(part, whole);
    }
    this.busy = false;
  }

  dispose(): void {
    this.worker.terminate();
  }
}
