'use client';

import { counted, plural } from '@/core/plurals';
import { stalledHits } from '@/core/take/stalls';
import { format } from 'date-fns';
import dynamic from 'next/dynamic';
import { useMemo, useState } from 'react';
import { EMPTY_FEEL } from '@/core/model/feel';
import { partOfFreeTake, takesFreeTake } from '@/core/take/free-take';
import { detectTake } from '../../actions/detect';
import { openPage } from '../../actions/open-page';
import { deleteTake, hitsFromTake, hitsOfTake, placeTakeAnew, putTake } from '@/core/take/use-take';
import { rawMidi } from '@/core/take/raw-midi';
import { tightnessOf } from '@/core/take/tightness';
import { withHits } from '@/core/take/hits-of-take';
import { milliseconds } from '@/core/units';
import { versionStore } from '@/storage/version-store';
import { takeStore, type StoredTake } from '@/storage/take-store';
import { Button } from '@/ui/Button';
import { EmptyPicture } from '@/ui/EmptyPicture';
import { download, fileNameOf } from '@/ui/download';
import { NumberField } from '@/ui/NumberField';
import { say, showError, tell } from '@/ui/notify';
import { useRecorded } from '../../recording/context';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { tightnessWords } from './words';
import { useTakes } from '../../shared/use-takes';

const LearnFromBench = dynamic(() => import('../../dialogs/LearnFromBench'), { ssr: false });

/** Every take of the part: heard as played, used, compared, renamed, given away, deleted. Its raw events never change. */
export function TakesList() {
  const takes = useTakes();
  const current = useRecorded((s) => (s.phase === 'counting' || s.phase === 'recording' ? s.take?.id : undefined));
  const shown = takes.filter((t) => t.take.id !== current);
  if (shown.length === 0 && current) return <p className="text-faint">The first one is being recorded.</p>;
  if (shown.length === 0) {
    return (
      <>
        <EmptyPicture className="mb-1" />
        <p className="text-faint">No takes yet. Press Record and play along; without hardware choose the practice player below.</p>
      </>
    );
  }
  return (
    <ul className="space-y-2" aria-label="Takes">
      {shown.map((t) => (
        <TakeItem key={t.take.id} stored={t} />
      ))}
    </ul>
  );
}

