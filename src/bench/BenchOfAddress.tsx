'use client';

import { usePathname } from 'next/navigation';
import { useInBrowser } from '@/ui/use-in-browser';
import { BenchPlace, Opening } from './BenchPlace';

/** The Bench of the part that the address names: one static page serves them all. */
export function BenchOfAddress() {
  return useInBrowser() ? <Named /> : <Opening />;
}

function Named() {
  const id = decodeURIComponent(usePathname().replace(/^\/bench\/?/, ''));
  return <BenchPlace key={id} partId={id} />;
}
