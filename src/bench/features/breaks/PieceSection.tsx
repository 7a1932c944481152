'use client';

import { useStore } from 'zustand';
import { setPiece } from '@/core/breaks/edit';
import { rowOfKind } from '@/core/breaks/rows';
import { PIECE, type Break } from '@/core/model/break';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { onsetDetectorState } from '../../breaks/onset-detector';
import { usePlaybackOf } from '../../playback/context';
import { useBench, useBenchStore } from '../../store/context';
import { useSweep } from '../../store/use-sweep';

/** Level, pitch and direction of the piece that is looked at: that of the chosen stroke, or of the one selected hit. */
export function PieceSection({ of }: { of: Break }) {
  const { getState } = useBenchStore();
  const playback = usePlaybackOf();
  const chosen = useStore(onsetDetectorState, (s) => s.chosen);
  const ofHit = useBench((s) => {
    if (s.selection.size !== 1) return undefined;
    const [id] = s.selection;
    return s.part.hits.find((h) => h.id === id)?.piece;
  });
  const byStroke = of.pieces.findIndex((p) => p.id === chosen);
  const n = ofHit ?? byStroke;
  const piece = of.pieces[n];
  const sweep = useSweep();
  if (!piece) return <p className="text-sm text-faint">Choose a hit in the picture, or one on its rows.</p>;
  const ends = { onDone: sweep.done, onCancel: sweep.cancel };
  return (
    <div className="leading-8">
      <p className="flex flex-wrap items-baseline gap-2">
        Piece {n + 1} of {of.pieces.length}: {piece.kind}, {((piece.until - piece.from) * 1000).toFixed(0)} ms
        <Button size="tiny" onClick={() => playback.auditionPiece(rowOfKind(of.id, piece.kind), n, piece.velocity)}>
          Hear
        </Button>
      </p>
      <p className="flex flex-wrap items-baseline gap-x-2">
        <NumberField
          label="Level of the slice"
          value={piece.level ?? 0}
          {...PIECE.level}
          digits={1}
          default={0}
          unit="dB"
          className="[&_input]:w-[3.2em]"
          onChange={(level) => sweep.show('Set the level of a slice', (p) => setPiece(p, of.id, n, { level }))}
          {...ends}
        />
        <NumberField
          label="Pitch of the slice"
          value={piece.tune ?? 0}
          {...PIECE.tune}
          digits={2}
          default={0}
          unit="semitones"
          className="[&_input]:w-[3.2em]"
          onChange={(tune) => sweep.show('Tune a slice', (p) => setPiece(p, of.id, n, { tune }))}
          {...ends}
        />
      </p>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={piece.backwards === true}
          onChange={(e) =>
            getState().run(e.target.checked ? 'Reverse a slice' : 'Play a slice forwards', (p) =>
              setPiece(p, of.id, n, { backwards: e.target.checked }),
            )
          }
        />
        backwards
      </label>
    </div>
  );
}
