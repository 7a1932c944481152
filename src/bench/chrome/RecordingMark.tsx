'use client';

import { useRecorded } from '../recording/context';

/** That it records, and which pass, on any page. */
export function RecordingMark() {
  const phase = useRecorded((s) => s.phase);
  const isFree = useRecorded((s) => s.take?.free === true);
  const pass = useRecorded((s) => s.pass);
  if (phase !== 'counting' && phase !== 'recording') return null;
  return (
    <span role="status" data-testid="recording" className="rounded bg-accent px-2 py-0.5 text-on-accent whitespace-nowrap">
      {phase === 'counting' ? 'count-in' : isFree ? 'recording' : `recording, pass ${pass + 1}`}
    </span>
  );
}
