'use client';

import { Tabs } from 'radix-ui';
import { ErrorBoundary, Fault } from '@/ui/ErrorBoundary';
import { useBench, useBenchStore } from '../store/context';
import type { PageSpec } from '../pages/all';

const tab = 'border-b-2 border-transparent px-1 pt-2 pb-1.5 text-faint data-[state=active]:border-accent data-[state=active]:text-ink';
const page = 'min-h-0 flex-1 overflow-auto px-5 py-4';

/** The pages that it is given, one open at a time; a fault of one leaves the others and the stems. */
export function SidePanel({ pages }: { pages: readonly PageSpec[] }) {
  const open = useBench((s) => s.desk.page);
  const { getState } = useBenchStore();
  return (
    <aside className="flex contain-content w-[312px] shrink-0 flex-col border-l border-line bg-surface" aria-label="Side panel">
      <Tabs.Root value={open} onValueChange={(p) => getState().setDesk({ page: p })} className="flex min-h-0 flex-1 flex-col">
        <Tabs.List className="flex gap-5 border-b border-line px-5" aria-label="Pages">
          {pages.map((spec) => (
            <Tabs.Trigger key={spec.id} value={spec.id} className={tab}>
              {spec.title}
              {spec.badge && <Badge count={spec.badge} />}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        {pages.map(({ id, title, Page }) => (
          <Tabs.Content key={id} value={id} className={page}>
            <ErrorBoundary fallback={(error, again) => <Fault error={error} what={`The page ${title} cannot be shown.`} again={again} />}>
              <Page />
            </ErrorBoundary>
          </Tabs.Content>
        ))}
      </Tabs.Root>
    </aside>
  );
}

function Badge({ count }: { count: NonNullable<PageSpec['badge']> }) {
  const n = useBench(count);
  return n > 0 ? <span className="ml-1 text-accent">{n}</span> : null;
}
