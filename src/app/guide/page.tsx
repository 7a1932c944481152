import type { Metadata } from 'next';
import { GuidePlace } from '@/guide/GuidePlace';

export const dynamic = 'force-static';
export const metadata: Metadata = { title: 'Guide' };

export default function GuidePage() {
  return <GuidePlace />;
}
