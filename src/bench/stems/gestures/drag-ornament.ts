import { changeOrnament } from '@/core/commands/ornaments';
import { lockTest, withoutLocked } from '@/core/part/locks';
import type { Hit } from '@/core/model/part';
import { MOST_GRACES, MOST_REPEATS, MOST_STROKES, ORNAMENT_LIMITS, type Echo, type Flam, type Roll } from '@/core/model/ornament';
import { rollCount, rollLength } from '@/core/ornament/roll';
import { stepOf } from '@/core/time/grid';
import { clamp, ticks } from '@/core/units';
import { describeHits } from '../../words/describe';
import type { OrnamentGrip } from '../geometry/ornaments';
import { dragState } from './drag-state';
import { refused } from './press-stem';
import { DRAG_PIXELS, type Gesture, type Hands, type Pointer } from './types';
import { GRACE_WORDS } from '@/core/ornament/flam';

/** A grip of an ornament is held: on its bracket a drag up and down gives more or fewer strokes; its end has its slope and its length. */
export function pressOrnament(start: Pointer, grip: OrnamentGrip, idle: Gesture): Gesture {
  const pressed: Gesture = {
    name: 'press-ornament',
    move(p, hands) {
      const dx = Math.abs(p.x - start.x);
      const dy = Math.abs(p.y - start.y);
      if (Math.hypot(dx, dy) < DRAG_PIXELS) return pressed;
      const hit = hands.bench().part.hits[grip.mark.index] as Hit;
      if (lockTest(hands.bench().part)(hit)) return refused(idle).move(p, hands);
      return dragOrnament(start, grip, dx > dy, hands, idle).move(p, hands);
    },
    up: () => idle,
    cancel: () => idle,
  };
  return pressed;
}

/** What a drag makes of an ornament: what changes, and how that is said. */
interface Dragged<O> {
  change: Partial<O>;
  text: string;
}

function dragOrnament(start: Pointer, { mark, part: held }: OrnamentGrip, sideways: boolean, hands: Hands, idle: Gesture): Gesture {
  const { part, selection, open } = hands.bench();
  const hit = part.hits[mark.index] as Hit;
  const { ornament } = hit;
  const { ids } = withoutLocked(part, selection);
  if (!ornament) return idle;
  const edit = open(`Change the ${ornament.kind} of ${describeHits(part, ids)}`, 'drag');
  const by = (p: Pointer) => ({ x: (p.x - start.x) * (p.shift ? 0.1 : 1), up: (start.y - p.y) * (p.shift ? 0.1 : 1) });
  const pixels = hands.pixelsPerTick();
  const preview = (p: Pointer, h: Hands) => {
    const moved = by(p);
    if (ornament.kind === 'roll') {
      const { change, text } = held === 'bracket' ? moreStrokes(ornament, rollLength(part, mark.index), moved.up) : sideways ? longer(rollLength(part, mark.index), moved.x / pixels, p.shift, hands) : steeper(ornament, moved.up);
      edit.preview((base) => changeOrnament(base, ids, 'roll', change));
      h.showReadout(text, p);
    } else if (ornament.kind === 'flam') {
      const { change, text } = held === 'bracket' ? moreGraces(ornament, moved.up) : sideways ? wider(ornament, -moved.x) : louderGraces(ornament, moved.up);
      edit.preview((base) => changeOrnament(base, ids, 'flam', change));
      h.showReadout(text, p);
    } else {
      const { change, text } = held === 'bracket' ? moreEchoes(ornament, moved.up) : sideways ? further(ornament, moved.x / pixels) : slowerDecay(ornament, moved.up);
      edit.preview((base) => changeOrnament(base, ids, 'echo', change));
      h.showReadout(text, p);
    }
  };
  return dragState('drag-ornament', idle, edit, preview, (h) => h.auditionHit(hit));
}

/** So many pixels up are one stroke more. */
const PIXELS_A_STROKE = 10;
const L = ORNAMENT_LIMITS;
const percent = (share: number): string => `${Math.round(share * 100)} %`;

function moreStrokes(roll: Roll, length: number, up: number): Dragged<Roll> {
  const strokes = clamp(rollCount(roll, length) + Math.round(up / PIXELS_A_STROKE), 2, MOST_STROKES);
  return { change: { strokes }, text: `${strokes} strokes` };
}

function longer(length: number, by: number, fine: boolean, hands: Hands): Dragged<Roll> {
  const step = stepOf(hands.bench().view.grid) / (fine ? 8 : 1);
  const next = ticks(Math.max(step, Math.round((length + by) / step) * step));
  return { change: { length: next }, text: `${(next / stepOf('1/16')).toFixed(fine ? 2 : 0)} sixteenths long` };
}

function steeper(roll: Roll, up: number): Dragged<Roll> {
  const to = clamp(Math.round((roll.to + up / 60) * 100) / 100, ...L.to);
  return { change: { to }, text: `to ${percent(to)}` };
}

function moreGraces(flam: Flam, up: number): Dragged<Flam> {
  const strokes = clamp(flam.strokes + Math.round(up / PIXELS_A_STROKE), 1, MOST_GRACES);
  return { change: { strokes }, text: `${GRACE_WORDS[strokes - 1] ?? ''}: ${strokes} grace ${strokes === 1 ? 'stroke' : 'strokes'}` };
}

function wider(flam: Flam, by: number): Dragged<Flam> {
  const spacingMs = clamp(Math.round(flam.spacingMs + by / flam.strokes), ...L.spacingMs);
  return { change: { spacingMs }, text: `${spacingMs} ms apart` };
}

function louderGraces(flam: Flam, up: number): Dragged<Flam> {
  const level = clamp(Math.round((flam.level + up / 80) * 100) / 100, ...L.level);
  return { change: { level }, text: `at ${percent(level)}` };
}

function moreEchoes(echo: Echo, up: number): Dragged<Echo> {
  const repeats = clamp(echo.repeats + Math.round(up / PIXELS_A_STROKE), 1, MOST_REPEATS);
  return { change: { repeats }, text: `${repeats} ${repeats === 1 ? 'repeat' : 'repeats'}` };
}

function further(echo: Echo, by: number): Dragged<Echo> {
  const steps = clamp(Math.round(echo.steps + by / echo.repeats / stepOf(echo.grid)), ...L.steps);
  return { change: { steps }, text: `every ${steps} of ${echo.grid}` };
}

function slowerDecay(echo: Echo, up: number): Dragged<Echo> {
  const decay = clamp(Math.round((echo.decay + up / 120) * 100) / 100, ...L.decay);
  return { change: { decay }, text: `each at ${percent(decay)}` };
}
