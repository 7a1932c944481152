'use client';

import { useSearchParams } from 'next/navigation';
import { useInBrowser } from '@/ui/use-in-browser';
import { GroovesPlace } from './GroovesPlace';

/** The Grooves with the part and the groove that the address names. */
export function GroovesOfAddress() {
  return useInBrowser() ? <Named /> : null;
}

function Named() {
  const search = useSearchParams();
  return <GroovesPlace partId={search.get('part') ?? undefined} grooveId={search.get('groove') ?? undefined} />;
}
