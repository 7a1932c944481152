'use client';

import { useMemo, useRef } from 'react';
import { useStore } from 'zustand';
import { countBreak, evenBreak, readBreakAs, removeBreak, setBreak, setFirstDownbeat, setSensitivity } from '@/core/breaks/edit';
import { barsOfBreak, bpmOfBreak } from '@/core/breaks/lines';
import { heardIn, strokesOfBreak } from '@/core/breaks/strokes';
import { BREAK_CUTS, BREAK_GAPS, isOfBreak, type Break, type BreakCut, type BreakGap, type BreakReading } from '@/core/model/break';
import { Button } from '@/ui/Button';
import { FileField } from '@/ui/FileField';
import { NumberField } from '@/ui/NumberField';
import { say } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { Section, Sections } from '@/ui/Section';
import { bringUnder } from '../../breaks/bring';
import { onsetDetectorState, listen } from '../../breaks/onset-detector';
import { useBench, useBenchStore } from '../../store/context';
import { useSweep } from '../../store/use-sweep';
import { AlikeSection } from './AlikeSection';
import { LearnItsGroove } from './LearnItsGroove';
import { OursToBring } from './OursToBring';
import { PieceSection } from './PieceSection';
import { PlayedByPads } from './PlayedByPads';

export const CUT_WORDS: Readonly<Record<BreakCut, string>> = {
  strokes: 'at its hits',
  eighths: 'at every 1/8',
  sixteenths: 'at every 1/16',
  sixteen: 'into sixteen equal slices',
  bars: 'at its bars',
  whole: 'nowhere: it plays as a whole',
};
const GAP_WORDS: Readonly<Record<BreakGap, string>> = { tail: 'its tail, repeated and softer', fade: 'a longer fade', silence: 'nothing' };
const METERS = ['2/4', '3/4', '4/4', '5/4', '6/4', '5/8', '6/8', '7/8', '9/8', '12/8'];
const NONE: readonly Break[] = [];

/** Recorded loops: how they are heard, counted, cut and played. */
export function BreaksPage() {
  const store = useBenchStore();
  const breaks = useBench((s) => s.part.breaks) ?? NONE;
  const shown = useBench((s) => s.ui.breakShown);
  const file = useRef<HTMLInputElement>(null);
  return (
    <div className="space-y-5">
      {breaks.length === 0 && (
        <p className="text-faint">
          Import a recorded drum loop: its hits are found, it is cut into slices, and rows play them. Everything that moves hits moves the
          slices. Drop a WAV file on the part, or choose one.
        </p>
      )}
      {breaks.map((of) => (
        <OneBreak key={of.id} of={of} />
      ))}
      <p className="flex flex-wrap items-baseline gap-2">
        <Button size="small" onClick={() => file.current?.click()}>
          {breaks.length === 0 ? 'A recording …' : 'Another recording …'}
        </Button>
        <OursToBring />
        <FileField ref={file} label="Recording of a break" onChoose={(files) => files[0] && void bringUnder(store, files[0])} />
      </p>
      {breaks.length > 0 && (
        <>
          <PlayedByPads />
          <Button size="small" onClick={() => store.getState().setUi({ breakShown: !shown })}>
            {shown ? 'Hide its picture' : 'Show its picture'}
          </Button>
        </>
      )}
    </div>
  );
}

