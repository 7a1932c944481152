import { BenchPlace } from '@/bench/components/BenchPlace';

export default async function BenchPage({ params }: { params: Promise<{ partId: string }> }) {
  const { partId } = await params;
  return <BenchPlace partId={decodeURIComponent(partId)} />;
}
