'use client';

import { counted, plural } from '@/core/plurals';
import { useMemo } from 'react';
import { DEFAULT_MOVES } from '@/core/moves/all';
import { addMove } from '@/core/commands/moves';
import { removeHits } from '@/core/commands/hits';
import { detectAgain, detectTake } from '../../actions/detect';
import { setOrigin } from '@/core/commands/settings';
import { tempoMapOf } from '@/core/part/part-time';
import { findDoubles } from '@/core/take/doubles';
import { tightnessOf } from '@/core/take/tightness';
import { hitsFromTake, placeTakeAnew } from '@/core/take/use-take';
import { milliseconds, seconds, ticks } from '@/core/units';
import { takeStore } from '@/storage/take-store';
import { Button } from '@/ui/Button';
import { showError, tell } from '@/ui/notify';
import { useRecorded, useRecording } from '../../recording/context';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { TrialButtons } from '../../shared/TrialButtons';
import { useTrial } from '../../store/use-sweep';
import { tightnessWords } from './words';

/** A constant part under this is not worth an offer. */
const WORTH_MS = 2;
const STRENGTH = 0.6;

/** What is offered after recording: doubles, a constant early or late, quantizing. Each is seen on the stems and can be put back. */
export function AfterTake() {
  const phase = useRecorded((s) => s.phase);
  const take = useRecorded((s) => s.take);
  return phase === 'done' && take ? <Offers takeId={take.id} /> : null;
}

function Offers({ takeId }: { takeId: string }) {
  const { recorder } = useRecording();
  const store = useBenchStore();
  const { getState } = store;
  const take = useRecorded((s) => s.take);
  const part = useBench(calmPart);
  const trial = useTrial();
  const ids = useMemo(() => hitsFromTake(part, takeId), [part, takeId]);
  const tightness = useMemo(() => tightnessOf(part, ids), [part, ids]);
  const doubles = useMemo(() => findDoubles(part, ids), [part, ids]);
  if (!take) return null;
  const constant = tightness && Math.abs(tightness.meanMs) >= WORTH_MS ? tightness.meanMs : null;

  const takeOff = async (ms: number) => {
    const latencyMs = milliseconds(Math.round((take.latencyMs + ms) * 10) / 10);
    const changed = { ...take, latencyMs };
    const events = await takeStore.events(take.id);
    getState().run(`Move ${take.name} by ${Math.abs(ms).toFixed(1)} ms`, (p) => placeTakeAnew(p, changed, events));
    recorder.set({ take: changed });
    await takeStore.update(changed);
    await detectTake(store, changed, events);
  };
  const discard = () => {
    if (recorder.discard()) tell(`${take.name} is deleted, with its hits.`, { label: 'Undo', onClick: () => getState().undo() });
  };
  const moveLines = (ms: number) => {
    const tempo = tempoMapOf(part);
    void detectAgain(store, null, {
      label: 'Move the lines to the take',
      before: (p) => setOrigin(p, ticks(Math.round(tempo.toTicks(seconds(tempo.toSeconds(p.origin) + ms / 1000))))),
    });
  };
  const quantize = () => {
    getState().run('Quantize the take', (p) => addMove(p, { ...DEFAULT_MOVES.quantize, strength: STRENGTH }));
    getState().setUi({ page: 'feel', openMove: getState().part.feel.moves.length - 1 });
  };
  return (
    <section aria-label="After the take" className="space-y-2 rounded-md border border-accent p-2">
      <p>
        <span className="font-serif">{take.name}</span>: {counted(ids.size, 'hit')}, {tightnessWords(tightness)}.
      </p>
      {trial.active ? (
        <TrialButtons trial={trial} />
      ) : (
        <div className="flex flex-wrap gap-1.5">
          {doubles.length > 0 && (
            <Button
              size="small"
              onClick={() => trial.show(`Delete ${doubles.length} accidental doubles`, (p) => removeHits(p, new Set(doubles)))}
            >
              Delete {doubles.length} accidental {plural(doubles.length, 'double')}
            </Button>
          )}
          {constant !== null && (
            <>
              <Button size="small" title="As the latency of this take" onClick={() => void takeOff(constant).catch(showError)}>
                Move it {Math.abs(constant).toFixed(1)} ms {constant < 0 ? 'later' : 'earlier'}
              </Button>
              <Button size="small" title="The hits stay, the grid moves" onClick={() => moveLines(constant)}>
                Move the lines instead
              </Button>
            </>
          )}
          <Button size="small" title="A move of the feel: the hits stay as played" onClick={quantize}>
            Quantize to {Math.round(STRENGTH * 100)} %
          </Button>
        </div>
      )}
      <div className="flex gap-2 border-t border-line pt-2">
        <Button size="small" onClick={() => recorder.set({ phase: 'idle' })}>
          Close
        </Button>
        <Button size="small" look="danger" onClick={discard}>
          Delete the take
        </Button>
      </div>
    </section>
  );
}
