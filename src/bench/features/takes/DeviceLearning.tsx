'use client';

import { counted, plural } from '@/core/plurals';
import { useEffect, useState } from 'react';
import { NEW_PEDAL_LESSON, pedalMoved } from '@/core/take/hat-pedal';
import { learnCurve, NEW_LESSON, STROKES_A_STRENGTH, struckIn, wantedIn, type CurveLesson } from '@/core/take/learn-curve';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { say } from '@/ui/notify';
import { useRecorded, useRecording } from '../../recording/context';

const forget = 'text-sm underline underline-offset-2';
const HOW = { soft: 'softly', medium: 'as usual', hard: 'hard' } as const;
const USUAL_CROSSTALK = 40;

/** What is learnt of a device by playing it: the hat's pedal, curves of pads, and what rings over from pad to pad. */
export function DeviceLearning() {
  return (
    <div className="space-y-2">
      <PedalLearning />
      <CurveLearning />
      <Crosstalk />
    </div>
  );
}

function PedalLearning() {
  const { recorder } = useRecording();
  const hat = useRecorded((s) => s.input.hat);
  const [isOn, setOn] = useState(false);
  useEffect(() => {
    if (!isOn) return;
    let lesson = NEW_PEDAL_LESSON;
    return recorder.onInput(({ kind, value }) => {
      if (kind !== 'pedal') return;
      lesson = pedalMoved(lesson, value);
      if (!lesson.learnt) return;
      recorder.tune({ hat: lesson.learnt });
      setOn(false);
    });
  }, [isOn, recorder]);
  return (
    <div className="flex flex-wrap items-baseline gap-2" role="group" aria-label="Hat pedal">
      {isOn ? (
        <span role="status">Press the hat’s pedal all the way, and let it go …</span>
      ) : (
        <span>
          {hat
            ? `The pedal opens the hat${hat.turned ? ', inverted' : ''}: closed from ${hat.closedFrom}, open below ${hat.openBelow}.`
            : 'The hat’s pedal is not set up: each key is its own hat.'}
        </span>
      )}
      <Button size="small" onClick={() => setOn(!isOn)}>
        {isOn ? 'Cancel' : hat ? 'Learn again' : 'Learn the pedal'}
      </Button>
      {hat && !isOn && (
        <button type="button" className={forget} onClick={() => recorder.tune({ hat: undefined })}>
          forget the pedal
        </button>
      )}
    </div>
  );
}

function CurveLearning() {
  const { recorder } = useRecording();
  const curves = useRecorded((s) => s.input.curves) ?? {};
  const [lesson, setLesson] = useState<CurveLesson | null>(null);
  const isOn = lesson !== null;
  useEffect(() => {
    if (!isOn) return;
    let under = NEW_LESSON;
    return recorder.onInput(({ kind, key, value }) => {
      if (kind !== 'note') return;
      under = struckIn(under, key, value);
      if (wantedIn(under) !== null) return setLesson(under);
      setLesson(null);
      const curve = learnCurve(under.strokes);
      if (!curve || under.key === null) return say('Soft, medium and hard hits were too similar: the curve stays as it was.');
      recorder.tune({ curves: { ...recorder.state.getState().input.curves, [under.key]: curve } });
      say(`Pad ${under.key} has its own curve.`);
    });
  }, [isOn, recorder]);
  const wanted = lesson && wantedIn(lesson);
  const known = Object.keys(curves).length;
  return (
    <div className="flex flex-wrap items-baseline gap-2" role="group" aria-label="Curves of pads">
      {lesson && wanted ? (
        <span role="status">{`Strike ${lesson.key === null ? 'one pad' : `pad ${lesson.key}`} ${HOW[wanted]}: ${lesson.strokes[wanted].length} of ${STROKES_A_STRENGTH} …`}</span>
      ) : (
        <span>
          {known === 0
            ? 'All pads have the curve above.'
            : `${counted(known, 'pad has a curve', 'pads have curves')} of ${plural(known, 'its', 'their')} own.`}
        </span>
      )}
      <Button size="small" onClick={() => setLesson(lesson ? null : NEW_LESSON)}>
        {lesson ? 'Cancel' : 'Learn a pad’s curve'}
      </Button>
      {known > 0 && !lesson && (
        <button type="button" className={forget} onClick={() => recorder.tune({ curves: {} })}>
          forget {plural(known, 'it', 'them')}
        </button>
      )}
    </div>
  );
}

function Crosstalk() {
  const { recorder } = useRecording();
  const guards = useRecorded((s) => s.input.guards);
  const [isOn, setOn] = useState(false);
  const set = (key: number, below: number | null) => {
    const { [key]: _, ...others } = guards.crosstalk ?? {};
    recorder.tune({ guards: { ...guards, crosstalk: below === null ? others : { ...others, [key]: below } } });
  };
  const guard = () => {
    setOn(true);
    recorder.learnPad((key) => {
      setOn(false);
      const now = recorder.state.getState().input.guards;
      recorder.tune({ guards: { ...now, crosstalk: { ...now.crosstalk, [key]: USUAL_CROSSTALK } } });
    });
  };
  const cancel = () => {
    recorder.learnPad(null);
    setOn(false);
  };
  return (
    <div role="group" aria-label="Crosstalk">
      {Object.entries(guards.crosstalk ?? {}).map(([key, below]) => (
        <p key={key} className="flex flex-wrap items-baseline gap-2">
          Pad {key} under{' '}
          <NumberField
            label={`Crosstalk on pad ${key}`}
            value={below}
            min={1}
            max={127}
            unit="right after a harder hit is crosstalk"
            default={USUAL_CROSSTALK}
            className="[&_input]:w-[3em]"
            onChange={(n) => set(Number(key), n)}
          />
          <button type="button" className={forget} onClick={() => set(Number(key), null)}>
            remove
          </button>
        </p>
      ))}
      <p className="flex flex-wrap items-baseline gap-2">
        {isOn && <span role="status">Strike the pad that rings over …</span>}
        <Button size="small" onClick={isOn ? cancel : guard}>
          {isOn ? 'Cancel' : 'Keep crosstalk out of a pad'}
        </Button>
      </p>
    </div>
  );
}
