import { labelOfRow } from '@/core/part/rows';
import type { Hit, Part } from '@/core/model/part';
import { causesOf, type Cause } from '@/core/perform/causes';
import { soundText } from '../words/articulation';
import { leanText, placeText } from '../words/describe';
import { MOVE_WORDS } from '../words/move-words';
import type { BenchStore } from '../store/bench-store';
import type { BenchScene } from './geometry/scene';
import type { Stem } from './geometry/stems';

/** What is told of a hit under the pointer. */
export interface Tip {
  title: string;
  velocity: string;
  lean: string;
  /** Pan, pitch and brightness, how open the hat was and where the pad was struck; empty where it has none. */
  sound: string;
  side: 'early' | 'late' | 'line';
}

let known: { part: Part; index: number; version: string; tip: Tip } | null = null;

/** A hit's row and place, how loud it is written and heard, and where its lean comes from. */
export function tipOf(store: BenchStore, scene: BenchScene, { index, lean }: Stem): Tip {
  const { part, transport } = store.getState();
  if (known?.part === part && known.index === index && known.version === transport.version) return known.tip;
  const hit = part.hits[index] as Hit;
  const heard = scene.performance.velocities[index] as number;
  const causes = transport.version === 'performed' ? causesOf(part, index) : [];
  const why = causes.filter((c) => Math.round(Math.abs(c.ms) * 10) > 0).map((c) => causeText(part, c));
  const tip: Tip = {
    title: `${labelOfRow(part, hit.voice)}${hit.ghost ? ' ghost' : ''}, ${placeText(part, scene.performance.homes.ticks[index] as number)}${hit.muted ? ', muted' : ''}${hit.locked ? ', locked' : ''}`,
    velocity: heard === hit.velocity ? `velocity ${heard}` : `velocity ${hit.velocity} written, ${heard} heard`,
    lean: `${leanText(lean)}${why.length > 0 ? `: ${why.join(', ')}` : ''}`,
    sound: soundText(hit),
    side: lean <= -2 ? 'early' : lean >= 2 ? 'late' : 'line',
  };
  known = { part, index, version: transport.version, tip };
  return tip;
}

/** @example causeText(part, { of: 0, ms: 11, velocity: 0 }) // '11 lay back' */
function causeText(part: Part, { of, ms }: Cause): string {
  const size = Math.abs(ms) < 10 ? Number(ms.toFixed(1)) : Math.round(ms);
  if (of === 'written') return `${size} as written`;
  if (of === 'hand') return `${size} by hand`;
  const kind = part.feel.moves[of]?.kind;
  return `${size} ${kind ? MOVE_WORDS[kind].toLowerCase() : ''}`;
}