function OneBreak({ of }: { of: Break }) {
  const store = useBenchStore();
  const { getState } = store;
  const heard = useBench((s) => s.part.heard);
  const columns = useMemo(() => heardIn({ ...(heard ? { heard } : {}) }, of.id), [heard, of.id]);
  const strokes = useMemo(() => strokesOfBreak(of, columns), [of, columns]);
  const sweep = useSweep();
  const ends = { onDone: sweep.done, onCancel: sweep.cancel };
  const isHeard = columns.at.length > 0;
  const first = of.lines[0] as number;
  const { listening, sample } = useStore(onsetDetectorState);
  const run = (label: string, command: Parameters<ReturnType<typeof getState>['run']>[1]) => getState().run(label, command);
  const select = () => {
    const { part } = getState();
    const rows = new Set(part.rows.flatMap((r) => (isOfBreak(r.plays) && r.plays.break === of.id ? [r.voice] : [])));
    return part.hits.filter((h) => rows.has(h.voice)).map((h) => h.id);
  };
  return (
    <section aria-label={of.name} className="space-y-3">
      <h3 className="font-serif text-base">{of.name}</h3>
      {!isHeard && sample === of.sample && listening === null && (
        <p>
          Not analyzed yet.{' '}
          <Button size="small" onClick={() => void listen(store, of.id)}>
            Listen
          </Button>
        </p>
      )}
      <div className="leading-8">
        <p className="flex flex-wrap items-baseline gap-x-1">
          <NumberField
            label="Bars of the break"
            value={barsOfBreak(of)}
            min={1}
            max={999}
            unit={barsOfBreak(of) === 1 ? 'bar of' : 'bars of'}
            className="[&_input]:w-[2.4em]"
            onChange={(bars) => sweep.show('Count its bars', (p) => countBreak(p, of.id, bars))}
            {...ends}
          />
          <Picker
            label="Meter of the break"
            value={of.meter.join('/')}
            choices={[...new Set([...METERS, of.meter.join('/')])].map((m) => ({ value: m, text: m }))}
            onChange={(m) =>
              run(`Count it in ${m}`, (p) => countBreak(p, of.id, barsOfBreak(of), m.split('/').map(Number) as unknown as [number, number]))
            }
          />
          <span>at {bpmOfBreak(of).toFixed(1)} BPM</span>
        </p>
        <p className="flex flex-wrap items-baseline gap-x-1">
          from{' '}
          <NumberField
            label="First downbeat"
            value={first}
            min={0}
            max={of.seconds}
            step={0.01}
            digits={3}
            unit="s"
            className="[&_input]:w-[4em]"
            onChange={(at) => sweep.show('Move the first downbeat', (p) => setFirstDownbeat(p, of.id, at))}
            {...ends}
          />
          <Button size="tiny" onClick={() => run('Make its bars even', (p) => evenBreak(p, of.id))}>
            Make bars even
          </Button>
        </p>
      </div>
      <Readings of={of} readings={columns.readings} />
      {isHeard && (
        <p className="flex flex-wrap items-baseline gap-x-1 leading-8">
          <NumberField
            label="Sensitivity"
            showLabel
            value={Math.round(of.sensitivity * 1000) / 10}
            min={0}
            max={100}
            digits={1}
            default={50}
            unit="%"
            className="[&_input]:w-[3.2em]"
            onChange={(v) => sweep.show('Set the sensitivity', (p) => setSensitivity(p, of.id, v / 100))}
            {...ends}
          />
          <span className="text-faint">
            {strokes.filter((s) => !s.belowThreshold).length} of {strokes.length} hits found
          </span>
        </p>
      )}
      <div className="leading-8">
        <p>
          Cut{' '}
          <Picker
            label="Where it is cut"
            value={of.cut}
            choices={BREAK_CUTS.map((c) => ({ value: c, text: CUT_WORDS[c] }))}
            onChange={(cut) => run(`Cut it ${CUT_WORDS[cut as BreakCut]}`, (p) => setBreak(p, of.id, { cut: cut as BreakCut }))}
          />
          <span className="text-faint"> {of.pieces.length === 1 ? 'one slice' : `${of.pieces.length} slices`}</span>
        </p>
        <p>
          Between slices{' '}
          <Picker
            label="Between slices"
            value={of.gap}
            choices={BREAK_GAPS.map((g) => ({ value: g, text: GAP_WORDS[g] }))}
            onChange={(gap) => run('Between slices', (p) => setBreak(p, of.id, { gap: gap as BreakGap }))}
          />
        </p>
        <p>
          At another tempo{' '}
          <Picker
            label="At another tempo"
            value={of.repitch ? 'pitch' : 'moved'}
            choices={[
              { value: 'moved', text: 'slices move, their pitch stays' },
              { value: 'pitch', text: 'the pitch goes with it' },
            ]}
            onChange={(v) =>
              run(v === 'pitch' ? 'Let the pitch follow the tempo' : 'Keep the pitch', (p) =>
                setBreak(p, of.id, { repitch: v === 'pitch' }),
              )
            }
          />
        </p>
      </div>
      <Sections>
        <Section name="alike" title="Hits that sound alike" note={wrongNote(strokes)}>
          <AlikeSection of={of} strokes={strokes} />
        </Section>
        <Section name="piece" title="One slice" note="level, pitch, backwards">
          <PieceSection of={of} />
        </Section>
      </Sections>
      <p className="flex flex-wrap gap-2">
        <Button size="small" onClick={() => getState().select(select())}>
          Select its hits
        </Button>
        <LearnItsGroove of={of} strokes={strokes} />
        <Button
          size="small"
          onClick={() => {
            run(`Delete ${of.name}`, (p) => removeBreak(p, of.id));
            say(`${of.name} is out of the part; its recording stays in the Library.`);
          }}
        >
          Delete it
        </Button>
      </p>
    </section>
  );
}

const wrongNote = (strokes: readonly { sure: number; belowThreshold: boolean }[]): string => {
  const wrong = Math.round(strokes.filter((s) => !s.belowThreshold).reduce((sum, s) => sum + 1 - s.sure, 0));
  return wrong === 0 ? '' : `about ${wrong} may be wrong`;
};

/** Other ways to count it. */
function Readings({ of, readings }: { of: Break; readings: readonly BreakReading[] }) {
  const { getState } = useBenchStore();
  if (readings.length === 0) return null;
  const isNow = (r: BreakReading): boolean =>
    r.bars === barsOfBreak(of) && r.meter[0] === of.meter[0] && r.meter[1] === of.meter[1] && Math.abs(bpmOfBreak(of) / r.bpm - 1) < 0.002;
  return (
    <div role="group" aria-label="Readings" className="flex flex-wrap gap-1">
      {readings.map((r) => (
        <Button
          key={`${r.bars} ${r.bpm}`}
          size="small"
          aria-pressed={isNow(r)}
          className={isNow(r) ? 'bg-chosen' : ''}
          onClick={() => getState().run(`Read it as ${r.bars} bars at ${r.bpm.toFixed(1)}`, (p) => readBreakAs(p, of.id, r))}
        >
          {r.bars} × {r.meter.join('/')} at {r.bpm.toFixed(1)}
        </Button>
      ))}
    </div>
  );
}
