'use client';

import { SURE_COUNT } from '@/core/beats/find-beats';
import { beatsOfBar, doubleTempo, halfTempo, tempoOfCount, withBeatOne, withBeatsToBar, type Count } from '@/core/free-takes/adjust-count';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { usePlaybackOf } from '../../playback/context';
import { useRecording } from '../../recording/context';
import { TrialButtons } from '../../shared/TrialButtons';
import { CountPicture } from './CountPicture';
import type { Finding, Found } from './use-finding';
import { countWords } from './words';

/** Fewer beats make no tempo. */
const FEWEST = 3;

/** The possible counts of a take as cards to preview, with buttons that adjust the chosen one. */
export function Counts({ finding, found }: { finding: Finding; found: Found }) {
  const { playLoop } = usePlaybackOf();
  const { recorder } = useRecording();
  const playWithClick = () => {
    recorder.set({ clickAlways: true });
    playLoop(0.1);
  };
  const { chosen, trial, choose } = finding;
  const { readings, strokes } = found;
  const [first] = readings;
  if (!first) return <p role="status">No beat was found in these hits.</p>;
  const isCertain = first.likelihood >= SURE_COUNT.certain;
  const change = (count: Count) => chosen && count.beats.length >= FEWEST && void choose(count, chosen.from);
  const bar = chosen ? beatsOfBar(chosen.count.meter) : 1;
  return (
    <section aria-label="Ways to count it" className="space-y-2">
      <p role="status">
        {isCertain
          ? `Found ${countWords(first, first.bpm.mean)}.`
          : first.likelihood >= SURE_COUNT.likely
            ? 'Probably the first of these.'
            : 'Which of these fits?'}{' '}
        Choose one and listen to it with the click.
      </p>
      <div className="space-y-1.5" role="radiogroup" aria-label="Count">
        {readings.map((reading, i) => {
          const isChosen = trial.active && chosen?.from === i;
          const count = isChosen && chosen ? chosen.count : reading;
          return (
            <button
              key={i}
              type="button"
              role="radio"
              aria-checked={isChosen}
              className={`block w-full rounded-md border p-2 text-left ${isChosen ? 'border-accent bg-sunk' : 'border-line hover:bg-sunk'}`}
              onClick={() => void choose(reading, i)}
            >
              <span className="flex items-baseline justify-between">
                <span className="font-serif">{countWords(count, tempoOfCount(count).mean)}</span>
                <span className="text-sm text-faint">{Math.round(reading.likelihood * 100)} % likely</span>
              </span>
              <CountPicture strokes={strokes} count={count} />
            </button>
          );
        })}
      </div>
      {chosen && trial.active && (
        <>
          <div className="flex flex-wrap items-center gap-1.5">
            <Button size="small" onClick={() => change(halfTempo(chosen.count))}>
              Half tempo
            </Button>
            <Button size="small" onClick={() => change(doubleTempo(chosen.count))}>
              Double tempo
            </Button>
            <Button size="small" onClick={() => change(withBeatOne(chosen.count, chosen.count.downbeat + bar - 1))}>
              Beat 1 earlier
            </Button>
            <Button size="small" onClick={() => change(withBeatOne(chosen.count, chosen.count.downbeat + 1))}>
              Beat 1 later
            </Button>
          </div>
          {chosen.count.meter[1] === 4 && (
            <NumberField
              label="Beats per bar"
              value={chosen.count.meter[0]}
              min={2}
              max={7}
              unit="beats per bar"
              default={readings[chosen.from]?.meter[0] ?? 4}
              className="[&_input]:w-[2.4em]"
              onChange={(n) => change(withBeatsToBar(chosen.count, n))}
            />
          )}
          <div className="flex gap-1.5">
            <Button size="small" onClick={playWithClick}>
              Play with click
            </Button>
            <TrialButtons trial={trial} />
          </div>
        </>
      )}
    </section>
  );
}
