import { GroovesOfAddress } from '@/grooves/components/GroovesOfAddress';

export default function GroovesPage() {
  return <GroovesOfAddress />;
}
