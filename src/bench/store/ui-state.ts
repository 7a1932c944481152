import type { Onto } from '@/core/commands/copy';
import type { HitId, Part } from '@/core/model/part';
import type { Ticks } from '@/core/units';
import type { Feel } from '@/core/model/feel';
import { DEFAULT_PAINT, PLAIN_VELOCITY, type Paint, type NudgeUnit, type Proposal, type StepCursor, type Tool } from './tools';
import type { FirstStep } from './remembered';

/** The id of what lies over the Bench: a dialog of its own, or one that a feature brings. */
export type Dialog = string;

/** What is compared with: another feel over these hits, or a whole version of the part. */
export interface Other {
  name: string;
  feel: Feel;
  /** The version's number in the store. */
  id?: string;
  part?: Part;
  /** It is heard as loud as what it is compared with, whatever is chosen. */
  equal?: boolean;
}

/** Bars of the part as they might be: edited by themselves, beside it. */
export interface Idea {
  id: string;
  /** A to P. */
  letter: string;
  /** How many bars it was copied from. */
  bars: number;
  part: Part;
}

/** Hits of one problem on a page, as a conflict of hands or two hits that compete. */
export interface PageFinding {
  ids: readonly HitId[];
  tick: Ticks;
  /** Said when it is selected. */
  text: string;
  /** Shows it elsewhere too. */
  show?: () => void;
}

/** What is chosen for working, apart from the part: it is not undone and not kept. */
export interface UiState {
  tool: Tool;
  paint: Paint;
  /** The step cursor, where keys work. */
  step: StepCursor | null;
  proposal: Proposal | null;
  nudgeUnit: NudgeUnit;
  /** Velocity of hits placed one by one: by a click, or at the step cursor. */
  velocity: number;
  /** What copies do on steps that have a hit already. */
  onto: Onto;
  /** Id of the page of the side panel that is open. */
  page: string;
  /** The sections that are open, by page; a page that was not touched has its own. */
  sections: Readonly<Record<string, readonly string[]>>;
  /** Where the keyboard is led: a page, or a section of one; another number is another time. */
  goTo: { page: string; section: string | null; n: number } | null;
  /** P was pressed: the next letter opens a page. */
  leading: boolean;
  dialog: Dialog | null;
  /** A file that was dropped, of which is asked where it goes. */
  dropped: File | null;
  /** The move whose scope is pointed out. */
  pointing: number | null;
  /** The move that is open on the Feel page. */
  openMove: number | null;
  /** What is compared with, heard while its key is held. */
  other: Other | null;
  /** What is heard so where nothing was chosen: the part as it was imported. */
  imported: Other | null;
  /** Find the readings as soon as the Tempo page opens. */
  countsWanted: boolean;
  /** Other tracks of the song that are heard as tones, by `track.channel`. */
  tracksBeside: readonly string[];
  /** So many bars before the loop are played first, 0 to 8. */
  leadBars: number;
  /** Versions are compared at equal loudness. */
  equalLoudness: boolean;
  /** What the pictures mean stands under the stems. */
  legend: boolean;
  /** First steps on the Feel page, empty until the part was measured; null where they were dismissed or not offered. */
  firstSteps: readonly FirstStep[] | null;
  /** The view follows the playhead. A pointer that edits or moves the view pauses it until the next start. */
  follow: 'on' | 'paused' | 'off';
  /** The picture of a recorded loop stands over the stems. */
  breakShown: boolean;
  /** What the open page found, in order: one key steps through it. Null where no page lists anything. */
  findings: readonly PageFinding[] | null;
  /** Hands and feet are shown under the stems. */
  sticking: boolean;
  /** The table of hits stands under the stems. */
  table: boolean;
  /** The last pointer was a finger. */
  touch: boolean;
}

export const NEW_UI_STATE: UiState = {
  findings: null,
  tool: 'select',
  paint: DEFAULT_PAINT,
  step: null,
  proposal: null,
  nudgeUnit: '1 ms',
  velocity: PLAIN_VELOCITY,
  onto: 'replace',
  page: 'feel',
  sections: {},
  goTo: null,
  leading: false,
  dialog: null,
  dropped: null,
  pointing: null,
  openMove: null,
  other: null,
  imported: null,
  countsWanted: false,
  tracksBeside: [],
  leadBars: 0,
  equalLoudness: true,
  legend: false,
  firstSteps: null,
  follow: 'on',
  breakShown: true,
  sticking: false,
  table: false,
  touch: false,
};
