'use client';

import { plural } from '@/core/plurals';
import { useEffect, useRef, useState } from 'react';
import { changeBacking, setBacking } from '@/core/commands/backing';
import { setTempo, startTempo } from '@/core/commands/settings';
import { BACKING, type Backing } from '@/core/model/backing';
import { meterMapOf, tempoMapOf } from '@/core/part/part-time';
import { bpm, seconds } from '@/core/units';
import { bringRecording } from '@/breaks/bring-break';
import { partStore } from '@/storage/part-store';
import { recordingStore } from '@/storage/recording-store';
import { useStored } from '@/storage/use-stored';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { say, showError } from '@/ui/notify';
import { OnsetDetector, tracksOfSong } from '@/workers/clients';
import type { TrackChoice } from '@/workers/tones.worker';
import { usePlaybackOf } from '../../playback/context';
import { useBench, useBenchStore } from '../../store/context';
import { useSweep } from '../../store/use-sweep';
import { DownbeatPicture } from './DownbeatPicture';

const narrow = '[&_input]:w-[3.4em]';

/** What is heard beside the part: a recording, and the song's other tracks. */
export function BesideSection() {
  const hasSong = useBench((s) => s.hasSong && s.idea === null);
  return (
    <div className="space-y-3">
      <BackingSection />
      {hasSong && <OtherTracks />}
      <LeadBars />
    </div>
  );
}

/** Bars that are played before the loop. */
function LeadBars() {
  const { getState } = useBenchStore();
  const bars = useBench((s) => s.ui.leadBars);
  return (
    <p className="border-t border-line pt-2">
      Play{' '}
      <NumberField
        label="Bars before the loop"
        value={bars}
        min={0}
        max={8}
        unit={plural(bars, 'bar before the loop', 'bars before the loop')}
        default={0}
        className="[&_input]:w-[2.4em]"
        onChange={(leadBars) => getState().setUi({ leadBars })}
      />
    </p>
  );
}

/** The song's other tracks as plain tones; the bass alone at first. */
function OtherTracks() {
  const { getState } = useBenchStore();
  const id = useBench((s) => s.id);
  const heard = useBench((s) => s.ui.tracksBeside);
  const [tracks, setTracks] = useState<readonly TrackChoice[] | null>(null);
  useEffect(() => {
    let isOver = false;
    const read = async () => {
      const song = await partStore.song(id);
      const found = song ? await tracksOfSong(song, getState().part.source?.lanes ?? []) : [];
      if (!isOver) setTracks(found);
    };
    read().catch(showError);
    return () => {
      isOver = true;
    };
  }, [id, getState]);
  const set = (tracksBeside: readonly string[]) => getState().setUi({ tracksBeside });
  if (tracks === null || tracks.length === 0) return null;
  const first = (tracks.find((t) => t.isBass) ?? tracks[0]) as TrackChoice;
  return (
    <div role="group" aria-label="Other tracks of the song" className="border-t border-line pt-2">
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="accent-accent"
          checked={heard.length > 0}
          onChange={(e) => set(e.target.checked ? [first.id] : [])}
        />{' '}
        the song’s other tracks, as plain tones
      </label>
      {heard.length > 0 &&
        tracks.map((t) => (
          <label key={t.id} className="ml-5 flex items-center gap-1.5 truncate text-sm">
            <input
              type="checkbox"
              className="accent-accent"
              checked={heard.includes(t.id)}
              onChange={(e) => set(e.target.checked ? [...heard, t.id] : heard.filter((h) => h !== t.id))}
            />{' '}
            {t.name}
          </label>
        ))}
    </div>
  );
}

/** A recording that is heard beside the part: at its own speed, round the loop with it, in no export. */
function BackingSection() {
  const { getState } = useBenchStore();
  const backing = useBench((s) => s.part.backing);
  const input = useRef<HTMLInputElement>(null);
  const job = useRef<AbortController | null>(null);
  const [reading, setReading] = useState<number | null>(null);
  const [found, setFound] = useState<number | null>(null);
  const bring = async (file: File) => {
    const controller = new AbortController();
    job.current = controller;
    setReading(0);
    const ear = new OnsetDetector();
    controller.signal.addEventListener('abort', () => ear.dispose(), { once: true });
    try {
      const { sample, name, blob, seconds: length } = await bringRecording(file, controller.signal);
      await ear.take(blob);
      const { readings } = await ear.listen((done) => setReading(done));
      if (controller.signal.aborted) return;
      const [likeliest] = readings;
      getState().run(`Add the backing track ${name}`, (p) =>
        setBacking(p, {
          sample,
          name,
          seconds: seconds(length),
          firstDownbeat: likeliest?.firstDownbeat ?? seconds(0),
          level: BACKING.level.usual,
          offsetMs: 0,
        }),
      );
      setFound(likeliest?.bpm ?? null);
    } catch (e) {
      if (!controller.signal.aborted) showError(e);
    } finally {
      ear.dispose();
      if (job.current === controller) setReading(null);
    }
  };
  if (reading !== null) {
    return (
      <div className="flex items-center gap-2">
        <progress aria-label="Listening to the recording" className="w-32 accent-accent" max={1} value={reading} />
        <Button
          size="small"
          onClick={() => {
            job.current?.abort();
            setReading(null);
          }}
        >
          Stop
        </Button>
      </div>
    );
  }
  return (
    <div
      className="space-y-2"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        const [file] = e.dataTransfer.files;
        if (!file) return;
        e.preventDefault();
        e.stopPropagation();
        void bring(file);
      }}
    >
      {backing ? (
        <Heard backing={backing} found={found} />
      ) : (
        <p className="text-sm text-faint">A recording of the song that plays along while you work. Drop it here. It is never exported.</p>
      )}
      <Button size="small" onClick={() => input.current?.click()}>
        {backing ? 'Another recording …' : 'A recording …'}
      </Button>
      <input
        ref={input}
        type="file"
        accept=".wav,audio/*"
        className="hidden"
        data-testid="backing-input"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          e.target.value = '';
          if (file) void bring(file);
        }}
      />
    </div>
  );
}

