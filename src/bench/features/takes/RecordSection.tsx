'use client';

import { counted, listed, plural } from '@/core/plurals';
import { Circle, Square } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { startTempo } from '@/core/commands/settings';
import { CLICK_TONES, type ClickTone } from '@/core/playback/clicks';
import { labelOfRow } from '@/core/part/rows';
import { takesFreeTake } from '@/core/take/free-take';
import { emptyPart, FIRST_BEGINNING } from '@/core/part/empty-part';
import { partStore } from '@/storage/part-store';
import { Button } from '@/ui/Button';
import { Checkbox } from '@/ui/Checkbox';
import { NumberField } from '@/ui/NumberField';
import { say, showError } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { useBench } from '../../store/context';
import { calmPart } from '../../store/derived';
import { useRecorded, useRecording, WITHOUT_CLICK } from '../../recording/context';
import { countInOf } from '../../recording/recording-state';

const SUBDIVISIONS = [
  { value: '1', text: 'on beats' },
  { value: '2', text: 'twice per beat' },
  { value: '3', text: 'three per beat' },
  { value: '4', text: 'four per beat' },
];
const TONE_WORDS: Readonly<Record<ClickTone, string>> = { wood: 'a wood block', tick: 'a tick', bell: 'a bell' };
const narrow = '[&_input]:w-[2.6em]';

/** The one big button, and how it records. */
export function RecordSection() {
  const { recorder } = useRecording();
  const phase = useRecorded((s) => s.phase);
  const pass = useRecorded((s) => s.pass);
  const strokes = useRecorded((s) => s.strokes);
  const monitor = useRecorded((s) => s.monitor);
  const running = phase === 'counting' || phase === 'recording';
  const free = useRecorded((s) => s.free);
  const finding = useRecorded((s) => s.finding);
  const keep = () =>
    recorder
      .keepLastMinute()
      .then((kept) => say(kept ? 'The last minute was saved as a take.' : 'Nothing was played in the last minute.'), showError);
  return (
    <section aria-label="Record" className="space-y-2">
      <div className="flex items-center gap-3">
        {running ? (
          <Button look="strong" size="large" onClick={recorder.stop}>
            <Square size={14} fill="currentColor" /> Stop and keep the take
          </Button>
        ) : (
          <Button size="large" className="border-danger text-danger" onClick={recorder.start}>
            <Circle size={14} fill="currentColor" /> Record
          </Button>
        )}
        <p className="text-sm" role="status" data-testid="record-state">
          {phase === 'counting'
            ? 'Counting in …'
            : phase === 'recording'
              ? `${free ? '' : `Pass ${pass + 1}, `}${counted(strokes, 'stroke')}`
              : phase === 'done'
                ? `${counted(strokes, 'stroke')} kept`
                : free
                  ? 'Starts right away. The beats are found when you stop.'
                  : 'Records over the loop, pass after pass.'}
        </p>
      </div>
      {finding !== null && (
        <div className="flex items-center gap-2" role="status">
          <progress aria-label="Finding the beats" className="w-40 accent-accent" max={1} value={finding} />
          <Button size="small" onClick={recorder.cancelFinding}>
            Cancel
          </Button>
        </div>
      )}
      <div>
        Record{' '}
        <Picker
          label="Timing"
          value={free ? 'free' : 'click'}
          choices={[
            { value: 'click', text: 'to the click' },
            { value: 'free', text: 'without a click' },
          ]}
          onChange={(timing) => recorder.set({ free: timing === 'free' })}
        />
      </div>
      {free ? <NeedsEmptyPart /> : <ToTheClick />}
      <div>
        <Checkbox checked={monitor} onChange={(checked) => recorder.set({ monitor: checked })}>
          hear the pads
        </Checkbox>
      </div>
      {!free && (running || phase === 'done') && strokes > 0 && (
        <Button size="small" title="Removes its hits from the part; the take keeps what was played" onClick={recorder.dropPass}>
          Drop the last pass
        </Button>
      )}
      {!running && (
        <Button size="small" title="What you just played without recording becomes a take" onClick={() => void keep()}>
          Keep the last minute
        </Button>
      )}
    </section>
  );
}

/** The grid is made from the playing, so the part must be empty. */
function NeedsEmptyPart() {
  const isEmpty = useBench((s) => takesFreeTake(s.part, null));
  const router = useRouter();
  const begin = () => partStore.create(emptyPart(FIRST_BEGINNING)).then((id) => router.push(`/bench/${id}${WITHOUT_CLICK}`), showError);
  if (isEmpty) return null;
  return (
    <p className="text-sm">
      The grid is made from what you play, so it needs an empty part.{' '}
      <Button size="small" onClick={() => void begin()}>
        New part
      </Button>
    </p>
  );
}

