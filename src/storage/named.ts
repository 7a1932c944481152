import { NamedError } from '@/core/errors';
import { isOpened, opened, watched } from './storage-backend';
import { database } from './database';

/** Waits for the store to be open, and gives its refusals the names that the interface explains. */
export async function named<T>(work: () => PromiseLike<T>): Promise<T> {
  if (!isOpened()) await opened(database);
  const answered = watched();
  try {
    const made = await work();
    await database.copy.settled();
    return made;
  } catch (e) {
    if (e instanceof NamedError) throw e;
    const inner = (e as { inner?: { name?: string } }).inner?.name ?? (e as { name?: string }).name ?? '';
    if (/Quota/.test(inner)) throw new NamedError('store-full');
    if (/DatabaseClosed|InvalidState|Unknown|Abort/.test(inner)) {
      // The browser gave its store up: it is opened anew as soon as that can be done.
      database.recovery.whenBack(() => undefined);
      throw new NamedError('store-lost', { cause: String(e) });
    }
    throw new NamedError('store-refused', { cause: String(e) });
  } finally {
    answered();
  }
}
