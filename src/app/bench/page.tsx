import { BenchOfAddress } from '@/bench/BenchOfAddress';

export default function BenchPage() {
  return <BenchOfAddress />;
}
