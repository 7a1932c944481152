import { GroovesOfAddress } from '@/grooves/GroovesOfAddress';

export default function GroovesPage() {
  return <GroovesOfAddress />;
}
