import { homesOf } from '../homes/homes';
import type { VoiceName } from '../row-names';
import { compareVoices } from '../voices';
import type { Hit, HitId, Part } from '../model/part';
import { setNudges } from './hits';

/**
 * Sets hits of different voices that fall on one line apart by hand: the leading voice comes first, the others follow in the
 * kit's order from the top, `ms` from each to the next, the group's middle staying where it was. Their nudges are set, not added to.
 * @example setApart(part, ids, 6, 'snare') // snare 3 ms early, tom 3 ms late
 */
export function setApart(part: Part, ids: ReadonlySet<HitId>, ms: number, leader: VoiceName): Part {
  const homes = homesOf(part);
  const groups = new Map<number, Set<VoiceName>>();
  const homeOf = new Map<HitId, number>();
  part.hits.forEach((hit: Hit, i) => {
    if (!ids.has(hit.id)) return;
    const home = homes.ticks[i] as number;
    homeOf.set(hit.id, home);
    const voices = groups.get(home);
    if (voices) voices.add(hit.voice);
    else groups.set(home, new Set([hit.voice]));
  });
  const together = new Set([...homeOf].filter(([, home]) => (groups.get(home)?.size ?? 0) > 1).map(([id]) => id));
  const orders = new Map(
    [...groups].map(([home, voices]) => [
      home,
      [...voices].sort((a, b) => Number(b === leader) - Number(a === leader) || compareVoices(a, b)),
    ]),
  );
  return setNudges(part, together, (hit) => {
    const order = orders.get(homeOf.get(hit.id) as number) as VoiceName[];
    return (order.indexOf(hit.voice) - (order.length - 1) / 2) * ms;
  });
}

/** The voices among some hits that fall together with another of them. */
export function voicesTogether(part: Part, ids: ReadonlySet<HitId>): VoiceName[] {
  const homes = homesOf(part);
  const at = new Map<number, Set<VoiceName>>();
  part.hits.forEach((hit, i) => {
    if (!ids.has(hit.id)) return;
    const home = homes.ticks[i] as number;
    const voices = at.get(home);
    if (voices) voices.add(hit.voice);
    else at.set(home, new Set([hit.voice]));
  });
  const found = new Set<VoiceName>();
  for (const voices of at.values()) if (voices.size > 1) for (const v of voices) found.add(v);
  return [...found].sort(compareVoices);
}
