'use client';

import { useBench } from '../store/context';

const WORDS = { saved: 'saved in this browser', saving: 'saving …', failed: 'not saved' } as const;

export function SaveMark() {
  const kind = useBench((s) => s.save.kind);
  return (
    <p data-testid="save-state" role="status" className={`px-1 text-xs ${kind === 'failed' ? 'font-semibold text-danger' : 'text-faint'}`}>
      {WORDS[kind]}
    </p>
  );
}
