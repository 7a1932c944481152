'use client';

import { counted } from '@/core/plurals';
import { useEffect, useState, useSyncExternalStore, type ReactNode } from 'react';
import { partOfPattern } from '@/core/commands/patterns';
import type { HitPattern } from '@/core/model/pattern';
import { microsecondsOf } from '@/core/time/tempo-map';
import { bpm, MAX_BPM, MIN_BPM } from '@/core/units';
import { PATTERN_FILE_ENDING, writePatternFile } from '@/formats/pattern-format';
import { hearBars } from '@/sound/hear-once';
import { soundEngine } from '@/sound/engine';
import { patternStore } from '@/storage/pattern-store';
import { summarize } from '@/storage/summary';
import { useStored } from '@/storage/use-stored';
import { Button } from '@/ui/Button';
import { KeptList, type LibraryItem } from '@/ui/KeptList';
import { NumberField } from '@/ui/NumberField';
import { showError } from '@/ui/notify';
import { TinyStems } from '@/ui/TinyStems';

interface Item extends LibraryItem {
  pattern: HitPattern;
}

const USUAL_BPM = 100;

/** @example aboutPattern(pattern) // '12 hits, 2 rows, 4/4' */
const aboutPattern = ({ hits, rows, meter }: HitPattern): string => {
  const count = Object.keys(rows).length;
  return `${counted(hits.length, 'hit')}, ${counted(count, 'row')}, ${meter.join('/')}`;
};

/** The patterns that are kept: seen, heard at a tempo, renamed, given away, deleted. */
export function PatternBook({ empty }: { empty: ReactNode }) {
  const kept = useStored(() => patternStore.list().catch(() => []), []);
  const [tempo, setTempo] = useState(USUAL_BPM);
  const [heard, setHeard] = useState<string | null>(null);
  const engine = soundEngine();
  const playing = useSyncExternalStore(
    engine.subscribe,
    () => engine.isPlaying,
    () => false,
  );
  useEffect(() => () => engine.stop(), [engine]);
  const hear = ({ name, pattern }: Item) => {
    if (playing && heard === name) return engine.stop();
    const part = partOfPattern(pattern, microsecondsOf(bpm(tempo)));
    setHeard(name);
    hearBars(part, 0, part.bars, true).catch(showError);
  };
  if (!kept) return null;
  if (kept.length === 0) {
    return (
      <div className="rounded-lg border border-dashed border-strong px-6 py-6">
        {empty}
        <p>No patterns yet. On the Bench, choose hits, a row or a section, and save it in the pattern book.</p>
      </div>
    );
  }
  return (
    <>
      <p className="mb-1 leading-8">
        Loop patterns at{' '}
        <NumberField
          label="Tempo to hear patterns at"
          value={tempo}
          min={MIN_BPM}
          max={MAX_BPM}
          unit="BPM"
          default={USUAL_BPM}
          onChange={setTempo}
        />
      </p>
      <KeptList<Item>
        what="pattern"
        own={kept.map(({ name, pattern }) => ({ name, pattern, about: aboutPattern(pattern) }))}
        picture={({ pattern }) => <TinyStems summary={summarize(partOfPattern(pattern))} />}
        usesOf={(item) => (
          <Button
            size="small"
            aria-label={playing && heard === item.name ? `Stop ${item.name}` : `Hear ${item.name}`}
            onClick={() => hear(item)}
          >
            {playing && heard === item.name ? 'Stop' : 'Hear'}
          </Button>
        )}
        rename={(item, name) => patternStore.rename(item, name)}
        remove={(item) => patternStore.remove(item)}
        file={({ pattern }) => ({ text: writePatternFile(pattern), ending: PATTERN_FILE_ENDING })}
      />
    </>
  );
}
