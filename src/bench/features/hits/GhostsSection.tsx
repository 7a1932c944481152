'use client';

import { plural } from '@/core/plurals';
import { ArrowLeft, ArrowRight, Dices } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { DEFAULT_MOVES } from '@/core/moves/all';
import { GHOST_PLACINGS, ghostsToThin, suggestGhosts, type GhostPlacing } from '@/core/ghosts/suggest';
import { removeHits } from '@/core/commands/hits';
import { addMove } from '@/core/commands/moves';
import { labelOfRow } from '@/core/part/rows';
import type { Part } from '@/core/model/part';
import type { GridName } from '@/core/time/grid';
import { Button, IconButton } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Section } from '@/ui/Section';
import { soundEngine } from '@/sound/engine';
import { showError } from '@/ui/notify';
import { touchOf } from '../../actions/act';
import { barsText } from '../../actions/arrange';
import { leaveSuggestion, lookAtSuggestion, takeAllSuggestions, takeSuggestion } from '../../actions/suggesting';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';

const narrow = '[&_input]:w-[2.6em]';
const GRIDS: readonly GridName[] = ['1/16', '1/8T', '1/16T', '1/32'];
const WORDS: Readonly<Record<GhostPlacing, string>> = { around: 'around its main hits', 'lead-in': 'right before its strong hits' };
const SHARES = [0.25, 0.5, 1] as const;

interface Wish {
  voice: string | null;
  placing: GhostPlacing;
  grid: GridName;
  density: number;
  low: number;
  high: number;
  seed: number;
}

const FIRST_WISH: Wish = { voice: null, placing: 'around', grid: '1/16', density: 0.4, low: 14, high: 34, seed: 1 };

/** The row that ghosts are for unless another is chosen. */
const usualRow = (part: Part, placing: GhostPlacing): string => {
  const rows = part.rows.map((r) => r.voice);
  return (
    (placing === 'around' ? ['snare', 'rim', 'clap', 'tom-low'] : ['kick', 'tom-floor']).find((v) => rows.includes(v)) ?? rows[0] ?? 'snare'
  );
};

