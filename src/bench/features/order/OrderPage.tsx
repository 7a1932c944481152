'use client';

import { newHitId, newIdInPart } from '@/editing/ids';
import { useStore } from 'zustand';
import { appendAsSection } from '@/core/commands/excerpt';
import { keptPass } from '@/core/commands/keep-pass';
import { addSection, nextName, setEveryPass, setOrder } from '@/core/commands/sections';
import { EVERY_PASS, type EveryPass } from '@/core/model/song';
import { barsOf } from '@/core/part/sections';
import { partStore } from '@/storage/part-store';
import { useStored } from '@/storage/use-stored';
import { versionStore } from '@/storage/version-store';
import { Button } from '@/ui/Button';
import { say, showError } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { barsText } from '../../actions/arrange';
import { usePlaybackOf } from '../../playback/context';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { useRecorded, useRecording } from '../../recording/context';
import { LearnPad } from '../../shared/LearnPad';
import { BarCells } from './BarCells';
import { RowsComingRound } from './RowsComingRound';
import { RunningOrder } from './RunningOrder';
import { SectionList } from './SectionList';

const PASS_WORDS: Readonly<Record<EveryPass, string>> = { same: 'the same', anew: 'a new variation' };

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
      <p className="text-sm text-faint">
        Click some bars to make them a section. Sections can be played next while the beat runs, and put in a running order.
      </p>
      <BarCells />
      <SectionList />
      {!isOne && (
        <p className="flex flex-wrap items-baseline gap-2">
          <Button size="small" onClick={() => getState().run(`Make a section of ${chosen}`, (p) => addSection(p, newIdInPart(), from, to))}>
            Make a section of {chosen}: “{nextName(sections)}”
          </Button>
          {covered.length > 0 && <span className="text-sm text-faint">It takes bars from {covered.map((s) => s.name).join(', ')}.</span>}
        </p>
      )}
      {sections.length > 0 && <RunningOrder />}
      <Switched />
      <PadsThatCall />
      <RowsComingRound />
      <p className="leading-8">
        While bars are looped, every pass is{' '}
        <Picker
          label="Every pass"
          value={everyPass}
          choices={EVERY_PASS.map((p) => ({ value: p, text: PASS_WORDS[p] }))}
          onChange={(p) => getState().run(`Every pass ${PASS_WORDS[p as EveryPass]}`, (part) => setEveryPass(part, p as EveryPass))}
        />
        <span className="block text-sm text-faint">Probability and the feel’s random values. In the running order each pass varies.</span>
      </p>
      <PassHeard />
      <BringIn />
    </div>
  );
}

const NONE = [] as const;

/** The pass that was heard last, as a version of the part. */
function PassHeard() {
  const { getState } = useBenchStore();
  const id = useBench((s) => s.id);
  const part = useBench(calmPart);
  const idea = useBench((s) => s.idea);
  const { conductor } = usePlaybackOf();
  const heard = useStore(conductor.state, (s) => s.heard);
  if (part.everyPass !== 'anew' || heard?.kind !== 'bars' || heard.idea !== idea || heard.to > part.bars) return null;
  const name = `Pass ${heard.pass} of ${barsText(heard)}`;
  const keep = () =>
    versionStore
      .keep(id, { name, part: keptPass(getState().part, heard, newHitId) })
      .then(() => say(`${name} is kept among the versions, as it sounded.`), showError);
  return (
    <p className="flex flex-wrap items-baseline gap-2">
      <Button size="small" onClick={() => void keep()}>
        Keep pass {heard.pass} as a version
      </Button>
      <span className="text-sm text-faint">The one that was heard last: its hits as they sounded, without probability.</span>
    </p>
  );
}

/** Another part of the Shelf behind the last bar, as a section. */
function BringIn() {
  const { getState } = useBenchStore();
  const id = useBench((s) => s.id);
  const parts = useStored(() => partStore.list(), []) ?? [];
  const bring = async (other: string) => {
    const { part } = await partStore.load(other);
    getState().run(`Import ${part.name}`, (p) => appendAsSection(p, part, { id: newIdInPart(), name: part.name, newId: newHitId }));
    say(`${part.name} was imported after the last bar as a section, at this part’s tempo and with its feel.`);
  };
  const others = parts.filter((p) => p.id !== id);
  if (others.length === 0) return null;
  return (
    <p>
      Import after the last bar{' '}
      <Picker
        label="Part to import"
        value=""
        placeholder="another part"
        choices={others.map((p) => ({ value: p.id, text: p.name }))}
        onChange={(other) => void bring(other).catch(showError)}
      />
    </p>
  );
}

/** Pads of the device that call a section. */
function PadsThatCall() {
  const { recorder } = useRecording();
  const sections = useBench((s) => s.main.sections) ?? NONE;
  const calls = useRecorded((s) => s.input.calls) ?? {};
  if (sections.length === 0) return null;
  const choices = sections.map((s, i) => ({ value: String(i + 1), text: s.name }));
  const learn = (n: string, key: number) => recorder.tune({ calls: { ...recorder.state.getState().input.calls, [key]: Number(n) } });
  return (
    <LearnPad
      words="A pad plays next"
      label="Section for the pad"
      placeholder="a section"
      choices={choices}
      known={Object.keys(calls).length}
      onLearn={learn}
      onForget={() => recorder.tune({ calls: {} })}
    />
  );
}

/** What was switched while it played, to be kept. */
function Switched() {
  const { getState } = useBenchStore();
  const { conductor } = usePlaybackOf();
  const switched = useStore(conductor.state, (s) => s.switched);
  if (switched.length < 2) return null;
  return (
    <p className="flex flex-wrap items-baseline gap-2 text-sm">
      {switched.length} section switches were played.
      <Button size="small" onClick={() => getState().run('Keep the switches as running order', (p) => setOrder(p, switched))}>
        Use as running order
      </Button>
    </p>
  );
}
