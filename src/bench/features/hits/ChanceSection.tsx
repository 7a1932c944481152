'use client';

import { setChance } from '@/core/commands/sections';
import { sameValue } from '@/core/model/fields';
import { MOST_PASSES, type Passes } from '@/core/model/song';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Section } from '@/ui/Section';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { useSweep } from '../../store/use-sweep';
import { chanceText, passesText } from '../../words/chance';
import { useTouched } from './use-touched';

/** The passes as buttons up to so many; more are typed. */
const MOST_BUTTONS = 16;

/** How often the touched hits sound: with a chance, or in some passes alone. */
export function ChanceSection() {
  const { getState } = useBenchStore();
  const touched = useTouched();
  const part = useBench(calmPart);
  const sweep = useSweep();
  const hits = part.hits.filter((h) => touched.ids.has(h.id));
  const nothing = hits.length === 0;
  const chances = new Set(hits.map((h) => h.chance ?? 100));
  const passes = hits.every((h) => sameValue(h.passes, hits[0]?.passes)) ? hits[0]?.passes : undefined;
  const every = passes?.every ?? 4;
  const set = (next: Passes | null) =>
    getState().run(`${touched.what} ${next ? passesText(next) : 'in every pass'}`, (p) => setChance(p, touched.ids, { passes: next }));
  const toggle = (n: number) => {
    const at = passes?.at.includes(n) ? passes.at.filter((a) => a !== n) : [...(passes?.at ?? []), n].sort((a, b) => a - b);
    set(at.length === 0 || at.length === every ? null : { every, at });
  };
  return (
    <Section
      name="chance"
      title="Probability and passes"
      note={
        nothing
          ? ''
          : [chances.size === 1 ? chanceText([...chances][0] as number) : 'several probabilities', passes && passesText(passes)]
              .filter(Boolean)
              .join(', ')
      }
    >
      <p className="leading-8">
        Sounds with a probability of{' '}
        <NumberField
          label="Probability"
          value={[...chances][0] ?? 100}
          min={1}
          max={100}
          default={100}
          unit="%"
          disabled={nothing}
          className="[&_input]:w-[2.8em]"
          onChange={(chance) => sweep.show(`Set the probability of ${touched.what}`, (p) => setChance(p, touched.ids, { chance }))}
          onDone={sweep.done}
          onCancel={sweep.cancel}
        />
      </p>
      <div className="flex flex-wrap items-center gap-1 leading-8">
        in{' '}
        <span role="group" aria-label="Passes in which it sounds" className="flex flex-wrap gap-1">
          {Array.from({ length: Math.min(every, MOST_BUTTONS) }, (_, i) => i + 1).map((n) => (
            <Button
              key={n}
              size="tiny"
              disabled={nothing}
              aria-pressed={passes === undefined || passes.at.includes(n)}
              className={passes !== undefined && !passes.at.includes(n) ? 'text-faint opacity-70' : 'font-semibold'}
              onClick={() => (passes ? toggle(n) : set({ every, at: [n] }))}
            >
              {n}
            </Button>
          ))}
        </span>
        of every{' '}
        <NumberField
          label="Of how many passes"
          value={every}
          min={2}
          max={MOST_PASSES}
          unit="passes"
          disabled={nothing || !passes}
          className="[&_input]:w-[2.2em]"
          onChange={(n) => passes && set({ every: n, at: passes.at.some((a) => a <= n) ? passes.at.filter((a) => a <= n) : [n] })}
        />
        {passes && (
          <Button size="small" onClick={() => set(null)}>
            In every pass
          </Button>
        )}
      </div>
      <p className="mt-1 text-sm text-faint">
        The seed decides, so it is the same everywhere. While all passes are the same, each one sounds like pass 1.
      </p>
    </Section>
  );
}
