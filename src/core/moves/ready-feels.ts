import { EMPTY_FEEL, type Feel, type Move } from '../model/feel';
import { allRowsOf } from '../row-names';
import { DEFAULT_MOVES } from './all';

/** A feel to start from, explained in a sentence. */
export interface ReadyFeel {
  name: string;
  about: string;
  feel: Feel;
}

const ready = (name: string, about: string, ...moves: Move[]): ReadyFeel => ({ name, about, feel: { ...EMPTY_FEEL, moves } });

const HATS = ['hat-closed', 'hat-open', 'hat-pedal', 'ride'].map(allRowsOf);
const BACKBEAT = ['snare', 'clap', 'rim'].map(allRowsOf);
const { swing, lay, apart, accents } = DEFAULT_MOVES;
// Made before moves started otherwise: they keep their numbers.
const quantize = { ...DEFAULT_MOVES.quantize, strength: 0.65, outer: 0.6 };
const humanize = { ...DEFAULT_MOVES.humanize, memory: 0.7 };

/** Eight feels of our own, each made of numbers that can be read off its moves. */
export const READY_FEELS: readonly ReadyFeel[] = [
  ready(
    'Steady Watch',
    'Almost straight: a player who keeps excellent time and hardly thinks about it.',
    { ...humanize, timingMs: 3, velocityPercent: 5 },
    { ...apart, ms: 4 },
  ),
  ready(
    'Late Ferry',
    'The backbeat lies 11 ms back, hats breathe loud and soft, all else holds still.',
    { ...lay, ms: 11, scope: { voices: BACKBEAT } },
    { ...accents, grid: '1/8', levels: [1.08, 0.84], scope: { voices: HATS } },
    { ...humanize, timingMs: 3.5, velocityPercent: 6 },
  ),
  ready(
    'Eager Mate',
    'Hats and ride push 7 ms ahead and the snare stays: it wants to get there.',
    { ...lay, ms: -7, scope: { voices: HATS } },
    { ...accents, grid: '1/16', levels: [1.1, 0.86, 0.98, 0.86], scope: { voices: HATS } },
    { ...humanize, timingMs: 3, velocityPercent: 5 },
  ),
  ready(
    'Keel Roll',
    'Sixteenths at 4:3, the kick a little early under them.',
    { ...swing, percent: 57.14 },
    { ...lay, ms: -4, scope: { voices: [allRowsOf('kick')] } },
    { ...humanize, timingMs: 4, velocityPercent: 7 },
  ),
  ready(
    'Quay Shuffle',
    'Eighths as triplets, the second of each pair softer.',
    { ...swing, division: '1/8', percent: 66.67 },
    { ...accents, grid: '1/8', levels: [1.05, 0.8], scope: { voices: HATS } },
    { ...humanize, timingMs: 4, velocityPercent: 7 },
  ),
  ready(
    'Slack Water',
    'Loose and wandering: time breathes over whole bars, and what falls together is broken up.',
    { ...humanize, timingMs: 10, velocityPercent: 11, memory: 0.9, anchor: 0.4 },
    { ...apart, ms: 9 },
  ),
  ready(
    'Spare Line',
    'For sloppy takes: pulled most of the way to sixteenths, small leans kept, a little life put back.',
    { ...quantize, strength: 0.7, innerMs: 4 },
    { ...humanize, timingMs: 2.5, velocityPercent: 3 },
  ),
  ready(
    'Both Oars',
    'Lead hand louder, the other softer, nothing quite together: dynamics alone make it human.',
    { ...accents, grid: '1/16', levels: [1.12, 0.8, 1, 0.8], contrast: 1.1, jitter: 5 },
    { ...apart, ms: 7 },
  ),
];
