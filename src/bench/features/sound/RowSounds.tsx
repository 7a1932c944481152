'use client';

import { ChevronDown, ChevronUp } from 'lucide-react';
import { memo, useEffect, useRef } from 'react';
import { useShallow } from 'zustand/shallow';
import { setRowSound } from '@/core/commands/sound';
import { setRow } from '@/core/commands/settings';
import type { Row } from '@/core/model/part';
import { ROW_SOUND, type RowSound } from '@/core/model/sound';
import { labelOfRow } from '@/core/part/rows';
import { restOfRow, rowMixOf, type RowMix } from '@/core/playback/row-mix';
import { useOwnSounds } from '@/sounds/use-own';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { useBench, useBenchStore } from '../../store/context';
import { useSweep } from '../../store/use-sweep';
import { RowPlays } from './RowPlays';
import { ResponsePicture } from './ResponsePicture';
import { rowSoundWords } from './row-sound-words';

/** Each row in a line of words; the open row's are edited in place. */
export function RowSounds() {
  const { getState } = useBenchStore();
  const rows = useBench((s) => s.part.rows);
  const focus = useBench((s) => s.focus);
  return (
    <ul aria-label="Rows" className="divide-y divide-line border-y border-line">
      {rows.map((row) => (
        <li key={row.voice} data-row={row.voice} className="py-1.5">
          <RowLine row={row} open={focus === row.voice} onToggle={() => getState().setFocus(focus === row.voice ? null : row.voice)} />
        </li>
      ))}
    </ul>
  );
}

const RowLine = memo(function RowLine({ row, open, onToggle }: { row: Row; open: boolean; onToggle: () => void }) {
  const part = useBench((s) => s.part);
  const own = useOwnSounds();
  const mix = rowMixOf(part, row.voice, own);
  const label = labelOfRow({ rows: [row] }, row.voice);
  const Sign = open ? ChevronUp : ChevronDown;
  return (
    <>
      <button
        type="button"
        aria-expanded={open}
        aria-label={`Sound of ${label}`}
        className="grid w-full grid-cols-[1fr_auto_auto] items-center gap-2 text-left"
        onClick={onToggle}
      >
        <span className="min-w-0">
          <span className={open ? 'font-semibold' : ''}>{label}</span>
          <span className="block truncate text-sm text-faint">{rowSoundWords(part, row, own)}</span>
        </span>
        <ResponsePicture loudness={mix.loudness} tone={mix.tone} />
        <Sign size={16} className="text-faint" />
      </button>
      {open && <RowEditor row={row} label={label} />}
    </>
  );
});

const GROUPS = Array.from({ length: ROW_SOUND.group.max + 1 }, (_, g) => ({ value: String(g), text: g === 0 ? 'no group' : `group ${g}` }));
const percentsOf = ({ room, loudness }: RowMix): { room: number; loudness: number } => ({
  room: Math.round(room * 100),
  loudness: Math.round(loudness * 100),
});

/** The settings of a row as one sentence. */
function RowEditor({ row, label }: { row: Row; label: string }) {
  const frame = useRef<HTMLDivElement>(null);
  // What opens below the edge comes into sight.
  useEffect(() => {
    // Some browsers answer with a promise, which is no way to clean up.
    void frame.current?.scrollIntoView({ block: 'nearest' });
  }, []);
  const { getState } = useBenchStore();
  const sweep = useSweep();
  const own = useOwnSounds();
  const { room, loudness } = useBench(useShallow((s) => percentsOf(rowMixOf(s.part, row.voice, own))));
  const rest = useBench(useShallow((s) => restOfRow(s.part, row.voice, own)));
  const low = label.toLowerCase();
  const field = (name: keyof RowSound, spoken: string, unit: string, value = row.sound?.[name] ?? ROW_SOUND[name].rest) => {
    const { min, max, digits, rest: plain } = ROW_SOUND[name];
    return (
      <NumberField
        label={`${spoken} of ${label}`}
        value={value}
        min={min}
        max={max}
        digits={digits}
        default={name === 'room' || name === 'loudness' ? rest[name] : plain}
        unit={unit}
        className="[&_input]:w-[3.2em]"
        onChange={(next) => sweep.show(`Set the ${spoken.toLowerCase()} of ${low}`, (p) => setRowSound(p, row.voice, { [name]: next }))}
        onDone={sweep.done}
        onCancel={sweep.cancel}
      />
    );
  };
  return (
    <div ref={frame} className="scroll-mb-4 pt-1 pb-2 text-sm leading-8">
      <RowPlays row={row} label={label} />
      <p>
        Level {field('level', 'Level', 'dB,')} pan {field('pan', 'Pan', '%')}
      </p>
      <p>Tuning {field('tune', 'Tuning', 'semitones')}</p>
      <p>
        Decay {field('ring', 'Decay', '%,')} room {field('room', 'Room', '%', room)}
      </p>
      <p>
        Response: loudness {field('loudness', 'Response', '%,', loudness)} tone {field('tone', 'Tone', '%')}
      </p>
      <p>
        Choke group{' '}
        <Picker
          label={`Group of ${label}`}
          value={String(row.sound?.group ?? 0)}
          choices={GROUPS}
          onChange={(g) => getState().run(`Group of ${low}`, (p) => setRowSound(p, row.voice, { group: Number(g) }))}
        />
      </p>
      <div className="mt-1 flex flex-wrap gap-1">
        <Button
          size="small"
          aria-pressed={row.held === true}
          onClick={() =>
            getState().run(`${row.held ? 'Let ring:' : 'End with its hits:'} ${low}`, (p) => setRow(p, row.voice, { held: !row.held }))
          }
        >
          {row.held ? 'Let it ring' : 'End with each hit'}
        </Button>
        <Button
          size="small"
          disabled={!row.sound}
          onClick={() => getState().run(`Sound of ${low} as the kit has it`, (p) => setRow(p, row.voice, { sound: undefined }))}
        >
          As the kit has it
        </Button>
      </div>
    </div>
  );
}
