import { useEffect, useRef, useState } from 'react';
import { SURE_COUNT, type BeatReading } from '@/core/beats/find-beats';
import type { FreeStroke } from '@/core/beats/strokes';
import { tempoOfCount, type Count } from '@/core/free-takes/adjust-count';
import { strokesOfPart } from '@/core/free-takes/strokes-of-part';
import type { Part } from '@/core/model/part';
import { showError } from '@/ui/notify';
import { findBeatsOf, followIn } from '@/workers/clients';
import { useBenchStore } from '../../store/context';
import { useTrial, type Trial } from '../../store/use-sweep';

/** Readings of a part, with the state that they belong to. */
export interface Found {
  base: Part;
  strokes: readonly FreeStroke[];
  readings: readonly BeatReading[];
}

export interface Finding {
  /** How far the search is, 0 to 1; null while none is under way. */
  progress: number | null;
  found: Found | null;
  /** The previewed count, possibly adjusted, and the index of the reading that it comes from. */
  chosen: { count: Count; from: number; bpm: number } | null;
  trial: Trial;
  /** @param taps seconds at which the first beats of a bar were tapped */
  look(taps?: readonly number[]): Promise<void>;
  cancel(): void;
  choose(count: Count, from: number): Promise<void>;
  /** Forgets what was found. */
  clear(): void;
}

/** Finds the beats of the part and previews a count until it is applied or cancelled. */
export function useFinding(): Finding {
  const { getState } = useBenchStore();
  const trial = useTrial();
  const job = useRef<AbortController | null>(null);
  const [progress, setProgress] = useState<number | null>(null);
  const [found, setFound] = useState<Found | null>(null);
  const [chosen, setChosen] = useState<Finding['chosen']>(null);
  useEffect(() => () => job.current?.abort(new DOMException('the page was left', 'AbortError')), []);

  /** Runs one job at a time; another takes its place. */
  const run = async (work: (signal: AbortSignal) => Promise<void>): Promise<void> => {
    job.current?.abort(new DOMException('another search began', 'AbortError'));
    const own = (job.current = new AbortController());
    try {
      await work(own.signal);
    } catch (e) {
      if (!own.signal.aborted) showError(e);
    } finally {
      if (job.current === own) setProgress(null);
    }
  };

  const tryOut = async (of: Pick<Found, 'base'>, count: Count, from: number, signal: AbortSignal) => {
    const { base } = of;
    // A recording starts with its first bar. A file keeps its time zero, since other tracks may refer to it.
    const followed = await followIn(bare(base), count, base.source ? 'kept' : 'cut', signal);
    if (signal.aborted) return;
    const { tempo, playerTempo, meter, origin, bars, hits } = followed;
    setChosen({ count, from, bpm: tempoOfCount(count).mean });
    trial.show('Let the grid follow the player', (p) =>
      p.hits === base.hits && playerTempo ? { ...p, tempo, playerTempo, meter, origin, bars, hits } : p,
    );
    getState().setTransport({ loop: true, fromBar: 0, toBar: bars });
    getState().setView({ scroll: origin });
  };

  return {
    progress,
    found,
    chosen,
    trial,
    look: (taps = []) =>
      run(async (signal) => {
        trial.cancel();
        const base = getState().part;
        setProgress(0);
        setFound(null);
        setChosen(null);
        const readings = await findBeatsOf(bare(base), taps, (done) => signal.aborted || setProgress(done), signal);
        const next: Found = { base, strokes: strokesOfPart(base), readings };
        setFound(next);
        const [first] = readings;
        if (first && first.likelihood >= SURE_COUNT.likely) await tryOut(next, first, 0, signal);
      }),
    cancel: () => job.current?.abort(new DOMException('cancelled', 'AbortError')),
    choose: (count, from) => run((signal) => (found ? tryOut(found, count, from, signal) : Promise.resolve())),
    clear: () => {
      setFound(null);
      setChosen(null);
    },
  };
}

/** The part without large members that the worker does not need. */
const bare = (part: Part): Part => {
  const { backing: _backing, heard: _heard, ...rest } = part;
  return rest;
};
