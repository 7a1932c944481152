import { NamedError } from '@/core/errors';
import { addressOf, type OwnBreak } from '@/demo/own-breaks';
import { recordingStore, type RecordingStore } from './recording-store';

/** Fetches the recording of a break that comes along, where it is not kept yet. @throws NamedError no-recording, store-full, store-refused */
export async function keepOwnBreak(of: OwnBreak, store: RecordingStore = recordingStore): Promise<void> {
  if ((await store.ids()).includes(of.sample)) return;
  const response = await fetch(addressOf(of)).catch(() => null);
  if (!response?.ok) throw new NamedError('no-recording');
  await store.keep({ id: of.sample, blob: await response.blob(), name: of.name, seconds: of.seconds, at: Date.now() });
}
