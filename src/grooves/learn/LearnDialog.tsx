'use client';

import { counted } from '@/core/plurals';
import { useMemo, useState, type ReactNode } from 'react';
import { isNamedError } from '@/core/errors';
import { performPart, writtenPerformance } from '@/core/perform/perform';
import { type Groove, MOST_BEATS } from '@/core/model/groove';
import { beatsOfMeter } from '@/core/groove/steps';
import { rowsTellTiming, type LearntLevels } from '@/core/learn/learn';
import { studyGroove, type Study } from '@/core/learn/study';
import { labelOfRow } from '@/core/part/rows';
import { setOrigin, startTempo } from '@/core/commands/settings';
import { betterOrigin } from '@/core/homes/origin';
import { tempoMapOf } from '@/core/part/part-time';
import type { HitId, Part } from '@/core/model/part';
import { ticks } from '@/core/units';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { Picker } from '@/ui/Picker';
import { GroovePicture } from '../pictures/GroovePicture';
import { fitWords, verdictWords } from '../words/words';
import { LearntSteps } from './LearntSteps';
import { Outliers } from './Outliers';

interface Props {
  part: Part;
  /** Extract from these alone. */
  selected?: ReadonlySet<HitId> | undefined;
  /** The part comes from audio: levels are by row, and so is timing if rows have enough hits. */
  fromAudio?: boolean;
  onKeep: (groove: Groove) => void;
  onClose: () => void;
  /** Chooses another source. */
  children?: ReactNode;
}

const STEPS = [1, 2, 3, 4, 6, 8, 12];
const HEARD = 'heard';

