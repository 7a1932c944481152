'use client';

import { Tabs } from 'radix-ui';
import { FeelPage } from './FeelPage';
import { HitsPage } from './HitsPage';
import { useBench } from '../store/context';

const tab = 'border-b-2 border-transparent px-1 pt-2 pb-1.5 text-faint data-[state=active]:border-accent data-[state=active]:text-ink';

/** The selection on one page, the feel on the other. */
export function SidePanel() {
  const selected = useBench((s) => s.selection.size);
  return (
    <aside className="flex w-[312px] shrink-0 flex-col border-l border-line bg-surface" aria-label="Side panel">
      <Tabs.Root defaultValue="feel" className="flex min-h-0 flex-1 flex-col">
        <Tabs.List className="flex gap-5 border-b border-line px-5" aria-label="Pages">
          <Tabs.Trigger value="hits" className={tab}>
            Hits{selected > 0 && <span className="ml-1 text-accent">{selected}</span>}
          </Tabs.Trigger>
          <Tabs.Trigger value="feel" className={tab}>
            Feel
          </Tabs.Trigger>
        </Tabs.List>
        <Tabs.Content value="hits" className="min-h-0 flex-1 overflow-auto px-5 py-4">
          <HitsPage />
        </Tabs.Content>
        <Tabs.Content value="feel" className="min-h-0 flex-1 overflow-auto px-5 py-4">
          <FeelPage />
        </Tabs.Content>
      </Tabs.Root>
    </aside>
  );
}
