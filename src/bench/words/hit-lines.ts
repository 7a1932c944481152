import { doubtfulFlags } from '@/core/perform/doubtful';
import { leanOf, type Performance } from '@/core/perform/perform';
import { wordOfOrnament } from '@/core/ornament/all';
import { strokesOfHit } from '@/core/ornament/strokes';
import { labelOfRow } from '@/core/part/rows';
import { lockTest } from '@/core/part/locks';
import type { HitId, Part } from '@/core/model/part';
import { endOfPart, tempoMapOf } from '@/core/part/part-time';
import { readQuality } from '@/core/shaping/qualities';
import { ticks } from '@/core/units';
import { labelOfVoice } from '@/core/voices';
import { chanceText, passesText } from './chance';
import { articulationText } from './articulation';
import { placeText } from './describe';

/** A hit as the table lists it. */
export interface HitLine {
  id: HitId;
  /** Names the line: a hit's strokes have one each. */
  line: string;
  /** 0 for the hit itself. */
  stroke: number;
  index: number;
  row: string;
  tick: number;
  place: string;
  velocity: number;
  heard: number;
  nudge: number;
  lean: number;
  /** In sixteenths. */
  length: number;
  marks: string;
  locked: boolean;
}

/** The lines of the table of hits: one a hit, and one for each further stroke of an ornament. */
export function hitLines(part: Part, performance: Performance): HitLine[] {
  const isLocked = lockTest(part);
  const tempo = tempoMapOf(part);
  const end = endOfPart(part);
  const doubtful = doubtfulFlags(part);
  const labels = new Map(part.rows.map((r) => [r.voice, labelOfRow(part, r.voice)]));
  return part.hits.flatMap((hit, i): HitLine[] => {
    const locked = isLocked(hit);
    const line: HitLine = {
      id: hit.id,
      line: hit.id,
      stroke: 0,
      index: i,
      row: labels.get(hit.voice) ?? hit.voice,
      tick: hit.tick,
      place: placeText(part, performance.homes.ticks[i] as number),
      velocity: hit.velocity,
      heard: performance.velocities[i] as number,
      nudge: hit.nudge?.ms ?? 0,
      lean: leanOf(part, performance, i),
      length: readQuality(hit, 'length'),
      marks: [
        hit.ghost && 'ghost',
        hit.choke && 'choke',
        hit.muted && 'muted',
        locked && 'locked',
        doubtful[i] === 1 && 'uncertain',
        hit.decided && 'line decided',
        hit.ornament && wordOfOrnament(hit.ornament),
        chanceText(hit.chance),
        hit.passes && passesText(hit.passes),
        articulationText(hit),
      ]
        .filter(Boolean)
        .join(', '),
      locked,
    };
    if (!hit.ornament) return [line];
    const strokes = strokesOfHit(part, performance, i);
    const home = ticks(performance.placedHomes[i] as number);
    const others = strokes
      .slice(1)
      .filter((s) => s.tick < end)
      .map((s, k): HitLine => ({
        ...line,
        line: `${hit.id} ${k + 1}`,
        stroke: k + 1,
        row: labels.get(s.voice) ?? labelOfVoice(s.voice),
        tick: s.tick,
        place: `stroke ${k + 2} of ${strokes.length}`,
        heard: s.velocity,
        lean: tempo.between(home, ticks(s.tick)),
        marks: hit.ornament ? wordOfOrnament(hit.ornament) : '',
      }));
    return [line, ...others];
  });
}
