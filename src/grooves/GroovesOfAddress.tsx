'use client';

import { useSearchParams } from 'next/navigation';
import { ErrorBoundary, Fault } from '@/ui/ErrorBoundary';
import { ShelfLink } from '@/ui/ShelfLink';
import { useInBrowser } from '@/ui/use-in-browser';
import { GroovesPlace } from './GroovesPlace';

/** The Grooves with the part and the groove that the address names. */
export function GroovesOfAddress() {
  return useInBrowser() ? <Named /> : null;
}

function Named() {
  const search = useSearchParams();
  return (
    <ErrorBoundary
      fallback={(error, again) => (
        <Fault error={error} what="The grooves cannot be shown." again={again}>
          <ShelfLink />
        </Fault>
      )}
    >
      <GroovesPlace partId={search.get('part') ?? undefined} grooveId={search.get('groove') ?? undefined} />
    </ErrorBoundary>
  );
}
