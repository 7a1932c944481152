import dynamic from 'next/dynamic';
import type { ComponentType } from 'react';
import { FIRST_KIT } from '@/core/model/sound';
import type { BenchState } from '../store/bench-store';
import { FeelPage } from './feel/FeelPage';
import { useTakeCount } from './takes/use-takes';

/** A page of the side panel. To add one, write its component and name it here. */
export interface PageSpec {
  id: string;
  title: string;
  /** The letter of its title that opens it after P. */
  letter: string;
  /** What is done there, in a sentence: behind the page's sign of help, and where pages are searched. */
  about: string;
  /** Words of the trade that lead to it, beside its title. */
  also?: readonly string[];
  /** What stands beside the title in the list of contents. */
  figure?: (state: BenchState) => string;
  /** The same where it is known from elsewhere. */
  useFigure?: () => string;
  /** Its sections that are open at first; which are open is remembered. */
  open?: readonly string[];
  /** Comes when it is first opened, where it is loaded dynamically. */
  Page: ComponentType;
}

const counted = (n: number, word: string): string => (n === 0 ? '' : `${n} ${n === 1 ? word : `${word}s`}`);

/** The selection on one page, bars and meter on the next, then feel and sound, then sections, then recording. */
export const BENCH_PAGES: readonly PageSpec[] = [
  {
    id: 'hits',
    title: 'Hits',
    letter: 'h',
    about:
      'What is selected, and all that can be done to it: velocity, placement by hand, ghosts, ornaments, marks. With nothing selected it touches every hit.',
    also: ['selection', 'velocity', 'dynamics', 'ghost notes', 'flam', 'roll', 'drag', 'echo', 'nudge'],
    figure: (s) => (s.selection.size > 0 ? String(s.selection.size) : ''),
    open: ['dynamics', 'placement'],
    Page: dynamic(() => import('./hits/HitsPage').then((m) => m.HitsPage), { ssr: false }),
  },
  {
    id: 'bars',
    title: 'Bars',
    letter: 'b',
    about: 'How many bars there are and in which order, their meter and lines, the pickup, and rhythm cells to fill them with.',
    also: ['meter', 'length', 'pickup', 'rhythm cells', 'insert bars', 'repeat bars'],
    figure: (s) => String(s.part.bars),
    open: ['order', 'lines', 'cells'],
    Page: dynamic(() => import('./bars/BarsPage').then((m) => m.BarsPage), { ssr: false }),
  },
  {
    id: 'feel',
    title: 'Feel',
    letter: 'f',
    about:
      'Moves make the part human: quantize, swing, grooves, lay back, humanize. They change what is heard, one after the other; the written hits stay as they are.',
    also: ['moves', 'groove'],
    figure: (s) => counted(s.part.feel.moves.length, 'move'),
    Page: FeelPage,
  },
  {
    id: 'sound',
    title: 'Sound',
    letter: 's',
    about:
      'Which kit plays the part, ours or your own, its room and master level, and each row’s sound, level, pan, tuning, ring and how it answers to velocity. With a row open, Y and B try one sound of its kind after another.',
    also: [
      'kit',
      'sample',
      'own sounds',
      'choke group',
      'mix',
      'mixer',
      'volume',
      'level',
      'pan',
      'reverb',
      'room',
      'tuning',
      'velocity response',
      'limiter',
      'meter',
    ],
    figure: (s) => s.part.ownKit?.name ?? s.part.kit ?? FIRST_KIT,
    Page: dynamic(() => import('./sound/SoundPage').then((m) => m.SoundPage), { ssr: false }),
  },
  {
    id: 'breaks',
    title: 'Breaks',
    letter: 'r',
    about:
      'A recorded drum loop under the part: its strokes are found and named, its bars counted, and it is cut into pieces that rows of its own play. All that moves hits moves them. Over the hits stands its picture: hits below the sensitivity line do not count.',
    also: [
      'sample',
      'loop',
      'slices',
      'slice',
      'chop',
      'onset',
      'transient',
      'audio',
      'wav',
      'recording',
      'drum break',
      'sensitivity',
      'repitch',
    ],
    figure: (s) => counted(s.part.breaks?.length ?? 0, 'break'),
    open: [],
    Page: dynamic(() => import('./breaks/BreaksPage').then((m) => m.BreaksPage), { ssr: false }),
  },
  {
    id: 'order',
    title: 'Order',
    letter: 'o',
    about:
      'Sections are bars with a name: called by keys (Shift and a digit) or clicks while the beat plays, each of them saying how it may be left, and put in a running order with rests, levels and how much of the feel.',
    also: ['section', 'sections', 'arrangement', 'arrange', 'song', 'chorus', 'verse', 'scene', 'switch', 'live'],
    figure: (s) => counted(s.part.sections?.length ?? 0, 'section'),
    Page: dynamic(() => import('./order/OrderPage').then((m) => m.OrderPage), { ssr: false }),
  },
  {
    id: 'placement',
    title: 'Placement',
    letter: 'l',
    about:
      'Where each row sits, how tight it is, how much it swings and how hard it is struck, in numbers; what falls together, what competes, which bars are alike. Each finding leads to its hits, and to a mend.',
    also: ['analysis', 'statistics', 'timing', 'report', 'lean', 'spread', 'clash', 'compete', 'swing found', 'blind'],
    open: ['rows', 'between'],
    Page: dynamic(() => import('./placement/PlacementPage').then((m) => m.PlacementPage), { ssr: false }),
  },
  {
    id: 'hands',
    title: 'Hands',
    letter: 'a',
    about:
      'Which hand or foot plays each stroke, by least effort, what nobody can play and why, with mends; and playing it like a person. Machine-made parts may stay as they are: rows can be a machine’s.',
    also: ['sticking', 'playable', 'left', 'right', 'feet', 'limbs', 'drummer'],
    open: [],
    Page: dynamic(() => import('./hands/HandsPage').then((m) => m.HandsPage), { ssr: false }),
  },
  {
    id: 'takes',
    title: 'Takes',
    letter: 't',
    about:
      'Playing in from pads, keys or a MIDI device over the loop; the takes that were recorded; and sending what is heard to other sounds.',
    also: ['record', 'MIDI input', 'pads', 'latency', 'step entry', 'MIDI output'],
    useFigure: () => counted(useTakeCount(), 'take'),
    open: ['takes', 'input'],
    Page: dynamic(() => import('./takes/TakesPage').then((m) => m.TakesPage), { ssr: false }),
  },
];
