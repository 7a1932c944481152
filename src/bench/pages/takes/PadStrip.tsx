'use client';

import { useCallback, useEffect, type PointerEvent } from 'react';
import { FIRST_PIECE_KEY } from '@/core/model/break';
import type { Part } from '@/core/model/part';
import { labelOfRow } from '@/core/part/rows';
import { keyOfVoice } from '@/core/key-map';
import { PAD_BANKS, PADS, type Pad } from '@/devices/pads';
import { COVERS } from '@/ui/covered';
import { useRecorded, useRecording } from '../../recording/context';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';

const PLAIN = 96;
const HARD = 122;
const SOFT = 40;

/** Pads on the screen in two banks, one wide strip a voice: struck higher they are louder. Computer keys strike them too. */
export default function PadStrip() {
  const keysPlay = useRecorded((s) => s.keysPlay);
  useKeys(keysPlay);
  return (
    <section aria-label="Pads" className="grid grid-cols-2 gap-4 border-t border-line bg-surface px-4 py-2">
      {PAD_BANKS.map((bank) => (
        <div key={bank.name} role="group" aria-label={bank.name} className="grid grid-cols-3 gap-1.5">
          {bank.pads.map((pad) => (
            <PadKey key={pad.voice} pad={pad} letters={keysPlay} />
          ))}
        </div>
      ))}
    </section>
  );
}

function PadKey({ pad, letters }: { pad: Pad; letters: boolean }) {
  const { pads } = useRecording();
  const part = useBench(calmPart);
  const pieces = useRecorded((s) => s.pieces);
  const keyOf = usePadKeys();
  const key = keyOf(pad);
  useRecorded((s) => s.firstPiece);
  // Which stroke lit it: each one flashes anew.
  const struck = useRecorded((s) => (s.struck?.key === key ? s.struck.n : 0));
  const strike = (e: PointerEvent<HTMLButtonElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const height = Math.max(0, Math.min(1, 1 - (e.clientY - box.top) / box.height));
    pads.strike(key, Math.round(SOFT + (HARD - SOFT) * height), e.timeStamp);
  };
  return (
    <button
      type="button"
      onPointerDown={strike}
      onClick={(e) => e.detail === 0 && pads.strike(key, PLAIN, e.timeStamp)}
      className="relative flex h-11 touch-none items-center justify-between overflow-hidden rounded-md border border-strong px-2 text-left text-sm select-none hover:bg-sunk"
    >
      {struck > 0 && <span key={struck} className="pointer-events-none absolute inset-0 animate-[fade_220ms_ease-out_forwards] bg-accent/40" />}
      <span className="relative truncate">{wordsOfPiece(part, pieces, key) ?? labelOfRow(part, pad.voice)}</span>
      {letters && <kbd className="relative font-sans text-faint">{pad.label}</kbd>}
    </button>
  );
}

/** The key that a pad strikes: that of its voice by the part's key map, or, while pads play a break, of the piece that is its turn. */
function usePadKeys(): (pad: Pad) => number {
  const { getState } = useBenchStore();
  const { recorder } = useRecording();
  return useCallback(
    (pad: Pad) => {
      const { pieces, firstPiece } = recorder.state.getState();
      return pieces === null ? keyOfVoice(getState().part.kitMap, pad.voice) : FIRST_PIECE_KEY + firstPiece + PADS.indexOf(pad);
    },
    [getState, recorder],
  );
}

/** @example '3 snare': the piece that a key plays; null where keys play rows */
function wordsOfPiece(part: Pick<Part, 'breaks'>, pieces: string | null, key: number): string | null {
  const of = part.breaks?.find((b) => b.id === pieces);
  if (!of) return null;
  const piece = of.pieces[key - FIRST_PIECE_KEY];
  return piece ? `${key - FIRST_PIECE_KEY + 1} ${piece.kind}` : '';
}

/** Where letters are letters. */
const TAKES_LETTERS = `input:not([type=checkbox]):not([type=radio]), textarea, ${COVERS}`;

const BY_CODE = new Map(PADS.map((p) => [p.code, p]));

/** While keys play they come here first: as shortcuts they would do other things. Shift is hard, Alt is soft. */
function useKeys(on: boolean): void {
  const { pads } = useRecording();
  const keyOf = usePadKeys();
  useEffect(() => {
    if (!on) return;
    const onKey = (e: KeyboardEvent) => {
      const pad = BY_CODE.get(e.code);
      if (!pad || e.ctrlKey || e.metaKey || (e.target as HTMLElement).closest(TAKES_LETTERS)) return;
      e.preventDefault();
      e.stopImmediatePropagation();
      if (!e.repeat) pads.strike(keyOf(pad), e.shiftKey ? HARD : e.altKey ? SOFT : PLAIN, e.timeStamp);
    };
    window.addEventListener('keydown', onKey, true);
    return () => window.removeEventListener('keydown', onKey, true);
  }, [on, pads, keyOf]);
}
