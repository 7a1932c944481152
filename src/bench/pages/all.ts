import dynamic from 'next/dynamic';
import type { ComponentType } from 'react';
import type { BenchState } from '../store/bench-store';
import { FeelPage } from './feel/FeelPage';

/** A page of the side panel. To add one, write its component and name it here. */
export interface PageSpec {
  id: string;
  title: string;
  /** A number beside the title; 0 shows none. */
  badge?: (state: BenchState) => number;
  /** Comes when it is first opened, where it is loaded dynamically. */
  Page: ComponentType;
}

/** The selection on one page, bars and meter on the next, then the feel, then recording. */
export const BENCH_PAGES: readonly PageSpec[] = [
  { id: 'hits', title: 'Hits', badge: (s) => s.selection.size, Page: dynamic(() => import('./hits/HitsPage').then((m) => m.HitsPage), { ssr: false }) },
  { id: 'bars', title: 'Bars', Page: dynamic(() => import('./bars/BarsPage').then((m) => m.BarsPage), { ssr: false }) },
  { id: 'feel', title: 'Feel', Page: FeelPage },
  { id: 'takes', title: 'Takes', Page: dynamic(() => import('./takes/TakesPage').then((m) => m.TakesPage), { ssr: false }) },
];
