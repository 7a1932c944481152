import { EMPTY_FEEL } from '../model/feel';
import type { Groove } from '../model/groove';
import { homesOf } from '../homes/homes';
import type { Part } from '../model/part';
import { indicesByVoice } from '../part/by-voice';
import { mean } from '../statistics';
import { ticks, velocity } from '../units';

/**
 * A part as a groove alone would play it: its hits on their lines at the mean velocity of their rows, nothing done by hand, and no other
 * move. What it measures can stand beside what the part itself does.
 * @example placementOf(playedByGroove(part, groove)).rows[0].leanMs
 */
export function playedByGroove(part: Part, groove: Groove): Part {
  const homes = homesOf(part);
  const level = new Map(
    [...indicesByVoice(part.hits)].map(([voice, indices]) => [
      voice,
      velocity(Math.round(mean(indices.map((i) => part.hits[i]?.velocity ?? 0)))),
    ]),
  );
  return {
    ...part,
    hits: part.hits.map(({ nudge: _nudge, alone: _alone, ...hit }, i) => {
      // Pinned, for on its line a beat may read as another grid than it did before.
      const home = ticks(homes.ticks[i] ?? hit.tick);
      return { ...hit, tick: home, home, velocity: level.get(hit.voice) ?? hit.velocity };
    }),
    feel: { ...EMPTY_FEEL, moves: [{ kind: 'groove', groove, lean: 1, level: 1 }] },
  };
}
