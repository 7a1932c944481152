import { GroovesPlace } from '@/grooves/components/GroovesPlace';

export default async function GroovesPage({ searchParams }: { searchParams: Promise<{ part?: string; groove?: string }> }) {
  const { part, groove } = await searchParams;
  return <GroovesPlace partId={part} grooveId={groove} />;
}