function TakeItem({ stored: { take, events } }: { stored: StoredTake }) {
  const store = useBenchStore();
  const { getState } = store;
  const part = useBench(calmPart);
  const heard = useBench((s) => s.ui.other?.id === take.id);
  const [name, setName] = useState<string | null>(null);
  const used = useMemo(() => hitsFromTake(part, take.id).size, [part, take.id]);
  const { kitMap, breaks, meter, origin, tempo } = part;
  const [learning, setLearning] = useState(false);
  /** The take by itself, as a part. */
  const alone = useMemo(
    () =>
      take.free
        ? partOfFreeTake({ ...getState().part, feel: EMPTY_FEEL, kitMap }, take, events)
        : withHits(
            { ...getState().part, feel: EMPTY_FEEL, kitMap, meter, origin, tempo, hits: [] },
            hitsOfTake({ kitMap, ...(breaks ? { breaks } : {}) }, take, events),
          ),
    [take, events, kitMap, breaks, meter, origin, tempo, getState],
  );
  const tightness = useMemo(() => tightnessOf(alone), [alone]);
  const stalled = useMemo(() => stalledHits(take, events), [take, events]);
  const takeName = () => {
    if (name?.trim() && name.trim() !== take.name) takeStore.update({ ...take, name: name.trim().slice(0, 120) }).catch(showError);
    setName(null);
  };
  const hearRaw = () =>
    getState().setUi({
      other: heard
        ? null
        : {
            name: `${take.name}, as played`,
            id: take.id,
            feel: EMPTY_FEEL,
            part: take.free ? alone : putTake({ ...getState().part, feel: EMPTY_FEEL }, take, events),
          },
    });
  const use = () => {
    if (take.free) return putFree();
    getState().run(`Use ${take.name}`, (p) => putTake(p, take, events));
    detectTake(store, take, events).catch(showError);
    // How it came stays at hand for comparing.
    versionStore.keep(getState().id, { name: `As played: ${take.name}`, part: getState().part }).catch(showError);
  };
  /** A take without a click brings its own grid. */
  const putFree = () => {
    if (!takesFreeTake(getState().part, take.id))
      return say('This take was played without a click. Use it in a part without other hits, sections or recorded loops.');
    getState().run(`Use ${take.name}`, (p) => partOfFreeTake(p, take, events));
    openPage(store, 'tempo');
  };
  const setLatency = (ms: number) => {
    const changed = { ...take, latencyMs: milliseconds(ms) };
    takeStore.update(changed).catch(showError);
    if (used === 0) return;
    getState().run(`Input latency of ${take.name}: ${ms} ms`, (p) => placeTakeAnew(p, changed, events));
    detectTake(store, changed, events).catch(showError);
  };
  const remove = () => {
    getState().run(`Delete ${take.name}`, (p) => deleteTake(p, take.id));
    tell(`${take.name} is deleted; the hits that came from it stay.`, { label: 'Undo', onClick: () => getState().undo() });
  };
  return (
    <li className="rounded-md border border-line p-2" data-take={take.id}>
      <div className="flex items-baseline gap-2">
        <input
          aria-label={`Name of ${take.name}`}
          value={name ?? take.name}
          maxLength={120}
          onChange={(e) => setName(e.target.value)}
          onBlur={takeName}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
          className="min-w-0 flex-1 truncate rounded bg-transparent px-1 font-serif text-base hover:bg-sunk focus:bg-ground"
        />
        {used > 0 && <span className="text-sm text-accent">in use</span>}
      </div>
      <p className="px-1 text-sm text-faint">
        {format(take.recordedAt, 'd MMM, HH:mm')} · {take.input} · {events.filter((e) => e.kind === 'note').length} strokes
        {take.passes > 0 ? ` in ${counted(take.passes, 'pass', 'passes')}` : ''}
        {!take.complete && ' · ended early; everything up to there was kept'}
      </p>
      {stalled.length > 0 && (
        <p className="px-1 text-sm">
          The machine stalled {counted(take.stalls?.length ?? 0, 'time')} while this was recorded: {counted(stalled.length, 'hit')} may be
          off.{' '}
          <Button size="small" onClick={() => getState().select(stalled)}>
            Select {plural(stalled.length, 'it', 'them')}
          </Button>
        </p>
      )}
      <p className="px-1 text-sm" data-testid="tightness">
        {take.free ? 'played without a click' : tightnessWords(tightness)}
      </p>
      <div className="mt-1 flex flex-wrap items-baseline gap-1.5">
        <Button size="small" aria-pressed={heard} title="Compare with the take as played: hold Shift Q" onClick={hearRaw}>
          {heard ? 'Hold Shift Q: as played' : 'Hear as played'}
        </Button>
        <Button size="small" onClick={use}>
          Use
        </Button>
        <Button size="small" onClick={() => setLearning(true)}>
          Extract a groove
        </Button>
        <Button size="small" onClick={() => download(rawMidi(take, events), `${fileNameOf(take.name)}-as-played.mid`, 'audio/midi')}>
          Export as played
        </Button>
        <Button size="small" onClick={remove}>
          Delete
        </Button>
        {!take.free && (
          <NumberField
            label={`Input latency of ${take.name}`}
            value={take.latencyMs}
            min={-100}
            max={500}
            digits={1}
            unit="ms off"
            className="text-sm [&_input]:w-[3em]"
            onChange={setLatency}
          />
        )}
      </div>
      {learning && <LearnFromBench part={{ ...alone, name: take.name }} onClose={() => setLearning(false)} />}
    </li>
  );
}
