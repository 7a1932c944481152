'use client';

import { ChevronDown } from 'lucide-react';
import { plural } from '@/core/plurals';
import { useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { tempoMapOf, meterMapOf } from '@/core/part/part-time';
import { ticksOfBars } from '@/core/commands/settings';
import { labelOfRow } from '@/core/part/rows';
import { strokesOfPattern, PRACTICE_PATTERNS, type LoopShape, type PracticePattern } from '@/core/take/practice-patterns';
import { MEASURED_CLICKS, MEASURED_GAP } from '@/core/take/latency';
import type { PlannedStroke } from '@/core/take/practice';
import { GRIDS, stepOf, type GridName } from '@/core/time/grid';
import { milliseconds, seconds } from '@/core/units';
import { keyOfVoice } from '@/core/key-map';
import { PracticePlayer } from '@/devices/practice-player';
import { midiPorts, type MidiPorts } from '@/devices/web-midi';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { soundEngine } from '@/sound/engine';
import { useRecorded, useRecording } from '../../recording/context';
import type { BenchStore } from '../../store/bench-store';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { CurveFields } from '../../dialogs/CurveFields';
import { LearnPad } from '../../shared/LearnPad';
import { DeviceLearning } from './DeviceLearning';
import { PracticeSettings } from './PracticeSettings';
import { VelocityCurvePicture } from './VelocityCurvePicture';

const narrow = '[&_input]:w-[3em]';

/** The loop that is recorded over, as the practice player sees it. */
function loopShape(store: BenchStore): LoopShape {
  const { part, transport } = store.getState();
  const range = ticksOfBars(part, transport.fromBar, transport.toBar);
  const tempo = tempoMapOf(part);
  const map = meterMapOf(part);
  const start = tempo.toSeconds(range.start);
  const bars = Array.from({ length: transport.toBar - transport.fromBar }, (_, i) => {
    const bar = map.barOf(transport.fromBar + i);
    const at = tempo.toSeconds(bar.start);
    return {
      start: at - start,
      length: tempo.toSeconds((bar.start + bar.length) as typeof bar.start) - at,
      sixteenths: Math.max(1, Math.round(bar.length / stepOf('1/16'))),
    };
  });
  return { length: seconds(tempo.toSeconds(range.end) - start), bars };
}

/** While latency is measured it taps along with the clicks. */
const taps = (from: number, to: number): PlannedStroke[] =>
  Array.from({ length: MEASURED_CLICKS }, (_, i) => i * MEASURED_GAP)
    .filter((at) => at >= from && at < to)
    .map((at) => ({ at: seconds(at), key: 37, velocity: 90 }));

/** The device that is played, its latency, how its velocities are read, and its pads. */
export function InputSection() {
  const { recorder, pads } = useRecording();
  const store = useBenchStore();
  const input = useRecorded((s) => s.input.id);
  const measuring = useRecorded((s) => s.measuring);
  const found = useRecorded((s) => s.found);
  const latency = useRecorded((s) => s.input.latencyMs);
  const [ports, setPorts] = useState<MidiPorts | null>(null);
  const practice = useMemo(() => {
    const engine = soundEngine();
    return new PracticePlayer(
      {
        now: () => engine.heardNow(),
        pageTimeOf: (audio) => engine.pageTimeOf(audio),
        startedAt: () => recorder.freeSince ?? engine.startedAt,
      },
      () => {
        const { practice: how, pattern, measuring: m } = recorder.state.getState();
        if (m) return { practice: how, plan: taps, span: seconds(MEASURED_CLICKS * MEASURED_GAP) };
        const shape = loopShape(store);
        const { kitMap } = store.getState().part;
        const played = PRACTICE_PATTERNS[pattern] as PracticePattern;
        return {
          // A click holds the tempo.
          practice: recorder.freeSince === null ? { ...how, wanderPercent: 0 } : how,
          plan: (from, to) => strokesOfPattern(played, (voice) => keyOfVoice(kitMap, voice), shape, from, to),
          span: seconds(shape.length * 2),
        };
      },
    );
  }, [recorder, store]);
  useEffect(() => {
    if (ports?.kind === 'ports') return ports.onChange(() => void midiPorts(true).then(setPorts));
  }, [ports]);
  const listed = [pads, practice, ...(ports?.kind === 'ports' ? ports.inputs : [])];
  // A port that is played stays among them, though nobody has looked for ports since this page was opened.
  const { device } = recorder;
  const devices = device && !listed.some((d) => d.id === device.id) ? [...listed, device] : listed;
  return (
    <div className="space-y-2">
      <Picker
        label="Play from"
        className="mr-1.5"
        value={input}
        choices={devices.map((d) => ({ value: d.id, text: d.name }))}
        onChange={(id) => recorder.connect(devices.find((d) => d.id === id) ?? pads)}
      />
      {ports === null ? (
        <Button size="small" onClick={() => void midiPorts().then(setPorts)}>
          Look for MIDI devices
        </Button>
      ) : ports.kind === 'refused' ? (
        <p className="text-sm" role="status">
          {ports.why}{' '}
          <button type="button" className="underline underline-offset-2" onClick={() => void midiPorts(true).then(setPorts)}>
            Ask again
          </button>
        </p>
      ) : (
        <p className="text-sm text-faint">
          {ports.inputs.length === 0
            ? 'No MIDI device is plugged in.'
            : `${ports.inputs.length} MIDI ${plural(ports.inputs.length, 'device')} found.`}
        </p>
      )}
      {input === 'pads' && (
        <p className="text-sm text-faint">Show the pads below the hits; computer keys play too while “keys play” is on.</p>
      )}
      <PadButtons />
      {input === 'practice' && <PracticeSettings />}
      <div className="border-t border-line pt-2">
        <div className="flex flex-wrap items-baseline gap-2">
          <NumberField
            label="Input latency"
            value={latency}
            min={-100}
            max={500}
            digits={1}
            unit="ms late"
            default={0}
            className={narrow}
            onChange={(v) => recorder.tune({ latencyMs: v })}
          />
          {measuring ? (
            <Button size="small" onClick={recorder.stopMeasuring}>
              Stop measuring
            </Button>
          ) : (
            <Button size="small" onClick={recorder.measure}>
              Measure
            </Button>
          )}
        </div>
        <p className="text-sm text-faint" role="status" data-testid="latency">
          {measuring
            ? `Tap along with the clicks: ${measuring.clicks} of ${MEASURED_CLICKS}, ${measuring.taps} taps.`
            : found
              ? `Found ${found.latencyMs.toFixed(1)} ms, ± ${found.spreadMs.toFixed(1)} ms over ${found.taps} taps. It is subtracted from new takes.`
              : found === false
                ? 'Too few taps to measure. Tap once with each click.'
                : 'How late this device reports a hit. It is subtracted from new takes; the output’s own delay is already known.'}
        </p>
      </div>
      <Delay />
      <Reading />
    </div>
  );
}

/** Longer than this is felt. */
const FELT_MS = 15;

/** How long it takes from a pad to its sound. */
function Delay() {
  const latency = useRecorded((s) => s.input.latencyMs);
  const engine = soundEngine();
  const out = useSyncExternalStore(
    engine.subscribe,
    () => engine.delayMs,
    () => null,
  );
  if (out === null) return <p className="text-sm text-faint">Play a pad to see how long it takes to sound.</p>;
  const all = Math.max(0, latency) + out;
  return (
    <p className="text-sm" data-testid="pad-delay">
      From pad to sound: {all.toFixed(0)} ms{latency > 0 ? `, ${latency.toFixed(0)} of them to get here` : ''}.
      {all > FELT_MS && ' You will feel that: listen to the device itself while you play, or choose a faster output.'}
    </p>
  );
}

/** Velocities and guards of the device. */
function Reading() {
  const { recorder } = useRecording();
  const { id, curve, guards } = useRecorded((s) => s.input);
  const { tune } = recorder;
  return (
    <details className="group border-t border-line pt-2" key={id}>
      <summary className="flex cursor-pointer list-none items-center justify-between [&::-webkit-details-marker]:hidden">
        Velocity and guards
        <ChevronDown size={15} className="text-faint transition-transform group-open:rotate-180" />
      </summary>
      <VelocityCurvePicture curve={curve} />
      <div className="flex flex-wrap items-baseline gap-x-3 leading-8">
        <CurveFields curve={curve} onChange={(next) => tune({ curve: next })} />
        <NumberField
          label="Ignore below"
          value={guards.below}
          min={1}
          max={60}
          unit="ignored below"
          default={1}
          className={narrow}
          onChange={(below) => tune({ guards: { ...guards, below } })}
        />
        <NumberField
          label="Ignore a second hit within"
          value={guards.doubleMs}
          min={0}
          max={80}
          unit="ms"
          default={12}
          className={narrow}
          onChange={(ms) => tune({ guards: { ...guards, doubleMs: milliseconds(ms) } })}
        />
      </div>
      <DeviceLearning />
      <PadLearning />
    </details>
  );
}

/** Which voice a pad of the device plays. */
function PadLearning() {
  const { recorder } = useRecording();
  const part = useBench(calmPart);
  const pads = useRecorded((s) => s.input.pads) ?? {};
  const choices = part.rows.map((r) => ({ value: r.voice, text: labelOfRow(part, r.voice) }));
  const learn = (voice: string, key: number) =>
    recorder.tune({ pads: { ...recorder.state.getState().input.pads, [key]: keyOfVoice(part.kitMap, voice) } });
  return (
    <LearnPad
      words="Give a pad to"
      label="Row to give a pad to"
      placeholder="a row"
      choices={choices}
      known={Object.keys(pads).length}
      onLearn={learn}
      onForget={() => recorder.tune({ pads: {} })}
    />
  );
}

/** Pads on the screen, and keys that play. */
export function PadButtons() {
  const { recorder } = useRecording();
  const padsShown = useRecorded((s) => s.padsShown);
  const keysPlay = useRecorded((s) => s.keysPlay);
  const levelsOf = useRecorded((s) => s.levelsOf);
  const holdGrid = useRecorded((s) => s.holdGrid);
  const part = useBench(calmPart);
  return (
    <>
      <div className="flex gap-2">
        <Button size="small" aria-pressed={padsShown} onClick={() => recorder.set({ padsShown: !padsShown })}>
          {padsShown ? 'Hide the pads' : 'Show the pads'}
        </Button>
        <Button
          size="small"
          aria-pressed={keysPlay}
          title="Letters strike pads instead of being shortcuts"
          onClick={() => recorder.set({ keysPlay: !keysPlay, padsShown: padsShown || !keysPlay })}
        >
          {keysPlay ? 'Keys play: on' : 'Keys play'}
        </Button>
      </div>
      <p className="leading-8">
        Pads play{' '}
        <Picker
          label="Pads play"
          value={levelsOf ?? ROWS}
          choices={[
            { value: ROWS, text: 'a row each' },
            ...part.rows.map((r) => ({ value: r.voice, text: `${labelOfRow(part, r.voice).toLowerCase()}, sixteen velocities` })),
          ]}
          onChange={(row) => recorder.set({ levelsOf: row === ROWS ? null : row })}
        />
        ; held, they strike{' '}
        <Picker
          label="Held pads"
          value={holdGrid ?? ONCE}
          choices={[{ value: ONCE, text: 'once' }, ...GRIDS.map((g) => ({ value: g, text: `on ${g}, as swung` }))]}
          onChange={(g) => recorder.set({ holdGrid: g === ONCE ? null : (g as GridName) })}
        />
      </p>
    </>
  );
}

const ROWS = '\u0000rows';
const ONCE = 'once';
