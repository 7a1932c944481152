import type { VoiceName } from '../voices';
import type { Hit } from './part';

const cache = new WeakMap<readonly Hit[], Map<VoiceName, number[]>>();

/** Indices of each voice's hits in written order; made once a list of hits. */
export function indicesByVoice(hits: readonly Hit[]): Map<VoiceName, number[]> {
  let found = cache.get(hits);
  if (found) return found;
  found = new Map();
  for (let i = 0; i < hits.length; i++) {
    const voice = (hits[i] as Hit).voice;
    const list = found.get(voice);
    if (list) list.push(i);
    else found.set(voice, [i]);
  }
  cache.set(hits, found);
  return found;
}
