'use client';

import dynamic from 'next/dynamic';
import { Tabs } from 'radix-ui';
import type { Page } from '../store/bench-store';
import { useBench, useBenchStore } from '../store/context';
import { FeelPage } from './FeelPage';

// Pages come when they are first opened.
const BarsPage = dynamic(() => import('./bars/BarsPage').then((m) => m.BarsPage), { ssr: false });
const HitsPage = dynamic(() => import('./hits/HitsPage').then((m) => m.HitsPage), { ssr: false });

const TakesPage = dynamic(() => import('./takes/TakesPage').then((m) => m.TakesPage), { ssr: false });

const tab = 'border-b-2 border-transparent px-1 pt-2 pb-1.5 text-faint data-[state=active]:border-accent data-[state=active]:text-ink';
const page = 'min-h-0 flex-1 overflow-auto px-5 py-4';

/** The selection on one page, bars and meter on the next, then the feel, then recording. */
export function SidePanel() {
  const selected = useBench((s) => s.selection.size);
  const open = useBench((s) => s.desk.page);
  const { getState } = useBenchStore();
  return (
    <aside className="flex contain-content w-[312px] shrink-0 flex-col border-l border-line bg-surface" aria-label="Side panel">
      <Tabs.Root value={open} onValueChange={(p) => getState().setDesk({ page: p as Page })} className="flex min-h-0 flex-1 flex-col">
        <Tabs.List className="flex gap-5 border-b border-line px-5" aria-label="Pages">
          <Tabs.Trigger value="hits" className={tab}>
            Hits{selected > 0 && <span className="ml-1 text-accent">{selected}</span>}
          </Tabs.Trigger>
          <Tabs.Trigger value="bars" className={tab}>
            Bars
          </Tabs.Trigger>
          <Tabs.Trigger value="feel" className={tab}>
            Feel
          </Tabs.Trigger>
          <Tabs.Trigger value="takes" className={tab}>
            Takes
          </Tabs.Trigger>
        </Tabs.List>
        <Tabs.Content value="hits" className={page}>
          <HitsPage />
        </Tabs.Content>
        <Tabs.Content value="bars" className={page}>
          <BarsPage />
        </Tabs.Content>
        <Tabs.Content value="feel" className={page}>
          <FeelPage />
        </Tabs.Content>
        <Tabs.Content value="takes" className={page}>
          <TakesPage />
        </Tabs.Content>
      </Tabs.Root>
    </aside>
  );
}
