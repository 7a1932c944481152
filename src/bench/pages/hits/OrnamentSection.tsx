'use client';

import { nanoid } from 'nanoid';
import { changeOrnament, expandOrnaments, gatherOrnaments, setOrnament } from '@/core/commands/ornaments';
import { labelOfRow } from '@/core/commands/rows';
import { MOST_STROKES, ORNAMENT_LIMITS, type Echo, type Flam, type Ornament, type OrnamentKind, type Roll } from '@/core/model/ornament';
import { rollCount, rollLength } from '@/core/ornament/roll';
import type { Part } from '@/core/model/part';
import { stepOf, type GridName } from '@/core/time/grid';
import { ticks } from '@/core/units';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { Section } from '@/ui/Section';
import { say } from '@/ui/notify';
import { actOnSelection, touchOf } from '../../actions/act';
import { useBench, useBenchStore, useBenchSwept } from '../../store/context';
import { useSweep } from '../../store/use-sweep';
import { GRACE_WORDS } from '@/core/ornament/flam';
import { wordOfOrnament, newOrnament } from '@/core/ornament/all';

const small = '!h-7 !px-[7px] text-sm';
const narrow = '[&_input]:w-[3em]';
const L = ORNAMENT_LIMITS;


/** Rolls, flams and echoes of the selected hits: given, edited as one thing, written out, found again. */
export function OrnamentSection() {
  const store = useBenchStore();
  const { getState } = store;
  const part = useBenchSwept((s) => s.part);
  const selection = useBench((s) => s.selection);
  const none = selection.size === 0;
  const index = part.hits.findIndex((h) => selection.has(h.id) && h.ornament);
  const ornament = part.hits[index]?.ornament;
  const give = (word: string, next: Ornament) => actOnSelection(store, `Give a ${word} to`, (p, ids) => setOrnament(p, ids, next));
  const expand = () => {
    const { part: now, selection: chosen, run } = getState();
    const { ids } = touchOf(now, chosen);
    let made: readonly string[] = [];
    run('Write ornaments out as plain hits', (p) => {
      const expanded = expandOrnaments(p, ids, () => nanoid(10));
      made = expanded.ids;
      return expanded.part;
    }, () => made);
  };
  const gather = () => {
    const { part: now, selection: chosen, run } = getState();
    const found = gatherOrnaments(now, chosen);
    if (found.ids.length === 0) return say('None of these hits make a roll or a flam: they need even distances under a sixteenth and an even ramp, or soft strokes right before a louder one.');
    run(`Gather ${found.ids.length} ${found.ids.length === 1 ? 'ornament' : 'ornaments'}`, () => found.part, () => found.ids);
  };
  return (
    <Section name="ornaments" title="Ornaments" note={ornament ? wordOfOrnament(ornament) : ''}>
      <div className="flex flex-wrap gap-[3px]" role="group" aria-label="Give an ornament">
        <Button className={small} disabled={none} onClick={() => give('roll', newOrnament('roll'))}>
          roll
        </Button>
        {GRACE_WORDS.map((word, i) => (
          <Button key={word} className={small} disabled={none} onClick={() => give(word, { ...(newOrnament('flam') as Flam), strokes: i + 1 })}>
            {word}
          </Button>
        ))}
        <Button className={small} disabled={none} onClick={() => give('echo', newOrnament('echo') as Echo)}>
          echo
        </Button>
        <Button className={small} disabled={!ornament} onClick={() => actOnSelection(store, 'Take the ornaments from', (p, ids) => setOrnament(p, ids, undefined))}>
          none
        </Button>
      </div>
      {ornament && (
        <div className="mt-2 leading-8">
          <Sentence part={part} index={index} ornament={ornament} />
        </div>
      )}
      <div className="mt-2 flex flex-wrap gap-1">
        <Button className={small} disabled={!ornament} title="Each stroke becomes a hit of its own" onClick={expand}>
          write out
        </Button>
        <Button className={small} disabled={selection.size < 2} title="Plain hits that are a roll or a flam become one hit with an ornament" onClick={gather}>
          gather
        </Button>
      </div>
      {ornament && <p className="mt-2 text-sm text-faint">On the stems: drag the bracket up or down for more or fewer strokes, its end sideways or up and down.</p>}
    </Section>
  );
}

/** How an ornament is changed from its sentence: numbers are swept, choices are one step each. */
function useOrnamentEdit<K extends OrnamentKind>(kind: K) {
  const store = useBenchStore();
  const { getState } = store;
  type Change = Partial<Extract<Ornament, { kind: K }>>;
  const sweep = useSweep();
  return {
    sweep: (change: Change) => {
      const { part, selection } = getState();
      const { ids, what } = touchOf(part, selection);
      sweep.show(`Change the ${kind} of ${what}`, (p) => changeOrnament(p, ids, kind, change));
    },
    done: sweep.done,
    cancel: sweep.cancel,
    set: (change: Change) => actOnSelection(store, `Change the ${kind} of`, (p, ids) => changeOrnament(p, ids, kind, change)),
  };
}

function Sentence({ part, index, ornament }: { part: Part; index: number; ornament: Ornament }) {
  switch (ornament.kind) {
    case 'roll':
      return <RollSentence part={part} index={index} roll={ornament} />;
    case 'flam':
      return <FlamSentence flam={ornament} />;
    case 'echo':
      return <EchoSentence part={part} echo={ornament} />;
  }
}

const ROLL_GRIDS: readonly GridName[] = ['1/16', '1/32', '1/64', '1/8T', '1/16T', '1/32T'];
const speedWord = (speed: number): string => (speed > 0.02 ? '% accelerating,' : speed < -0.02 ? '% slowing,' : '% (even),');

