'use client';

import { useEffect, useRef, useState } from 'react';
import { soundEngine } from '@/sound/engine';

/** The lowest level that is shown, in dB. */
const LOWEST = -48;
/** The mark stays so long after the limiter has turned down. */
const STAYS_MS = 2000;

/** Nothing is heard. */
const EMPTY = { transform: 'scaleX(0)' };

const share = (peak: number): number => Math.max(0, Math.min(1, 1 - (20 * Math.log10(Math.max(peak, 1e-6))) / LOWEST));

/** How loud it is now, both sides, and a sign where the limiter turns down. A click on the sign takes it away. */
export function LevelMeter() {
  const bars = useRef<HTMLSpanElement>(null);
  const [over, setOver] = useState(0);
  useEffect(() => {
    const engine = soundEngine();
    let timer: ReturnType<typeof setTimeout> | undefined;
    const stop = engine.onLevel(() => {
      const { left, right, limited } = engine.level;
      const [l, r] = bars.current?.children ?? [];
      (l as HTMLElement | undefined)?.style.setProperty('transform', `scaleX(${share(left)})`);
      (r as HTMLElement | undefined)?.style.setProperty('transform', `scaleX(${share(right)})`);
      if (limited > 0.995) return;
      setOver((was) => Math.max(was, -20 * Math.log10(limited)));
      clearTimeout(timer);
      timer = setTimeout(() => setOver(0), STAYS_MS);
    });
    return () => {
      clearTimeout(timer);
      stop();
    };
  }, []);
  return (
    <>
      <span ref={bars} aria-hidden="true" className="inline-flex w-[92px] flex-col gap-[3px] self-center">
        <span style={EMPTY} className="h-[4px] w-full origin-left rounded-full bg-strong" />
        <span style={EMPTY} className="h-[4px] w-full origin-left rounded-full bg-strong" />
      </span>
      <button
        type="button"
        data-testid="limited"
        className={`text-sm ${over > 0 ? 'text-danger' : 'text-faint'}`}
        title="How much the limiter turns down the loudest moments, so that nothing clips"
        onClick={() => setOver(0)}
      >
        {over > 0 ? `turned down by ${over.toFixed(1)} dB` : 'limiter idle'}
      </button>
    </>
  );
}
