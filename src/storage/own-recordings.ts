import { NamedError } from '@/core/errors';
import type { SampleId } from '@/core/model/own-sound';
import { addressOf, OWN_BREAKS, type OwnBreak } from '@/demo/own-breaks';
import { recordingStore, type RecordingStore } from './recording-store';

/**
 * Fetches the recording of a break that comes along, where it is not kept yet.
 * @throws NamedError no-recording, store-full, store-refused
 */
export async function keepOwnBreak(of: OwnBreak, store: RecordingStore = recordingStore): Promise<void> {
  if ((await store.ids()).includes(of.sample)) return;
  const response = await fetch(addressOf(of)).catch(() => null);
  if (!response?.ok) throw new NamedError('no-recording');
  await store.keep({ id: of.sample, blob: await response.blob(), name: of.name, seconds: of.seconds, at: Date.now() });
}

/** Fetches those of these recordings that come along and are not kept yet. @throws NamedError no-recording, store-full, store-refused */
export async function keepOurs(samples: readonly SampleId[], store: RecordingStore = recordingStore): Promise<void> {
  for (const of of OWN_BREAKS) if (samples.includes(of.sample)) await keepOwnBreak(of, store);
}
