'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
import { partHeard, strokesCounted } from '@/core/breaks/heard-part';
import type { BreakStroke } from '@/core/breaks/strokes';
import type { Break } from '@/core/model/break';
import type { Part } from '@/core/model/part';
import { Button } from '@/ui/Button';
import { say, showError } from '@/ui/notify';
import { struckAt } from '../../breaks/onset-detector';

const LearnFromBench = dynamic(() => import('../../dialogs/LearnFromBench'), { ssr: false });

/** Learns a break's groove from the recording itself: its rows have one hit for what falls together, the recording has them all. */
export function LearnItsGroove({ of, strokes }: { of: Break; strokes: readonly BreakStroke[] }) {
  const [part, setPart] = useState<Part | null>(null);
  const [listening, setListening] = useState(false);
  const counted = strokesCounted(of, strokes);
  const learn = async () => {
    setListening(true);
    try {
      const struck = await struckAt(
        of,
        counted.map((s) => s.at),
      );
      if (struck) setPart(partHeard(of, counted, struck));
      else say(`The recording of ${of.name} is not in this browser: choose “select its hits”, then “Extract a groove” on the page Feel.`);
    } catch (e) {
      showError(e);
    } finally {
      setListening(false);
    }
  };
  return (
    <>
      <Button
        size="small"
        disabled={counted.length === 0 || listening}
        title="Uses every hit in the recording against its own bar lines. Edits to its hits here do not count."
        onClick={() => void learn()}
      >
        {listening ? 'Listening …' : 'Extract groove …'}
      </Button>
      {part && <LearnFromBench part={part} fromAudio onClose={() => setPart(null)} />}
    </>
  );
}
