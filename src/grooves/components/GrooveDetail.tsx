'use client';

import { Tabs } from 'radix-ui';
import { useMemo, useState } from 'react';
import { ownVoices } from '@/core/groove/steps';
import { labelOfVoice } from '@/core/voices';
import { Picker } from '@/ui/Picker';
import { LENSES, lensFor } from '../pictures/groove-stems';
import { keptOf, type GrooveTab } from '../store/grooves-store';
import { useGrooves, useGroovesStore, useHandGroove } from '../store/context';
import type { Hearing } from '../store/use-hearing';
import { fitWords, sizeWords } from '../words/words';
import { BlendTab } from './BlendTab';
import { CompareTab, useAgainst } from './CompareTab';
import { HandPicture } from './HandPicture';
import { KeepTab } from './KeepTab';
import { ShapeTab } from './ShapeTab';

const tab = 'border-b-2 border-transparent px-1 pt-2 pb-1.5 text-faint data-[state=active]:border-accent data-[state=active]:text-ink';
const ALL = 'all';
const page = 'min-h-0 flex-1 overflow-auto py-3';

/** The groove in hand: its picture, and what can be done to it. */
export function GrooveDetail({ hearing }: { hearing: Hearing }) {
  const groove = useHandGroove();
  const { getState } = useGroovesStore();
  const curve = useGrooves((s) => s.curve);
  const blended = useGrooves((s) => s.blend !== null);
  const kept = useGrooves((s) => keptOf(s, s.chosen));
  const tabOpen = useGrooves((s) => s.tab);
  const against = useAgainst();
  const voices = useMemo(() => ownVoices(groove), [groove]);
  // The lens stays while a gesture widens a lean: the head keeps under the pointer.
  const calm = useGrooves((s) => s.live === null);
  const [lens, setLens] = useState<number | null>(null);
  const [held, setHeld] = useState(lensFor(groove));
  const wanted = lensFor(groove);
  if (calm && held !== wanted) setHeld(wanted);
  const shownLens = lens ?? held;
  return (
    <section
      aria-label="Selected groove"
      className="flex w-[460px] shrink-0 flex-col border-l border-line tight:w-full tight:border-l-0 narrow:w-[460px] bg-surface px-5 pt-3"
    >
      <div className="flex items-baseline gap-2">
        <h2 className="min-w-0 truncate font-serif text-xl" data-testid="hand-name">
          {groove.name}
        </h2>
        <span className="shrink-0 text-sm text-faint">{blended ? 'a blend, not saved yet' : kept ? 'yours' : 'built-in'}</span>
      </div>
      <p className="mb-1 text-sm text-faint">
        {sizeWords(groove)}
        {groove.fit != null && ` · ${fitWords(groove.fit)}`}
      </p>
      <div className="flex flex-wrap items-baseline gap-x-3 text-sm">
        {voices.length > 0 && (
          <span>
            shown for
            <Picker
              label="Rows shown"
              value={curve ?? ALL}
              choices={[{ value: ALL, text: 'all other rows' }, ...voices.map((v) => ({ value: v, text: labelOfVoice(v).toLowerCase() }))]}
              onChange={(v) => getState().set({ curve: v === ALL ? null : v })}
            />
          </span>
        )}
        <span className="ml-auto text-faint">
          lean scale
          <Picker
            label="Lean scale"
            value={String(shownLens)}
            choices={LENSES.map((l) => ({ value: String(l), text: `${l} % of a step = full` }))}
            onChange={(l) => setLens(Number(l))}
          />
        </span>
      </div>
      <HandPicture groove={groove} behind={against?.groove ?? null} lens={shownLens} still={blended} hearing={hearing} />
      <Tabs.Root value={tabOpen} onValueChange={(v) => getState().set({ tab: v as GrooveTab })} className="flex min-h-0 flex-1 flex-col">
        <Tabs.List className="flex gap-5 border-b border-line" aria-label="What to do with it">
          <Tabs.Trigger value="shape" className={tab}>
            Shape
          </Tabs.Trigger>
          <Tabs.Trigger value="blend" className={tab}>
            Blend
          </Tabs.Trigger>
          <Tabs.Trigger value="compare" className={tab}>
            Compare
          </Tabs.Trigger>
          <Tabs.Trigger value="keep" className={tab}>
            Keep
          </Tabs.Trigger>
        </Tabs.List>
        <Tabs.Content value="shape" className={page}>
          <ShapeTab />
        </Tabs.Content>
        <Tabs.Content value="blend" className={page}>
          <BlendTab />
        </Tabs.Content>
        <Tabs.Content value="compare" className={page}>
          <CompareTab />
        </Tabs.Content>
        <Tabs.Content value="keep" className={page}>
          <KeepTab key={kept?.id ?? groove.name} />
        </Tabs.Content>
      </Tabs.Root>
    </section>
  );
}
