'use client';

import type { Break } from '@/core/model/break';
import { PADS } from '@/devices/pads';
import { Button } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { useRecorded, useRecording } from '../../recording/context';
import { useBench } from '../../store/context';

const NONE: readonly Break[] = [];

/** What pads and keys strike: the rows, or the pieces of a break in any order, from MIDI key 36 up. */
export function PlayedByPads() {
  const { recorder } = useRecording();
  const breaks = useBench((s) => s.part.breaks) ?? NONE;
  const pieces = useRecorded((s) => s.pieces);
  const first = useRecorded((s) => s.firstPiece);
  const of = breaks.find((b) => b.id === pieces);
  const many = of?.pieces.length ?? 0;
  return (
    <p className="leading-8">
      Pads and keys play{' '}
      <Picker
        label="What pads play"
        value={of?.id ?? 'rows'}
        choices={[
          { value: 'rows', text: 'rows, as the drum map says' },
          ...breaks.map((b) => ({ value: b.id, text: `slices of ${b.name}` })),
        ]}
        onChange={(id) => recorder.set(id === 'rows' ? { pieces: null } : { pieces: id, firstPiece: 0, padsShown: true })}
      />
      {of && (
        <span className="block text-sm text-faint">
          MIDI keys from 36 up; the pads on the screen play {first + 1} to {Math.min(many, first + PADS.length)} of {many}.{' '}
          {many > PADS.length && (
            <Button size="tiny" onClick={() => recorder.set({ firstPiece: first + PADS.length < many ? first + PADS.length : 0 })}>
              The next
            </Button>
          )}
        </span>
      )}
    </p>
  );
}
