import { Button } from '@/ui/Button';
import { useBenchStore } from '../../store/context';

/** Keeps what is tried out, or puts it back. */
export function TrialButtons({ keep }: { keep: string }) {
  const { getState } = useBenchStore();
  return (
    <>
      <Button size="small" look="strong" onClick={() => getState().settle()}>
        {keep}
      </Button>
      <Button size="small" onClick={() => getState().putBack()}>
        Cancel
      </Button>
    </>
  );
}