function Heard({ backing, found }: { backing: Backing; found: number | null }) {
  const { getState } = useBenchStore();
  const { engine } = usePlaybackOf();
  const sweep = useSweep();
  const tempo = useBench((s) => startTempo(s.part));
  const isHere =
    useStored(
      () =>
        recordingStore.ids().then(
          (ids) => ids.includes(backing.sample),
          () => true,
        ),
      [backing.sample],
    ) ?? true;
  const sweepBy = (change: Partial<Backing>) => sweep.show('Change the backing track', (p) => changeBacking(p, change));
  /** What is heard now becomes the downbeat of the nearest bar. */
  const tap = () => {
    const { part } = getState();
    const tick = engine.position();
    if (tick === null) return say('Press Play, then tap on a downbeat of the backing track.');
    const map = meterMapOf(part);
    const times = tempoMapOf(part);
    const bar = map.barAt(tick);
    const line = tick - bar.start > bar.length / 2 ? bar.start + bar.length : bar.start;
    const off = times.toSeconds(tick) - times.toSeconds(line as typeof tick);
    getState().run('Tap the first downbeat', (p) =>
      changeBacking(p, { firstDownbeat: seconds(Math.round((backing.firstDownbeat + off) * 1000) / 1000) }),
    );
  };
  return (
    <>
      <p>
        <span className="font-serif">{backing.name}</span>{' '}
        {!isHere && <span className="text-danger">is not in this browser: choose the same file again.</span>}
      </p>
      {isHere && <DownbeatPicture backing={backing} />}
      <div className="flex flex-wrap items-baseline gap-x-3 leading-8">
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="accent-accent"
            checked={backing.muted !== true}
            onChange={(e) =>
              getState().run(e.target.checked ? 'Turn the backing track on' : 'Mute the backing track', (p) =>
                changeBacking(p, { muted: !e.target.checked }),
              )
            }
          />{' '}
          heard
        </label>
        <NumberField
          label="Level of the backing track"
          value={backing.level}
          min={BACKING.level.min}
          max={BACKING.level.max}
          step={0.5}
          digits={1}
          unit="dB"
          default={BACKING.level.usual}
          className={narrow}
          onChange={(level) => sweepBy({ level })}
          onDone={sweep.done}
        />
        <NumberField
          label="First downbeat"
          value={backing.firstDownbeat}
          min={BACKING.firstDownbeat.min}
          max={BACKING.firstDownbeat.max}
          step={0.01}
          digits={3}
          unit="s in is bar 1"
          className="[&_input]:w-[4.4em]"
          onChange={(at) => sweepBy({ firstDownbeat: seconds(at) })}
          onDone={sweep.done}
        />
        <NumberField
          label="Drift"
          value={backing.offsetMs}
          min={BACKING.offsetMs.min}
          max={BACKING.offsetMs.max}
          digits={1}
          unit={backing.offsetMs < 0 ? 'ms earlier' : 'ms later'}
          default={0}
          className={narrow}
          onChange={(offsetMs) => sweepBy({ offsetMs })}
          onDone={sweep.done}
        />
      </div>
      <div className="flex flex-wrap gap-1.5">
        <Button size="small" onClick={tap}>
          Tap a downbeat
        </Button>
        {found !== null && Math.abs(found - tempo) > 0.05 && (
          <Button
            size="small"
            onClick={() => getState().run(`Use the backing track’s tempo, ${found.toFixed(1)} BPM`, (p) => setTempo(p, bpm(found)))}
          >
            Take its {found.toFixed(1)} BPM
          </Button>
        )}
        <Button size="small" onClick={() => getState().run('Remove the backing track', (p) => setBacking(p, null))}>
          Remove
        </Button>
      </div>
    </>
  );
}
