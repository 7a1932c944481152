'use client';

import { ChevronDown, ChevronUp, X } from 'lucide-react';
import { useState } from 'react';
import { changeEntry, moveEntry, setOrder, toggleRest } from '@/core/commands/sections';
import { ENTRY, type OrderEntry } from '@/core/model/song';
import { labelOfRow } from '@/core/part/rows';
import { sectionOf } from '@/core/part/sections';
import { Button, IconButton } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { useSortable } from '@/ui/use-sortable';
import type { ItemDrag } from '@/ui/sortable';
import { usePlaybackOf } from '../../playback/context';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { useSweep } from '../../store/use-sweep';
import { entryWords } from './order-words';
import { SectionPicture } from './SectionPicture';

const NONE: readonly OrderEntry[] = [];

/** The running order as sentences; a line is opened to be changed, dragged or moved by keys. */
export function RunningOrder() {
  const { getState } = useBenchStore();
  const part = useBench(calmPart);
  const played = useBench((s) => s.transport.order);
  const { toggle, engine } = usePlaybackOf();
  const [open, setOpen] = useState<number | null>(null);
  const [Sortable, onNear] = useSortable();
  const order = part.order ?? NONE;
  const sections = part.sections ?? [];
  const ids = order.map((_, i) => String(i));
  const move = (from: number, to: number) => {
    if (to < 0 || to >= order.length) return;
    getState().run('Move a line of the order', (p) => moveEntry(p, from, to));
    setOpen((now) => (now === from ? to : now));
  };
  const render = (id: string, drag: ItemDrag) => {
    const i = Number(id);
    const entry = order[i];
    return (
      entry && (
        <Line
          key={id}
          entry={entry}
          index={i}
          open={open === i}
          drag={drag}
          onToggle={() => setOpen(open === i ? null : i)}
          onMove={(by) => move(i, i + by)}
        />
      )
    );
  };
  const play = () => {
    getState().setTransport({ order: true });
    // What plays changes over at its bar line; stopped, the order starts.
    if (!engine.isPlaying) toggle();
  };
  return (
    <section aria-label="Running order" className="space-y-2" onPointerEnter={onNear}>
      <h3 className="font-serif text-base">Running order</h3>
      {order.length === 0 && <p className="text-sm text-faint">Empty: the part plays from its first bar to its last.</p>}
      {/* What drags brings elements of its own, which are no lines of a list. */}
      <div className="divide-y divide-line border-y border-line empty:border-0">
        {Sortable ? (
          <Sortable ids={ids} onMove={(from, onto) => move(Number(from), Number(onto))} render={render} />
        ) : (
          ids.map((id) => render(id, {}))
        )}
      </div>
      <p className="flex flex-wrap items-baseline gap-2">
        add{' '}
        <Picker
          label="Add a line"
          value=""
          placeholder="a section"
          choices={sections.map((s) => ({ value: s.id, text: s.name }))}
          onChange={(section) =>
            getState().run(`Add ${sectionOf(part, section)?.name ?? 'a section'} to the order`, (p) =>
              setOrder(p, [...(p.order ?? []), { section }]),
            )
          }
        />
        {order.length > 0 && (
          <Button
            size="small"
            look={played ? 'strong' : 'quiet'}
            aria-pressed={played}
            onClick={() => (played ? getState().setTransport({ order: false }) : play())}
          >
            {played ? 'Play the loop instead' : 'Play the order'}
          </Button>
        )}
      </p>
    </section>
  );
}

interface LineProps {
  entry: OrderEntry;
  index: number;
  open: boolean;
  drag: ItemDrag;
  onToggle: () => void;
  onMove: (by: number) => void;
}

function Line({ entry, index, open, drag: { frame, handle, style, dragging }, onToggle, onMove }: LineProps) {
  const { getState } = useBenchStore();
  const part = useBench(calmPart);
  const section = sectionOf(part, entry.section);
  if (!section) return null;
  const n = index + 1;
  return (
    <div ref={frame} style={style} className={`py-1.5 ${dragging ? 'relative z-10 bg-sunk' : ''}`}>
      <div className="flex items-center gap-1">
        <button
          type="button"
          aria-expanded={open}
          aria-label={`Line ${n}: ${section.name}, ${entryWords(part, entry)}`}
          className="flex min-w-0 flex-1 items-center gap-2 text-left"
          {...handle}
          onClick={onToggle}
          onKeyDown={(e) => {
            if (!e.altKey || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
            e.preventDefault();
            onMove(e.key === 'ArrowUp' ? -1 : 1);
          }}
        >
          <span className="min-w-0 flex-1">
            <span className={open ? 'font-semibold' : ''}>{section.name}</span>{' '}
            <span className="text-sm text-faint">{entryWords(part, entry)}</span>
          </span>
          <SectionPicture part={part} section={section} {...(entry.rests ? { rests: entry.rests } : {})} />
        </button>
        <IconButton size="small" label={`Earlier: line ${n}`} disabled={index === 0} onClick={() => onMove(-1)}>
          <ChevronUp size={15} />
        </IconButton>
        <IconButton size="small" label={`Later: line ${n}`} disabled={index === (part.order?.length ?? 0) - 1} onClick={() => onMove(1)}>
          <ChevronDown size={15} />
        </IconButton>
        <IconButton
          size="small"
          label={`Take line ${n} out`}
          onClick={() =>
            getState().run(`Take ${section.name} out of the order`, (p) =>
              setOrder(
                p,
                (p.order ?? []).filter((_, i) => i !== index),
              ),
            )
          }
        >
          <X size={15} />
        </IconButton>
      </div>
      {open && <LineEditor entry={entry} index={index} name={section.name} />}
    </div>
  );
}

/** A line's sentence, opened. */
function LineEditor({ entry, index, name }: { entry: OrderEntry; index: number; name: string }) {
  const { getState } = useBenchStore();
  const part = useBench(calmPart);
  const sweep = useSweep();
  const n = index + 1;
  const field = (member: 'times' | 'level' | 'sway', label: string, unit: string) => (
    <NumberField
      label={`${label} of line ${n}`}
      value={entry[member] ?? ENTRY[member].rest}
      min={ENTRY[member].min}
      max={ENTRY[member].max}
      default={ENTRY[member].rest}
      unit={unit}
      className="[&_input]:w-[2.6em]"
      onChange={(value) => sweep.show(`${label} of ${name}`, (p) => changeEntry(p, index, { [member]: value }))}
      onDone={sweep.done}
      onCancel={sweep.cancel}
    />
  );
  return (
    <div className="pt-1 pb-2 text-sm leading-8">
      <p>
        {field('times', 'Times', 'times, at')} {field('level', 'Level', '% of its velocity,')} feel {field('sway', 'Feel', '%')}
      </p>
      <p className="flex flex-wrap gap-1" role="group" aria-label={`Rows of line ${n}`}>
        {part.rows.map((row) => {
          const rests = entry.rests?.includes(row.voice) === true;
          const label = labelOfRow(part, row.voice);
          return (
            <Button
              key={row.voice}
              size="tiny"
              aria-pressed={!rests}
              className={rests ? 'text-faint line-through' : ''}
              onClick={() =>
                getState().run(`${rests ? 'Play' : 'Rest'} ${label.toLowerCase()} in ${name}`, (p) => toggleRest(p, index, row.voice))
              }
            >
              {label}
            </Button>
          );
        })}
      </p>
    </div>
  );
}