/** Settings for recording to the click: count-in, passes, rows, click sound. */
function ToTheClick() {
  const { recorder } = useRecording();
  const countIn = useRecorded((s) => s.countIn);
  const click = useRecorded((s) => s.click);
  const clicking = useRecorded((s) => s.clicking);
  const passes = useRecorded((s) => s.passes);
  const mode = useRecorded((s) => s.mode);
  const tempo = useBench((s) => startTempo(s.part));
  const lead = countInOf({ countIn }, tempo);
  const always = useRecorded((s) => s.clickAlways);
  return (
    <>
      <div className="leading-8">
        Count in{' '}
        <NumberField
          label="Count-in"
          value={lead}
          min={0}
          max={4}
          unit={plural(lead, 'bar')}
          default={lead}
          className={narrow}
          onChange={(v) => recorder.set({ countIn: v })}
        />
        , then record{' '}
        <NumberField
          label="Passes to record"
          value={passes}
          min={0}
          max={64}
          unit={passes === 0 ? 'passes (until stopped)' : plural(passes, 'pass', 'passes')}
          default={0}
          className={narrow}
          onChange={(v) => recorder.set({ passes: v })}
        />
        . New passes{' '}
        <Picker
          label="Passes"
          value={mode}
          choices={[
            { value: 'layer', text: 'overdub' },
            { value: 'replace', text: 'replace' },
          ]}
          onChange={(m) => recorder.set({ mode: m as 'layer' | 'replace' })}
        />
      </div>
      <Rows />
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <Checkbox checked={clicking} onChange={(checked) => recorder.set({ clicking: checked })}>
          click while recording
        </Checkbox>
        <Checkbox checked={always} onChange={(checked) => recorder.set({ clickAlways: checked })}>
          during playback too
        </Checkbox>
      </div>
      <div className="flex flex-wrap items-center gap-x-2 gap-y-1">
        Clicks
        <Picker
          label="Clicks"
          value={String(click.perBeat)}
          choices={SUBDIVISIONS}
          onChange={(n) => recorder.set({ click: { ...click, perBeat: Number(n) } })}
        />
        as
        <Picker
          label="Tone of the click"
          value={click.tone}
          choices={Object.keys(CLICK_TONES).map((t) => ({ value: t, text: TONE_WORDS[t as ClickTone] }))}
          onChange={(tone) => recorder.set({ click: { ...click, tone: tone as ClickTone } })}
        />
        at level
        <NumberField
          label="Level of the click"
          value={click.level}
          min={1}
          max={127}
          unit="of 127"
          default={90}
          className={narrow}
          onChange={(level) => recorder.set({ click: { ...click, level } })}
        />
        <Checkbox checked={click.swung} onChange={(checked) => recorder.set({ click: { ...click, swung: checked } })}>
          swung
        </Checkbox>
      </div>
    </>
  );
}

/** Which rows are recorded; what is played for others is in the raw take alone. */
function Rows() {
  const { recorder } = useRecording();
  const part = useBench(calmPart);
  const rows = useRecorded((s) => s.rows);
  const [open, setOpen] = useState(false);
  const toggle = (voice: string) => {
    const next = new Set(rows);
    if (!next.delete(voice)) next.add(voice);
    recorder.set({ rows: next });
  };
  const words =
    rows.size === 0 ? 'all rows' : listed(part.rows.filter((r) => rows.has(r.voice)).map((r) => labelOfRow(part, r.voice).toLowerCase()));
  return (
    <div>
      Record{' '}
      <button
        type="button"
        aria-expanded={open}
        title="Choose which rows are recorded"
        className="rounded border-b border-strong px-1 text-left leading-6 hover:bg-sunk"
        onClick={() => setOpen(!open)}
      >
        {words}
      </button>
      {open && (
        <div className="mt-1 grid grid-cols-2 gap-x-3">
          {part.rows.map((r) => (
            <label key={r.voice} className="flex items-center gap-1.5 truncate text-sm">
              <input type="checkbox" className="accent-accent" checked={rows.has(r.voice)} onChange={() => toggle(r.voice)} /> record{' '}
              {labelOfRow(part, r.voice).toLowerCase()}
            </label>
          ))}
        </div>
      )}
    </div>
  );
}
