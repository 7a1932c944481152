'use client';

import { nanoid } from 'nanoid';
import { useStore } from 'zustand';
import { addSection, nextName, setEveryPass, setOrder } from '@/core/commands/sections';
import { EVERY_PASS, type EveryPass } from '@/core/model/song';
import { barsOf } from '@/core/part/sections';
import { Button } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { barsText } from '../../actions/arrange';
import { usePlaybackOf } from '../../playback/context';
import { useBench, useBenchStore } from '../../store/context';
import { RowsComingRound } from './RowsComingRound';
import { RunningOrder } from './RunningOrder';
import { SectionList } from './SectionList';

const PASS_WORDS: Readonly<Record<EveryPass, string>> = { same: 'the same', anew: 'drawn anew' };

/** Sections of the part, and the order in which they are played. */
export function OrderPage() {
  const { getState } = useBenchStore();
  const sections = useBench((s) => s.part.sections) ?? NONE;
  const from = useBench((s) => s.transport.fromBar);
  const to = useBench((s) => s.transport.toBar);
  const everyPass = useBench((s) => s.part.everyPass) ?? 'same';
  const chosen = barsText({ from, to });
  const isOne = sections.some((s) => barsOf(s).from === from && barsOf(s).to === to);
  const covered = sections.filter((s) => barsOf(s).from < to && barsOf(s).to > from);
  return (
    <div className="space-y-5">
      {sections.length === 0 && <p className="text-faint">A section is some bars with a name. Sections are switched while the beat plays, and put in a running order. Choose bars as the loop, and give them a name.</p>}
      <SectionList />
      {!isOne && (
        <p className="flex flex-wrap items-baseline gap-2">
          <Button size="small" onClick={() => getState().run(`Make a section of ${chosen}`, (p) => addSection(p, nanoid(8), from, to))}>
            make a section of {chosen}: “{nextName(sections)}”
          </Button>
          {covered.length > 0 && <span className="text-sm text-faint">It takes bars from {covered.map((s) => s.name).join(', ')}.</span>}
        </p>
      )}
      {sections.length > 0 && <RunningOrder />}
      <Switched />
      <RowsComingRound />
      <p className="leading-8">
        While bars are looped, every pass is <Picker label="Every pass" value={everyPass} choices={EVERY_PASS.map((p) => ({ value: p, text: PASS_WORDS[p] }))} onChange={(p) => getState().run(`Every pass ${PASS_WORDS[p as EveryPass]}`, (part) => setEveryPass(part, p as EveryPass))} />
        <span className="block text-sm text-faint">Chance and the feel’s dice; in the running order each pass is drawn anew.</span>
      </p>
    </div>
  );
}

const NONE = [] as const;

/** What was switched while it played, to be kept. */
function Switched() {
  const { getState } = useBenchStore();
  const { conductor } = usePlaybackOf();
  const switched = useStore(conductor.state, (s) => s.switched);
  if (switched.length < 2) return null;
  return (
    <p className="flex flex-wrap items-baseline gap-2 text-sm">
      {switched.length} sections were switched while it played.
      <Button size="small" onClick={() => getState().run('Keep what was switched', (p) => setOrder(p, switched))}>
        keep that as the running order
      </Button>
    </p>
  );
}
