'use client';

import { Fault } from '@/ui/ErrorBoundary';
import { ShelfLink } from '@/ui/ShelfLink';

export default function PlaceFault({ error, reset }: { error: Error; reset: () => void }) {
  return (
    <main className="py-12">
      <Fault error={error} what="This place cannot be shown." again={reset}>
        <ShelfLink />
      </Fault>
    </main>
  );
}
