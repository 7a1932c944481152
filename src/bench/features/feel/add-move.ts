import { addMove } from '@/core/commands/moves';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { firstMove } from '@/core/feel/move-spec';
import { MOST_MOVES } from '@/core/model/feel';
import type { Groove } from '@/core/model/groove';
import { say } from '@/ui/notify';
import type { BenchStore } from '../../store/bench-store';
import type { MoveView } from './moves/move-view';

/** Adds a move behind the others of the feel, and opens it on its page. */
export function addMoveOf(store: BenchStore, { spec, word }: MoveView) {
  const { transport, part, run, setUi } = store.getState();
  if (part.feel.moves.length >= MOST_MOVES) return say(`A feel has at most ${MOST_MOVES} moves.`);
  run(`Add ${word.toLowerCase()}`, (p) =>
    addMove(p, firstMove(spec, p, { loopBars: transport.toBar - transport.fromBar, groove: HOUSE_GROOVES[0] as Groove })),
  );
  setUi({ page: 'feel', openMove: store.getState().part.feel.moves.length - 1 });
}