function RollSentence({ part, index, roll }: { part: Part; index: number; roll: Roll }) {
  const edit = useOrnamentEdit('roll');
  const length = rollLength(part, index);
  const count = rollCount(roll, length);
  const ends = { onDone: edit.done, onCancel: edit.cancel };
  return (
    <>
      rolls in{' '}
      <Picker
        label="Strokes of the roll"
        value={typeof roll.strokes === 'number' ? 'count' : roll.strokes}
        choices={[...ROLL_GRIDS.map((g) => ({ value: g, text: g })), { value: 'count', text: 'a number of strokes' }]}
        onChange={(v) => edit.set({ strokes: v === 'count' ? Math.max(2, count) : (v as GridName) })}
      />
      {typeof roll.strokes === 'number' ? (
        <>: <NumberField label="Number of strokes" value={roll.strokes} min={L.strokes[0]} max={MOST_STROKES} unit="strokes" className={narrow} onChange={(strokes) => edit.sweep({ strokes })} {...ends} /></>
      ) : (
        <span className="text-faint"> ({count} strokes)</span>
      )}{' '}
      over{' '}
      <Picker label="Length of the roll" value={roll.length === undefined ? 'next' : 'own'} choices={[{ value: 'next', text: 'the time to the next hit' }, { value: 'own', text: 'a length of its own' }]} onChange={(v) => edit.set({ length: v === 'own' ? length : undefined })} />
      {roll.length !== undefined && (
        <>: <NumberField label="Roll length" value={length / stepOf('1/16')} min={0.25} max={64} step={0.5} digits={2} unit="sixteenths" onChange={(v) => edit.sweep({ length: ticks(Math.round(v * stepOf('1/16'))) })} {...ends} /></>
      )}
      , <NumberField label="Speed" value={roll.speed * 100} min={-100} max={100} step={5} unit={speedWord(roll.speed)} default={0} className={narrow} onChange={(v) => edit.sweep({ speed: v / 100 })} {...ends} /> to{' '}
      <NumberField label="Last stroke" value={roll.to * 100} min={L.to[0] * 100} max={L.to[1] * 100} step={5} unit="% of its velocity," default={70} className={narrow} onChange={(v) => edit.sweep({ to: v / 100 })} {...ends} />{' '}
      <NumberField label="Bend of the ramp" value={roll.bend * 100} min={-100} max={100} step={5} unit={roll.bend > 0 ? '% late' : roll.bend < 0 ? '% early' : '% bent'} default={0} className={narrow} onChange={(v) => edit.sweep({ bend: v / 100 })} {...ends} />
    </>
  );
}

function FlamSentence({ flam }: { flam: Flam }) {
  const edit = useOrnamentEdit('flam');
  const ends = { onDone: edit.done, onCancel: edit.cancel };
  return (
    <>
      <NumberField label="Grace strokes" value={flam.strokes} min={L.graces[0]} max={L.graces[1]} unit={flam.strokes === 1 ? 'grace stroke,' : 'grace strokes,'} className={narrow} onChange={(strokes) => edit.sweep({ strokes })} {...ends} />{' '}
      <NumberField label="Spacing" value={flam.spacingMs} min={L.spacingMs[0]} max={L.spacingMs[1]} digits={1} unit="ms apart," default={25} className={narrow} onChange={(spacingMs) => edit.sweep({ spacingMs })} {...ends} /> at{' '}
      <NumberField label="Level" value={flam.level * 100} min={L.level[0] * 100} max={L.level[1] * 100} step={5} unit="% of its velocity," default={55} className={narrow} onChange={(v) => edit.sweep({ level: v / 100 })} {...ends} />{' '}
      <NumberField label="Slope" value={flam.slope * 100} min={-100} max={100} step={5} unit={flam.slope < 0 ? '% falling' : '% rising'} default={0} className={narrow} onChange={(v) => edit.sweep({ slope: v / 100 })} {...ends} />
    </>
  );
}

function EchoSentence({ part, echo }: { part: Part; echo: Echo }) {
  const edit = useOrnamentEdit('echo');
  const ends = { onDone: edit.done, onCancel: edit.cancel };
  const grids: readonly GridName[] = ['1/8', '1/16', '1/32', '1/8T', '1/16T'];
  return (
    <>
      <NumberField label="Repeats" value={echo.repeats} min={L.repeats[0]} max={L.repeats[1]} unit={echo.repeats === 1 ? 'repeat' : 'repeats'} className={narrow} onChange={(repeats) => edit.sweep({ repeats })} {...ends} /> every{' '}
      <NumberField label="Steps apart" value={echo.steps} min={L.steps[0]} max={L.steps[1]} unit="of" className={narrow} onChange={(steps) => edit.sweep({ steps })} {...ends} />{' '}
      <Picker label="Grid of the echo" value={echo.grid} choices={grids.map((g) => ({ value: g, text: g }))} onChange={(grid) => edit.set({ grid: grid as GridName })} />, each at{' '}
      <NumberField label="Decay" value={echo.decay * 100} min={L.decay[0] * 100} max={L.decay[1] * 100} step={5} unit="% of the one before," default={65} className={narrow} onChange={(v) => edit.sweep({ decay: v / 100 })} {...ends} /> by{' '}
      <Picker
        label="Voice of the echo"
        value={echo.voice ?? 'own'}
        choices={[{ value: 'own', text: 'itself' }, ...part.rows.map((r) => ({ value: r.voice, text: labelOfRow(part, r.voice) }))]}
        onChange={(v) => edit.set({ voice: v === 'own' ? undefined : v })}
      />
    </>
  );
}
