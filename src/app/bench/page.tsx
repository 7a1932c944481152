import { BenchOfAddress } from '@/bench/components/BenchOfAddress';

export default function BenchPage() {
  return <BenchOfAddress />;
}