/** Learns a groove from a part: what it would be, and how far it can be trusted, before it is kept. */
export function LearnDialog({ part, selected, fromAudio = false, onKeep, onClose, children }: Props) {
  const bar = beatsOfMeter([part.meter[0]?.numerator ?? 4, part.meter[0]?.denominator ?? 4]);
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [perVoice, setPerVoice] = useState(() => fromAudio && rowsTellTiming(part));
  const [levels, setLevels] = useState<LearntLevels>(fromAudio ? 'rows' : 'all');
  const [beats, setBeats] = useState(bar);
  const [stepsPerBeat, setStepsPerBeat] = useState(4);
  const [source, setSource] = useState(HEARD);
  const [strict, setStrict] = useState(false);
  const [name, setName] = useState(part.name);

  // Nothing makes it heard otherwise than it is written: a recording, a plain file.
  const isPlain = useMemo(() => part.feel.moves.length === 0 && !part.hits.some((h) => h.nudge), [part]);
  const performance = useMemo(() => (source === HEARD ? performPart(part) : writtenPerformance(part)), [part, source]);
  // A part that sits a constant amount off its lines has a habit of its file, not of its hands: learnt around lines that fit it.
  const better = useMemo(() => betterOrigin(part), [part]);
  const [fitted, setFitted] = useState(true);
  const lined = useMemo(() => (better !== null && fitted ? setOrigin(part, better) : part), [part, better, fitted]);
  const unselected = useMemo(
    () => new Set(selected && selected.size > 0 ? part.hits.flatMap((h, i) => (selected.has(h.id) ? [] : [i])) : []),
    [part, selected],
  );
  const counts = useMemo(() => {
    const found = new Map<string, number>();
    part.hits.forEach((h, i) => !h.choke && !unselected.has(i) && found.set(h.voice, (found.get(h.voice) ?? 0) + 1));
    return found;
  }, [part, unselected]);
  const voices = useMemo(() => part.rows.map((r) => r.voice).filter((v) => counts.has(v)), [part, counts]);
  const chosen = useMemo(() => voices.filter((v) => !left.has(v)), [voices, left]);

  const { study, refusal } = useMemo((): { study: { plain: Study; shown: Study } | null; refusal: string } => {
    try {
      const options = { voices: chosen, perVoice, levels, beats, stepsPerBeat, without: unselected };
      const plain = studyGroove(lined, options, performance);
      const shown =
        strict && plain.outliers.length > 0
          ? studyGroove(lined, { ...options, without: new Set([...unselected, ...plain.outliers.map((o) => o.hit)]) }, performance)
          : plain;
      return { study: { plain, shown }, refusal: '' };
    } catch (e) {
      if (!isNamedError(e)) throw e;
      return { study: null, refusal: `${e.message} ${e.remedy}` };
    }
  }, [lined, performance, chosen, perVoice, levels, beats, stepsPerBeat, strict, unselected]);

  const empty = !study || (study.shown.timing === 'none' && study.shown.levels === 'none');
  const doubtful = study && study.shown.timing !== 'habit' && study.shown.levels !== 'habit';
  const toggle = (voice: string) => {
    const next = new Set(left);
    if (!next.delete(voice)) next.add(voice);
    setLeft(next);
  };
  const lengths = [1, bar / 2, bar, 2 * bar, 4 * bar]
    .filter((b, i, all) => b <= MOST_BEATS && all.indexOf(b) === i && Number.isInteger(b * stepsPerBeat))
    .sort((a, b) => a - b);

  return (
    <Modal
      open
      wide
      onClose={onClose}
      title="Extract a groove"
      about={`From ${selected && selected.size > 0 ? `${selected.size} selected hits of ` : ''}${part.name}: the timing and level of its hits, step by step.`}
    >
      {children}
      <div className="flex gap-6">
        <div className="w-72 shrink-0 space-y-3">
          <div className="leading-8">
            {isPlain ? (
              'Over '
            ) : (
              <>
                From what is{' '}
                <Picker
                  label="From"
                  value={source}
                  choices={[
                    { value: HEARD, text: 'heard, with its feel' },
                    { value: 'written', text: 'written' },
                  ]}
                  onChange={setSource}
                />
                , over{' '}
              </>
            )}
            <Picker
              label="Length"
              value={String(beats)}
              choices={lengths.map((b) => ({
                value: String(b),
                text: b === bar ? 'one bar' : b === 2 * bar ? 'two bars' : b === 4 * bar ? 'four bars' : `${counted(b, 'quarter')}`,
              }))}
              onChange={(b) => setBeats(Number(b))}
            />
            , in{' '}
            <Picker
              label="Steps"
              value={String(stepsPerBeat)}
              choices={STEPS.filter((s) => Number.isInteger(beats * s)).map((s) => ({
                value: String(s),
                text: s === 1 ? '1 step per quarter note' : `${s} steps per quarter note`,
              }))}
              onChange={(s) => setStepsPerBeat(Number(s))}
            />
          </div>
          {better !== null && (
            <label className="flex items-start gap-2">
              <input type="checkbox" className="mt-1 accent-accent" checked={fitted} onChange={(e) => setFitted(e.target.checked)} />
              <span>
                around lines moved by {tempoMapOf(part).between(ticks(part.origin), better).toFixed(0)} ms{' '}
                <span className="block text-sm text-faint">The whole part is off its own grid by the same amount.</span>
              </span>
            </label>
          )}
          <fieldset>
            <legend className="text-sm text-faint">Rows</legend>
            {voices.map((voice) => (
              <label key={voice} className="flex items-center gap-2">
                <input type="checkbox" className="accent-accent" checked={!left.has(voice)} onChange={() => toggle(voice)} />
                <span className="flex-1">{labelOfRow(part, voice)}</span>
                <span className="text-faint">{counts.get(voice)}</span>
              </label>
            ))}
          </fieldset>
          <label className="flex items-center gap-2">
            <input type="checkbox" className="accent-accent" checked={perVoice} onChange={(e) => setPerVoice(e.target.checked)} /> separate
            timing per row
          </label>
          <div>
            Levels:{' '}
            <Picker
              label="Levels"
              value={levels}
              choices={[
                { value: 'rows', text: 'relative to each row' },
                { value: 'all', text: 'one level for all rows' },
              ]}
              onChange={(l) => setLevels(l as LearntLevels)}
            />
          </div>
        </div>
        <div className="min-w-0 flex-1">
          {study ? (
            <>
              <GroovePicture groove={study.shown.groove} width={640} height={110} />
              <p className={`font-serif text-base ${doubtful ? 'text-danger' : ''}`} data-testid="verdict">
                {verdictWords(study.shown.timing, study.shown.levels)}
              </p>
              <p className="text-sm text-faint" data-testid="study">
                {counted(study.shown.hits, 'hit')}; {fitWords(study.shown.groove.fit)}; the hits vary by {study.shown.scatterMs.toFixed(1)}{' '}
                ms around them.
              </p>
              {study.shown.commonMs !== null && (
                <p className="text-sm">
                  All steps are about {Math.abs(study.shown.commonMs).toFixed(0)} ms {study.shown.commonMs < 0 ? 'early' : 'late'}: move the
                  part’s grid on the Bench first to leave that out of the groove.
                </p>
              )}
              <LearntSteps groove={study.shown.groove} tempo={startTempo(part)} />
              <Outliers part={lined} outliers={study.plain.outliers} groove={study.plain.groove} left={strict} onLeave={setStrict} />
            </>
          ) : (
            <p role="alert" className="rounded-md border border-danger px-3 py-2">
              {refusal}
            </p>
          )}
        </div>
      </div>
      <form
        className="mt-4 flex items-center justify-end gap-2 border-t border-line pt-4"
        onSubmit={(e) => {
          e.preventDefault();
          if (study && !empty) onKeep({ ...study.shown.groove, name: name.trim() || 'Extracted groove' });
        }}
      >
        <label className="mr-auto flex items-center gap-2">
          Name
          <input
            className="h-8 w-64 rounded-md border border-strong bg-transparent px-2 focus:bg-ground"
            value={name}
            maxLength={120}
            onChange={(e) => setName(e.target.value)}
          />
        </label>
        <Button onClick={onClose}>Cancel</Button>
        <Button look="strong" type="submit" disabled={empty}>
          {doubtful && !empty ? 'Save it anyway' : 'Save the groove'}
        </Button>
      </form>
    </Modal>
  );
}
