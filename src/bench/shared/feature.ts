import type { ComponentType } from 'react';
import type { Part } from '@/core/model/part';
import type { KeySpec } from './key-spec';
import type { Playback } from '../playback/use-playback';
import type { BenchState, BenchStore } from '../store/bench-store';
import type { StemsOverlay } from '../stems/drawing/draw-frame';

/** A page of the side panel. A feature brings it. */
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

/** What of the Bench is shown to a component that a feature brings. */
export interface FeatureProps {
  playback: Playback;
}

/** A component that stands over or under the stems while it has something to show. */
export interface StripSpec {
  id: string;
  where: 'above' | 'below';
  Strip: ComponentType<FeatureProps>;
}

/** An entry at the end of a menu. `row` and `bar` say what was clicked, where the menu belongs to one. */
export interface MenuEntry {
  text: string;
  run: (store: BenchStore, clicked: { row?: string; bar?: number }) => void;
  isOffered?: (part: Part) => boolean;
}

/**
 * A tool of the Bench with all that belongs to it. The Bench knows nothing of it but this: it renders what is listed, leads keys and
 * dropped files there, and keeps edits. A feature imports no other feature; what two share lies in core, editing, ui or bench/shared.
 */
export interface BenchFeature {
  id: string;
  pages?: readonly PageSpec[];
  /** By the id under which `setUi({ dialog })` opens it. Each comes when it is first opened. */
  dialogs?: Readonly<Record<string, ComponentType<FeatureProps>>>;
  strips?: readonly StripSpec[];
  overlays?: readonly StemsOverlay[];
  /** Shortcuts; those of features come after the Bench's own. */
  keys?: readonly KeySpec[];
  /** Takes a dropped file. @returns false where it is none of its own: the next feature, and last the Bench, is asked */
  drop?: (store: BenchStore, file: File) => boolean;
  menus?: { hits?: readonly MenuEntry[]; rows?: readonly MenuEntry[]; bars?: readonly MenuEntry[] };
}
