import { say } from '@/ui/notify';
import type { BenchStore } from '../store/bench-store';

/** Nothing has to be saved by hand; who asks is told when it last was. */
export function saySaved(store: BenchStore) {
  const { save, savedAt } = store.getState();
  if (save.kind === 'saved') {
    if (savedAt === null) return say('Everything is saved in this browser; nothing was changed since it was opened.');
    void import('date-fns').then(({ format }) => say(`Saved at ${format(savedAt, 'HH:mm:ss')}, in this browser.`));
  }
  if (save.kind === 'saving') say('Saving …');
  if (save.kind === 'failed') say(`Not saved: ${save.error.message} ${save.error.remedy}`);
}
