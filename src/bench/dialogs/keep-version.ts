import { versionStore } from '@/storage/version-store';
import { say, showError } from '@/ui/notify';
import type { BenchStore } from '../store/bench-store';

/** Keeps the part as it stands, under the next number, without asking. */
export async function keepVersion({ getState }: BenchStore): Promise<void> {
  const { id, part } = getState();
  try {
    const taken = new Set((await versionStore.list(id)).map((v) => v.name));
    let n = taken.size + 1;
    while (taken.has(`Version ${n}`)) n++;
    await versionStore.keep(id, { name: `Version ${n}`, part });
    say(`Version ${n} is kept.`);
  } catch (e) {
    showError(e);
  }
}
