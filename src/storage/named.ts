import { NamedError } from '@/core/errors';

/** Gives the store's refusals the names that the interface explains. */
export async function named<T>(work: () => PromiseLike<T>): Promise<T> {
  try {
    return await work();
  } catch (e) {
    if (e instanceof NamedError) throw e;
    const inner = (e as { inner?: { name?: string } }).inner?.name ?? (e as { name?: string }).name ?? '';
    if (/Quota/.test(inner)) throw new NamedError('store-full');
    throw new NamedError('store-refused', { cause: String(e) });
  }
}
