import type { VoiceName } from '../row-names';
import type { Hit } from '../model/part';

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

const numberCache = new WeakMap<readonly Hit[], { numbers: Uint16Array; count: number }>();

/** A small number for each hit's voice, parallel to the hits, for loops that keep something by voice. */
export function voiceNumbers(hits: readonly Hit[]): { numbers: Uint16Array; count: number } {
  let found = numberCache.get(hits);
  if (found) return found;
  const numbers = new Uint16Array(hits.length);
  let count = 0;
  for (const indices of indicesByVoice(hits).values()) {
    for (const i of indices) numbers[i] = count;
    count++;
  }
  found = { numbers, count };
  numberCache.set(hits, found);
  return found;
}

/** Hands on what is known of a list to another one whose hits have the same voices in the same order. */
export function carryVoices(from: readonly Hit[], to: readonly Hit[]): void {
  const indices = cache.get(from);
  if (indices) cache.set(to, indices);
  const numbers = numberCache.get(from);
  if (numbers) numberCache.set(to, numbers);
}
