import { barOfHome } from '../homes/homes';
import { doubtfulFlags } from '../perform/doubtful';
import { leanOf, type Performance } from '../perform/perform';
import { meterMapOf } from '../part/part-time';
import type { Hit, HitId, Part } from '../model/part';
import { lockTest } from '../part/locks';
import { nearestLine, stepOf, type GridName } from '../time/grid';
import { ticks } from '../units';
import type { VoiceName } from '../row-names';

/** A rule that picks hits. Places are the homes, so that a hit played early still counts as the beat it belongs to. */
export type Rule =
  | { kind: 'all' }
  | { kind: 'row'; voice: VoiceName }
  /** 0-based, without `to`. */
  | { kind: 'bars'; from: number; to: number }
  | { kind: 'on-beats' }
  /** Halfway between two beats; in a beat of three units, its last. */
  | { kind: 'off-beats' }
  /** Steps from the bar line, modulo `of`. */
  | { kind: 'positions'; grid: GridName; of: number; at: readonly number[] }
  /** Every n-th hit of each row, of those that the rule works on; the `first`-th (1-based) to begin with. */
  | { kind: 'every'; n: number; first: number }
  | { kind: 'ghosts' }
  | { kind: 'velocities'; low: number; high: number }
  /** Pan, pitch or brightness from `low` to `high`; hits without one count as 0. */
  | { kind: 'timbre'; of: 'pan' | 'pitch' | 'brightness'; low: number; high: number }
  | { kind: 'pitched' }
  | { kind: 'panned'; side: 'left' | 'right' }
  /** Leaning by more than so many ms. */
  | { kind: 'early'; ms: number }
  | { kind: 'late'; ms: number }
  | { kind: 'doubtful' }
  | { kind: 'locked' }
  /** The places in the bar that some hits have, in every bar, for their own voices. */
  | { kind: 'same-place'; ids: ReadonlySet<HitId> };

/** What a rule does with the selection that is there. */
export type Combining = 'replace' | 'add' | 'subtract' | 'narrow';

type Picker = (hit: Hit, index: number) => boolean;

/**
 * The hits that a rule picks. `performance` tells where they are heard.
 * @param among what the rule works on; all hits without it. "Every second" of a selection counts the selection, not the row
 */
export function hitsByRule(part: Part, performance: Performance, rule: Rule, among?: ReadonlySet<HitId>): Set<HitId> {
  const picks = pickerOf(part, performance, rule);
  const ids = new Set<HitId>();
  part.hits.forEach((hit, i) => {
    if ((!among || among.has(hit.id)) && picks(hit, i)) ids.add(hit.id);
  });
  return ids;
}

/** The selection after a rule: what narrows it or takes from it works on what is selected. */
export function selectByRule(part: Part, performance: Performance, selection: ReadonlySet<HitId>, rule: Rule, how: Combining): Set<HitId> {
  const within = how === 'narrow' || how === 'subtract';
  return combine(selection, hitsByRule(part, performance, rule, within ? selection : undefined), how);
}

function pickerOf(part: Part, performance: Performance, rule: Rule): Picker {
  const map = meterMapOf(part);
  const { homes } = performance;
  const homeOf = (i: number) => ticks(homes.ticks[i] as number);
  switch (rule.kind) {
    case 'all':
      return () => true;
    case 'row':
      return (hit) => hit.voice === rule.voice;
    case 'bars':
      return (_hit, i) => {
        const bar = barOfHome(part, homeOf(i));
        return bar >= rule.from && bar < rule.to;
      };
    case 'on-beats':
      return (_hit, i) => placeInBeat(part, homeOf(i)).place < 1;
    case 'off-beats':
      return (_hit, i) => {
        const { place, offBeat } = placeInBeat(part, homeOf(i));
        return Math.abs(place - offBeat) < 1;
      };
    case 'positions': {
      const step = stepOf(rule.grid);
      const at = new Set(rule.at);
      return (_hit, i) => {
        const line = nearestLine(map, homeOf(i), step);
        return Math.abs(line.tick - homeOf(i)) < 1 && at.has(line.step % rule.of);
      };
    }
    case 'every': {
      const counts = new Map<VoiceName, number>();
      return (hit) => {
        const n = (counts.get(hit.voice) ?? 0) + 1;
        counts.set(hit.voice, n);
        return n >= rule.first && (n - rule.first) % rule.n === 0;
      };
    }
    case 'ghosts':
      return (hit) => hit.ghost === true;
    case 'velocities':
      return (hit) => hit.velocity >= rule.low && hit.velocity <= rule.high;
    case 'timbre':
      return ({ [rule.of]: value = 0 }) => value >= rule.low && value <= rule.high;
    case 'pitched':
      return ({ pitch = 0 }) => pitch !== 0;
    case 'panned':
      return ({ pan = 0 }) => (rule.side === 'left' ? pan < 0 : pan > 0);
    case 'early':
      return (_hit, i) => leanOf(part, performance, i) < -rule.ms;
    case 'late':
      return (_hit, i) => leanOf(part, performance, i) > rule.ms;
    case 'doubtful': {
      const flags = doubtfulFlags(part);
      return (_hit, i) => flags[i] === 1;
    }
    case 'locked': {
      const isLocked = lockTest(part);
      return (hit) => isLocked(hit);
    }
    case 'same-place': {
      const keyOf = (hit: Hit, i: number): string => {
        const bar = map.barAt(homeOf(i));
        return `${hit.voice}@${homeOf(i) - bar.start}`;
      };
      const places = new Set<string>();
      part.hits.forEach((hit, i) => {
        if (rule.ids.has(hit.id)) places.add(keyOf(hit, i));
      });
      return (hit, i) => places.has(keyOf(hit, i));
    }
  }
}

/** A home's place within its beat, in ticks, and where that beat's off-beat is. */
function placeInBeat(part: Part, home: ReturnType<typeof ticks>): { place: number; offBeat: number } {
  const map = meterMapOf(part);
  const bar = map.barAt(home);
  const beat = map.beatAt(bar, home);
  return { place: home - beat.start, offBeat: offBeatOf(beat.length, bar.meter.denominator) };
}

/** Where the off-beat of a beat lies, in ticks from its start: halfway, or on the last of three units. */
export function offBeatOf(beatLength: number, denominator: number): number {
  const unit = stepOf('1/4') * (4 / denominator);
  const units = Math.round(beatLength / unit);
  return units % 2 === 1 && units > 1 ? (units - 1) * unit : beatLength / 2;
}

/** Joins what a rule found with the selection. @example combine(new Set(['a']), new Set(['b']), 'add') // a, b */
export function combine(selection: ReadonlySet<HitId>, found: ReadonlySet<HitId>, how: Combining): Set<HitId> {
  switch (how) {
    case 'replace':
      return new Set(found);
    case 'add':
      return new Set([...selection, ...found]);
    case 'subtract':
      return new Set([...selection].filter((id) => !found.has(id)));
    case 'narrow':
      return new Set([...selection].filter((id) => found.has(id)));
  }
}
