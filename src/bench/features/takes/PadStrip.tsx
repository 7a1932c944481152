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
/** Where a pad that is struck by a key would be struck. */
const PLAIN_HEIGHT = (PLAIN - SOFT) / (HARD - SOFT);

/** Pads on the screen in two banks, one wide strip a voice: struck higher they are louder. Computer keys strike them too. */
export default function PadStrip() {
  const keysPlay = useRecorded((s) => s.keysPlay);
  const levelsOf = useRecorded((s) => s.levelsOf);
  useKeys(keysPlay);
  return levelsOf === null ? (
    <section aria-label="Pads" className="grid grid-cols-2 gap-4 border-t border-line bg-surface px-4 py-2">
      {PAD_BANKS.map((bank) => (
        <div key={bank.name} role="group" aria-label={bank.name} className="grid grid-cols-3 gap-1.5">
          {bank.pads.map((pad) => (
            <RowPad key={pad.voice} pad={pad} letters={keysPlay} />
          ))}
        </div>
      ))}
    </section>
  ) : (
    <section aria-label="Pads" className="grid grid-cols-8 gap-1.5 border-t border-line bg-surface px-4 py-2">
      {LEVELS.map((level, i) => (
        <LevelPad key={level} level={level} row={levelsOf} letter={keysPlay ? LEVEL_CODES[i] : undefined} />
      ))}
    </section>
  );
}

/** One row at sixteen velocities, the loud ones above. */
const LEVELS: readonly number[] = [...Array.from({ length: 8 }, (_, i) => 9 + i), ...Array.from({ length: 8 }, (_, i) => 1 + i)].map((n) =>
  Math.round((127 * n) / 16),
);
/** Two rows of the keyboard. */
const LEVEL_CODES: readonly string[] = [
  'KeyQ',
  'KeyW',
  'KeyE',
  'KeyR',
  'KeyT',
  'KeyY',
  'KeyU',
  'KeyI',
  'KeyA',
  'KeyS',
  'KeyD',
  'KeyF',
  'KeyG',
  'KeyH',
  'KeyJ',
  'KeyK',
];

function LevelPad({ level, row, letter }: { level: number; row: string; letter: string | undefined }) {
  const { getState } = useBenchStore();
  return (
    <PadKey
      keyOf={() => keyOfVoice(getState().part.kitMap, row)}
      name={String(level)}
      letter={letter?.replace('Key', '')}
      velocityOf={() => level}
    />
  );
}

function RowPad({ pad, letters }: { pad: Pad; letters: boolean }) {
  const part = useBench(calmPart);
  const pieces = useRecorded((s) => s.pieces);
  const keyOf = usePadKeys();
  useRecorded((s) => s.firstPiece);
  return (
    <PadKey
      keyOf={() => keyOf(pad)}
      name={wordsOfPiece(part, pieces, keyOf(pad)) ?? labelOfRow(part, pad.voice)}
      letter={letters ? pad.label : undefined}
      velocityOf={(height) => Math.round(SOFT + (HARD - SOFT) * height)}
    />
  );
}

/** @param velocityOf how hard a place of it is, 0 below to 1 above */
function PadKey({
  keyOf,
  name,
  letter,
  velocityOf,
}: {
  keyOf: () => number;
  name: string;
  letter: string | undefined;
  velocityOf: (height: number) => number;
}) {
  const { pads, recorder } = useRecording();
  const key = keyOf();
  // Which stroke lit it: each one flashes anew.
  const struck = useRecorded((s) => (s.struck?.key === key ? s.struck.n : 0));
  const heightOf = (e: PointerEvent<HTMLButtonElement>): number => {
    const box = e.currentTarget.getBoundingClientRect();
    return Math.max(0, Math.min(1, 1 - (e.clientY - box.top) / box.height));
  };
  const strike = (e: PointerEvent<HTMLButtonElement>) => {
    e.currentTarget.setPointerCapture(e.pointerId);
    pads.strike(key, velocityOf(heightOf(e)), e.timeStamp);
  };
  const press = (e: PointerEvent<HTMLButtonElement>) =>
    recorder.state.getState().holdGrid !== null &&
    e.currentTarget.hasPointerCapture(e.pointerId) &&
    pads.press(key, velocityOf(heightOf(e)), e.timeStamp);
  const release = (e: PointerEvent<HTMLButtonElement>) => pads.release(key, e.timeStamp);
  return (
    <button
      type="button"
      onPointerDown={strike}
      onPointerMove={press}
      onPointerUp={release}
      onPointerCancel={release}
      onClick={(e) => e.detail === 0 && pads.strike(key, velocityOf(PLAIN_HEIGHT), e.timeStamp)}
      className="relative flex h-11 touch-none items-center justify-between overflow-hidden rounded-md border border-strong px-2 text-left text-sm select-none hover:bg-sunk"
    >
      {struck > 0 && (
        <span key={struck} className="pointer-events-none absolute inset-0 animate-[fade_220ms_ease-out_forwards] bg-accent/40" />
      )}
      <span className="relative truncate">{name}</span>
      {letter && <kbd className="relative font-sans text-faint">{letter}</kbd>}
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
  const { pads, recorder } = useRecording();
  const { getState } = useBenchStore();
  const keyOf = usePadKeys();
  useEffect(() => {
    if (!on) return;
    const struckBy = (e: KeyboardEvent): { key: number; velocity: number } | null => {
      const { levelsOf } = recorder.state.getState();
      if (levelsOf !== null) {
        const level = LEVELS[LEVEL_CODES.indexOf(e.code)];
        return level === undefined ? null : { key: keyOfVoice(getState().part.kitMap, levelsOf), velocity: level };
      }
      const pad = BY_CODE.get(e.code);
      return pad ? { key: keyOf(pad), velocity: e.shiftKey ? HARD : e.altKey ? SOFT : PLAIN } : null;
    };
    const onKey = (e: KeyboardEvent) => {
      const struck = struckBy(e);
      if (!struck || e.ctrlKey || e.metaKey || (e.target as HTMLElement).closest(TAKES_LETTERS)) return;
      e.preventDefault();
      e.stopImmediatePropagation();
      if (e.type === 'keyup') pads.release(struck.key, e.timeStamp);
      else if (!e.repeat) pads.strike(struck.key, struck.velocity, e.timeStamp);
    };
    window.addEventListener('keydown', onKey, true);
    window.addEventListener('keyup', onKey, true);
    return () => {
      window.removeEventListener('keydown', onKey, true);
      window.removeEventListener('keyup', onKey, true);
    };
  }, [on, pads, keyOf, recorder, getState]);
}
