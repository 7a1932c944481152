'use client';

import { useMemo } from 'react';
import { compareGrooves } from '@/core/groove/compare';
import type { Groove } from '@/core/model/groove';
import { learnGroove } from '@/core/learn/learn';
import { performPart } from '@/core/perform/perform';
import type { Part } from '@/core/model/part';
import { grooveOf, type GroovesState } from '../store/grooves-store';
import { tempoOf } from '../store/heard';
import { useGrooves, useGroovesStore, useHandGroove } from '../store/context';
import { msWords, stepName } from '../words/words';
import { GroovePicker } from './GroovePicker';

/** Less is the same to the ear: docs/decisions/08-feel.md. */
const SAME_MS = 2;
const SAME_LEVEL = 0.05;

/** The part's own groove on the steps of another; null where it has no hits. */
function grooveOfPart(part: Part, beats: number, stepsPerBeat: number): Groove | null {
  try {
    return learnGroove(part, { beats, stepsPerBeat }, performPart(part));
  } catch {
    return null;
  }
}

/** What is compared with, if anything. */
export function useAgainst(): { name: string; groove: Groove; learnt: boolean } | null {
  const against = useGrooves((s: GroovesState) => s.against);
  const other = useGrooves((s) => (s.against && s.against !== 'part' ? grooveOf(s, s.against) : undefined));
  const part = useGrooves((s) => s.stand?.part);
  const { beats, stepsPerBeat } = useHandGroove();
  // Learning depends on the sizes alone: a gesture on a step must not learn again.
  const own = useMemo(
    () => (against === 'part' && part ? grooveOfPart(part, beats, stepsPerBeat) : null),
    [against, part, beats, stepsPerBeat],
  );
  return useMemo(
    () =>
      other ? { name: other.name, groove: other, learnt: false } : own && part ? { name: part.name, groove: own, learnt: true } : null,
    [other, own, part],
  );
}

/** Which steps differ from another groove or from the part, and by how much. */
export function CompareTab() {
  const { getState } = useGroovesStore();
  const against = useGrooves((s) => s.against);
  const part = useGrooves((s) => s.stand?.part);
  const chosen = useGrooves((s) => s.chosen);
  const tempo = useGrooves(tempoOf);
  const hand = useHandGroove();
  const other = useAgainst();
  const difference = useMemo(() => other && compareGrooves(hand, other.groove, tempo, { learntOnly: other.learnt }), [hand, other, tempo]);
  const differing = difference?.steps.filter((s) => Math.abs(s.ms) >= SAME_MS || Math.abs(s.level) >= SAME_LEVEL) ?? [];
  return (
    <div className="space-y-2">
      <p className="leading-8">
        Compare with{' '}
        <GroovePicker
          label="Compare with"
          value={against ?? 'none'}
          except={chosen}
          more={[{ value: 'none', text: 'nothing' }, ...(part ? [{ value: 'part', text: `${part.name}, as it is played` }] : [])]}
          onChange={(id) => getState().set({ against: id === 'none' ? null : id })}
        />
      </p>
      {against === 'part' && !other && <p className="text-faint">The part has no hits to compare with.</p>}
      {difference && other && (
        <>
          <p data-testid="difference">
            {differing.length} of {difference.steps.length} steps differ: {difference.rmsMs.toFixed(1)} ms and{' '}
            {Math.round(difference.rmsLevel * 100)} % of level (root mean square at {Math.round(tempo * 10) / 10} BPM).
          </p>
          {differing.length > 0 && (
            <table className="w-full text-sm">
              <thead className="text-left text-faint">
                <tr>
                  <th className="font-normal">step</th>
                  <th className="font-normal">{other.name} is</th>
                  <th className="text-right font-normal">level</th>
                </tr>
              </thead>
              <tbody>
                {differing.map((s) => (
                  <tr key={s.beat} className="border-t border-line">
                    <td className="py-0.5">
                      {stepName({ meter: hand.meter, stepsPerBeat: difference.stepsPerBeat }, Math.round(s.beat * difference.stepsPerBeat))}
                    </td>
                    <td>
                      {Math.abs(s.ms) < SAME_MS ? 'the same in time' : msWords(s.ms).replace('early', 'earlier').replace('late', 'later')}
                    </td>
                    <td className="text-right">
                      {Math.abs(s.level) < SAME_LEVEL ? '' : `${s.level > 0 ? '+' : '−'}${Math.round(Math.abs(s.level) * 100)} %`}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          <p className="text-sm text-faint">{other.name} is drawn pale behind this one above.</p>
        </>
      )}
      {!against && (
        <p className="text-sm text-faint">Another groove, or how the part on the right is played now: step by step, in ms and level.</p>
      )}
    </div>
  );
}
