'use client';

import { useEffect, useRef } from 'react';
import { mod, roundOfBar } from '@/core/time/cycle';
import type { Groove } from '@/core/model/groove';
import { meterMapOf } from '@/core/part/part-time';
import { TICKS_PER_QUARTER } from '@/core/units';
import { heardParts } from '../store/heard';
import { useGroovesStore } from '../store/context';
import type { Hearing } from '../store/use-hearing';
import { stepWidth, type StemsFrame } from './groove-stems';

/** A thin line at the place of the groove that is heard now. */
export function Playhead({ hearing, groove, count, frame }: { hearing: Hearing; groove: Groove; count: number; frame: StemsFrame }) {
  const line = useRef<SVGLineElement>(null);
  const store = useGroovesStore();
  useEffect(() => {
    let frameId = 0;
    const show = () => {
      const tick = hearing.engine.position();
      const element = line.current;
      if (element) {
        if (tick === null) element.style.visibility = 'hidden';
        else {
          const map = meterMapOf(heardParts(store.getState()).plain);
          const length = (count / groove.stepsPerBeat) * TICKS_PER_QUARTER;
          const round = roundOfBar(map, map.barAt(tick).index, length);
          const x = 10 + stepWidth(frame, count) * ((mod(tick - round.start, length) / length) * count + 0.5);
          element.style.visibility = 'visible';
          element.style.transform = `translateX(${x}px)`;
        }
      }
      if (hearing.engine.isPlaying) frameId = requestAnimationFrame(show);
      else frameId = 0;
    };
    const wake = () => {
      if (frameId === 0) frameId = requestAnimationFrame(show);
    };
    wake();
    const stop = hearing.engine.subscribe(wake);
    return () => {
      stop();
      cancelAnimationFrame(frameId);
    };
  }, [hearing, groove, count, frame, store]);
  return (
    <line
      ref={line}
      x1={0}
      x2={0}
      y1={frame.height - 12}
      y2={frame.height}
      className="pointer-events-none stroke-accent"
      strokeWidth={2.5}
      style={{ visibility: 'hidden' }}
    />
  );
}
