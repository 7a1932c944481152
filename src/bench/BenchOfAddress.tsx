'use client';

import { usePathname } from 'next/navigation';
import { IDEA_MARK } from '@/storage/tables';
import { useInBrowser } from '@/ui/use-in-browser';
import { BenchPlace, Opening } from './BenchPlace';

/** The Bench of the part that the address names: one static page serves them all. */
export function BenchOfAddress() {
  return useInBrowser() ? <Named /> : <Opening />;
}

function Named() {
  const named = decodeURIComponent(usePathname().replace(/^\/bench\/?/, ''));
  // An idea stands beside its part, and is opened there.
  const id = named.split(IDEA_MARK)[0] as string;
  return <BenchPlace key={id} partId={id} />;
}
