'use client';

import { CircleHelp } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button, IconButton } from '@/ui/Button';
import { useBench, useBenchStore } from '../store/context';
import { rememberLegend } from '../store/remembered';

/** What the pictures of hits say: each sign beside its words. */
const SIGNS: readonly { words: string; sign: ReactNode }[] = [
  { words: 'on the grid; the higher, the louder', sign: <Hit x={12} /> },
  { words: 'early', sign: <Hit x={7} role="early" /> },
  { words: 'late', sign: <Hit x={17} role="late" /> },
  { words: 'ghost', sign: <Hit x={12} height={12} hollow /> },
  { words: 'as written, if it sounds at another place', sign: <Hit x={17} role="late" pale /> },
  { words: 'off by more than the lean scale shows', sign: <Hit x={12} role="late" broken /> },
  { words: 'uncertain: between two lines', sign: <Hit x={16} role="late" doubtful /> },
  {
    words: 'counted 1 e & a, on triplets 1 & a',
    sign: <path d="M4 8v20M12 16v12M20 16v12" className="stroke-ink" strokeWidth={1.2} />,
  },
  {
    words: 'muted',
    sign: (
      <g className="opacity-40">
        <Hit x={12} />
        <circle cx={12} cy={29} r={2.6} className="fill-surface stroke-ink" strokeWidth={1.4} />
      </g>
    ),
  },
  { words: 'choke', sign: <path d="M7 28h10M12 30v-5" className="stroke-ink" strokeWidth={1.6} /> },
];

/** The sign of help beside the tools. */
export function Legend() {
  const shown = useBench((s) => s.ui.legend);
  const { getState } = useBenchStore();
  return (
    <IconButton
      label="What the pictures mean"
      aria-pressed={shown}
      className={shown ? 'text-accent' : 'text-faint'}
      onClick={() => getState().setUi({ legend: !shown })}
    >
      <CircleHelp size={17} />
    </IconButton>
  );
}

/** Open at the first visit, until it is dismissed. */
export function LegendLine() {
  const shown = useBench((s) => s.ui.legend);
  const { getState } = useBenchStore();
  if (!shown) return null;
  const dismiss = () => {
    rememberLegend();
    getState().setUi({ legend: false });
  };
  return (
    <section aria-label="What the pictures mean" className="flex shrink-0 items-center gap-3 border-t border-line bg-surface px-4 py-2">
      <ul className="flex min-w-0 flex-1 flex-wrap gap-x-5 gap-y-1 text-sm">
        {SIGNS.map(({ words, sign }) => (
          <li key={words} className="flex items-center gap-1.5">
            <svg width={24} height={32} aria-hidden="true" fill="none" strokeLinecap="round">
              {sign}
            </svg>
            {words}
          </li>
        ))}
      </ul>
      <Button size="small" onClick={dismiss}>
        Close
      </Button>
    </section>
  );
}

const ROLES = { line: 'stroke-ink fill-ink', early: 'stroke-early fill-early', late: 'stroke-late fill-late' };

interface HitProps {
  /** Of the head; the foot stands at 12. */
  x: number;
  role?: keyof typeof ROLES;
  height?: number;
  hollow?: boolean;
  pale?: boolean;
  broken?: boolean;
  doubtful?: boolean;
}

function Hit({ x, role = 'line', height = 21, hollow = false, pale = false, broken = false, doubtful = false }: HitProps) {
  const y = 29 - height;
  const side = role === 'early' ? -1 : 1;
  return (
    <>
      {pale && <path d="M12 29V8" className="stroke-pale" strokeWidth={1.5} />}
      {pale && <circle cx={12} cy={8} r={3.4} className="fill-pale" />}
      <g className={ROLES[role]}>
        <path d={`M12 29L${x} ${y}`} strokeWidth={2} />
        <circle cx={x} cy={y} r={hollow ? 3.4 : 4} strokeWidth={1.4} className={hollow ? '!fill-surface' : ''} />
        {role !== 'line' && <path d={`M${x + side * 4} ${y}h${side * 3}`} strokeWidth={1.6} />}
        {broken && <path d="M8 21l8-3" className="stroke-surface" strokeWidth={4} />}
        {broken && <path d="M8 22.6l8-3M8 19.4l8-3" strokeWidth={1.4} />}
        {doubtful && <path d="M5 31h3M10.5 31h3M16 31h3" strokeWidth={1.6} />}
      </g>
    </>
  );
}
