import { gridTimes, timesLength, type Times } from '@/core/commands/both-lengths';
import type { GridName } from '@/core/time/grid';
import { showError } from '@/ui/notify';
import type { BenchStore } from '../store/bench-store';

/** Counts the part at twice or half the tempo; the grid for placing goes along, so that nothing looks otherwise than it did. */
export function countAt({ getState }: BenchStore, times: Times): void {
  try {
    const next = timesLength(getState().part, times);
    const { transport, setTransport, view, setView } = getState();
    getState().run(times === 2 ? 'Double tempo, same sound' : 'Halve tempo, same sound', () => next);
    const bar = (n: number): number => Math.round(n * times);
    const grid = gridBeside(view.grid, times);
    if (grid) setView({ grid });
    setTransport({
      fromBar: Math.min(bar(transport.fromBar), next.bars - 1),
      toBar: Math.max(1, Math.min(bar(transport.toBar), next.bars)),
    });
  } catch (e) {
    showError(e);
  }
}

/** The grid for placing, where there is one so much longer or shorter. */
function gridBeside(grid: GridName, times: Times): GridName | null {
  try {
    return gridTimes(grid, times);
  } catch {
    return null;
  }
}
