import { NamedError } from '@/core/errors';
import type { SampleId } from '@/core/model/own-sound';
import { sha256 } from '@/workers/sha256';

/** A recording that is what its name says. @throws NamedError bad-library */
export async function verified(id: SampleId, blob: Blob): Promise<Blob> {
  const found = await sha256(new Uint8Array(await blob.arrayBuffer()));
  if (found !== id)
    throw new NamedError('bad-library', { id, found }, 'The library file is not valid: a recording in it is not what its name says.');
  return new Blob([blob], { type: 'audio/wav' });
}