/** Ghost notes: suggested and taken one by one, thinned out, aligned by themselves. */
export function GhostsSection() {
  const store = useBenchStore();
  const { getState } = store;
  const part = useBench(calmPart);
  const from = useBench((s) => s.transport.fromBar);
  const to = useBench((s) => s.transport.toBar);
  const proposal = useBench((s) => (s.ui.proposal?.owner === 'ghosts' ? s.ui.proposal : null));
  const [wish, setWish] = useState(FIRST_WISH);
  const voice = wish.voice ?? usualRow(part, wish.placing);
  const audition = (row: string, velocity: number) => void soundEngine().audition(getState().part, row, velocity).catch(showError);
  const at = proposal ? Math.min(proposal.at, proposal.hits.length - 1) : 0;

  const show = (next: Wish) => {
    setWish(next);
    const now = getState();
    const hits = suggestGhosts(now.part, {
      ...next,
      voice: next.voice ?? usualRow(now.part, next.placing),
      from: now.transport.fromBar,
      to: now.transport.toBar,
    });
    now.setUi({ proposal: { owner: 'ghosts', label: 'ghosts', hits, at: 0 } });
  };
  // What is asked for otherwise is shown at once where something is shown.
  const change = (more: Partial<Wish>) => (proposal ? show({ ...wish, ...more }) : setWish({ ...wish, ...more }));
  // The eye is on the one that is looked at, and Enter takes it: so is the focus, once some are shown.
  const looked = useRef<HTMLButtonElement>(null);
  const shown = proposal !== null && proposal.hits.length > 0;
  useEffect(() => {
    if (shown) looked.current?.focus();
  }, [shown]);
  useEffect(
    () => () => {
      if (getState().ui.proposal?.owner === 'ghosts') getState().setUi({ proposal: null });
    },
    [getState],
  );

  return (
    <Section name="ghosts" title="Ghost notes" note={proposal ? `${proposal.hits.length} suggested` : ''}>
      <div className="leading-8">
        For{' '}
        <Picker
          label="Row of the ghosts"
          value={voice}
          choices={part.rows.map((r) => ({ value: r.voice, text: labelOfRow(part, r.voice) }))}
          onChange={(v) => change({ voice: v })}
        />{' '}
        <Picker
          label="Where ghosts go"
          value={wish.placing}
          choices={GHOST_PLACINGS.map((p) => ({ value: p, text: WORDS[p] }))}
          onChange={(p) => change({ placing: p as GhostPlacing, voice: null })}
        />
        , on{' '}
        <Picker
          label="Grid of the ghosts"
          value={wish.grid}
          choices={GRIDS.map((g) => ({ value: g, text: g }))}
          onChange={(g) => change({ grid: g as GridName })}
        />
        :{' '}
        <NumberField
          label="Density"
          value={wish.density * 100}
          min={0}
          max={100}
          step={5}
          unit="% of the places,"
          default={40}
          className={narrow}
          onChange={(d) => change({ density: d / 100 })}
        />{' '}
        velocity{' '}
        <NumberField
          label="Softest ghost"
          value={wish.low}
          min={1}
          max={wish.high}
          unit="to"
          default={14}
          className={narrow}
          onChange={(low) => change({ low })}
        />
        <NumberField
          label="Loudest ghost"
          value={wish.high}
          min={wish.low}
          max={127}
          unit=""
          default={34}
          className={narrow}
          onChange={(high) => change({ high })}
        />{' '}
        <span className="text-faint">in {barsText({ from, to })}</span>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-1" data-testid="ghost-suggestions">
        {!proposal && (
          <Button size="small" look="strong" onClick={() => show(wish)}>
            Suggest
          </Button>
        )}
        {proposal && (
          <>
            <Button size="small" look="strong" disabled={proposal.hits.length === 0} onClick={() => takeAllSuggestions(store)}>
              Add all {proposal.hits.length}
            </Button>
            <Button size="small" onClick={() => getState().setUi({ proposal: null })}>
              Dismiss all
            </Button>
            <IconButton label={`New variation (seed ${wish.seed})`} size="small" onClick={() => show({ ...wish, seed: wish.seed + 1 })}>
              <Dices size={15} />
            </IconButton>
          </>
        )}
      </div>
      {proposal && proposal.hits.length > 0 && (
        <div className="mt-1 flex flex-wrap items-center gap-1">
          <IconButton label="Suggestion before" size="small" onClick={() => lookAtSuggestion(store, -1, audition)}>
            <ArrowLeft size={15} />
          </IconButton>
          <span className="text-sm tabular-nums">
            {at + 1} of {proposal.hits.length}, velocity {proposal.hits[at]?.velocity}
          </span>
          <IconButton label="Next suggestion" size="small" onClick={() => lookAtSuggestion(store, 1, audition)}>
            <ArrowRight size={15} />
          </IconButton>
          <span className="flex gap-1">
            <Button ref={looked} size="small" onClick={() => takeSuggestion(store)}>
              Add it
            </Button>
            <Button size="small" onClick={() => leaveSuggestion(store)}>
              Dismiss it
            </Button>
          </span>
        </div>
      )}
      {proposal && (
        <p className="mt-1 text-sm text-faint">
          {proposal.hits.length === 0
            ? `No place would do in ${barsText({ from, to })}: ${labelOfRow(part, voice).toLowerCase()} needs main hits there to go by. Move the loop, or take another row, density or grid.`
            : 'You hear them while they are shown. ← → to step through, Enter to add, Delete to skip, Escape to close.'}
        </p>
      )}
      <Existing voice={voice} grid={wish.grid} seed={wish.seed} />
    </Section>
  );
}

/** What can be done to the ghosts that there are: of the selection, or of the row where nothing is selected. */
function Existing({ voice, grid, seed }: { voice: string; grid: GridName; seed: number }) {
  const { getState } = useBenchStore();
  const part = useBench(calmPart);
  const selection = useBench((s) => s.selection);
  const ghosts = part.hits.filter((h) => h.ghost && (selection.size > 0 ? selection.has(h.id) : h.voice === voice));
  if (ghosts.length === 0) return null;
  const where = selection.size > 0 ? 'of the selection' : `of ${labelOfRow(part, voice).toLowerCase()}`;
  const thin = (share: number) => {
    const { ids } = touchOf(getState().part, new Set(ghosts.map((h) => h.id)));
    const gone = new Set(ghostsToThin(getState().part, ids, share, seed));
    getState().run(`Thin out ${gone.size} of ${ghosts.length} ghosts`, (p) => removeHits(p, gone));
  };
  const align = () => {
    const voices = [...new Set(ghosts.map((h) => h.voice))];
    getState().run(`Align the ghosts to ${grid}`, (p) =>
      addMove(p, { ...DEFAULT_MOVES.quantize, grid, strength: 1, outer: 1, scope: { voices, ghosts: 'only' } }),
    );
    getState().setUi({ page: 'feel', openMove: getState().part.feel.moves.length - 1 });
  };
  return (
    <div className="mt-3 border-t border-line pt-2">
      <p className="text-sm text-faint">
        {ghosts.length} {plural(ghosts.length, 'ghost')} {where}
      </p>
      <div className="flex flex-wrap items-center gap-1">
        <span className="text-sm">thin out</span>
        {SHARES.map((share) => (
          <Button key={share} size="small" aria-label={`Thin out ${share * 100} %`} onClick={() => thin(share)}>
            {share * 100} %
          </Button>
        ))}
        <Button size="small" title="Adds a move that pulls these ghosts alone to the grid above; the written hits stay" onClick={align}>
          Align to {grid}
        </Button>
      </div>
    </div>
  );
}
