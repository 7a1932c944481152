'use client';

import { counted, plural } from '@/core/plurals';
import { newHitId } from '@/editing/ids';
import { useEffect, useState } from 'react';
import { cellHits, CELLS, VOICE_OF_CELL, type CellName } from '@/core/cells/cells';
import { addHits } from '@/core/commands/hits';
import { labelOfRow } from '@/core/part/rows';
import type { Part } from '@/core/model/part';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Section } from '@/ui/Section';
import { barsText } from '../../actions/arrange';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';

const NAMES: Readonly<Record<CellName, string>> = {
  backbeat: 'backbeat',
  'four-on-the-floor': 'four on the floor',
  'half-time': 'half-time',
  'off-beats': 'off-beats',
  '3-3-2': '3-3-2',
  'even-spread': 'evenly spread',
};

/** Where a part has no row of a cell's usual voice, the first of these that it has. */
const STAND_INS: Readonly<Record<string, readonly string[]>> = {
  snare: ['clap', 'rim', 'tom-low'],
  'hat-closed': ['ride', 'hat-pedal', 'shaker', 'hat-open'],
  kick: ['tom-floor'],
};

/** The row that a cell goes to unless another is chosen. */
function usualRow(cell: CellName, rows: readonly string[]): string {
  const usual = VOICE_OF_CELL[cell];
  return rows.includes(usual) ? usual : ((STAND_INS[usual] ?? []).find((v) => rows.includes(v)) ?? usual);
}

interface Wish {
  cell: CellName;
  /** Another row than the cell's usual one. */
  voice: string | null;
  velocity: number;
  k: number;
  n: number;
  rotation: number;
}

/** Rhythm cells: shown as pale stems, then taken or left. */
export function CellsSection() {
  const { getState } = useBenchStore();
  const part = useBench(calmPart);
  const from = useBench((s) => s.transport.fromBar);
  const to = useBench((s) => s.transport.toBar);
  const grid = useBench((s) => s.view.grid);
  const proposal = useBench((s) => (s.ui.proposal?.owner === 'cell' ? s.ui.proposal : null));
  const [wish, setWish] = useState<Wish>({ cell: 'backbeat', voice: null, velocity: 100, k: 3, n: 8, rotation: 0 });
  const rows = part.rows.map((r) => r.voice);
  const voice = wish.voice ?? usualRow(wish.cell, rows);
  const choices = rows.includes(voice) ? rows : [voice, ...rows];
  const hitsOf = (w: Wish, p: Part) =>
    cellHits(p, {
      ...w,
      from,
      to,
      grid,
      voice:
        w.voice ??
        usualRow(
          w.cell,
          p.rows.map((r) => r.voice),
        ),
    });

  const show = (next: Wish) => {
    setWish(next);
    getState().setUi({ proposal: { owner: 'cell', label: NAMES[next.cell], hits: hitsOf(next, getState().part), at: 0 } });
  };
  // What is shown follows the bars, the grid and the part, also while they change.
  const shown = proposal !== null;
  useEffect(() => {
    if (shown)
      getState().setUi({
        proposal: { owner: 'cell', label: NAMES[wish.cell], hits: cellHits(part, { ...wish, from, to, grid, voice }), at: 0 },
      });
  }, [shown, part, wish, from, to, grid, voice, getState]);

  const change = (part: Partial<Wish>) => show({ ...wish, ...part });
  const take = () => {
    const hits = hitsOf(wish, getState().part);
    const fresh = hits.map((h) => ({ ...h, id: newHitId() }));
    getState().setUi({ proposal: null });
    getState().run(
      `Drop in ${NAMES[wish.cell]}: ${counted(fresh.length, 'hit')}`,
      (p) => addHits(p, fresh),
      () => fresh.map((h) => h.id),
    );
  };
  return (
    <Section name="cells" title="Rhythm cells">
      <div className="flex flex-wrap gap-1" role="group" aria-label="Cells">
        {CELLS.map((cell) => (
          <Button key={cell} size="small" look={proposal && wish.cell === cell ? 'strong' : 'quiet'} onClick={() => change({ cell })}>
            {NAMES[cell]}
          </Button>
        ))}
      </div>
      <div className="flex flex-wrap items-baseline gap-1 leading-8">
        for{' '}
        <Picker
          label="Row of the cell"
          value={voice}
          choices={choices.map((v) => ({ value: v, text: labelOfRow(part, v) }))}
          onChange={(v) => change({ voice: v })}
        />
        at{' '}
        <NumberField
          label="Velocity of the cell"
          value={wish.velocity}
          min={1}
          max={127}
          unit="of 127"
          default={100}
          className="[&_input]:w-[2.6em]"
          onChange={(velocity) => change({ velocity })}
        />
        in {barsText({ from, to })}
        {!rows.includes(voice) && <span className="text-sm text-faint">Applying it adds this row.</span>}
      </div>
      {wish.cell === 'even-spread' && (
        <div className="flex flex-wrap items-baseline gap-1 leading-8">
          <NumberField
            label="Hits"
            value={wish.k}
            min={1}
            max={64}
            unit="hits over"
            className="[&_input]:w-[2.2em]"
            onChange={(k) => change({ k })}
          />
          <NumberField
            label="Steps"
            value={wish.n}
            min={1}
            max={64}
            unit={`of ${grid}`}
            className="[&_input]:w-[2.2em]"
            onChange={(n) => change({ n })}
          />
          {wish.k > wish.n && <span className="text-sm text-faint">More hits than steps: every step has one.</span>}
          <span>rotated by</span>
          <NumberField
            label="Rotated by"
            value={wish.rotation}
            min={-63}
            max={63}
            unit=""
            default={0}
            className="[&_input]:w-[2.4em]"
            onChange={(rotation) => change({ rotation })}
          />
        </div>
      )}
      {proposal && (
        <div className="mt-1 flex items-center gap-2" data-testid="proposal">
          <Button size="small" look="strong" disabled={proposal.hits.length === 0} onClick={take}>
            Take {proposal.hits.length} {plural(proposal.hits.length, 'hit')}
          </Button>
          <Button size="small" onClick={() => getState().setUi({ proposal: null })}>
            Dismiss
          </Button>
          {proposal.hits.length === 0 && <span className="text-sm text-faint">Every place has a hit already.</span>}
        </div>
      )}
    </Section>
  );
}
