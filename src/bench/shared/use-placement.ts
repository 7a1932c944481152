'use client';

import { useEffect, useMemo, useState } from 'react';
import { placementOf, type Placement } from '@/core/analysis/placement';
import type { Part } from '@/core/model/part';
import { measureInWorker } from '@/workers/clients';
import { FEW_HITS } from '../store/derived';

type Version = 'performed' | 'written';

/** What was measured stays as long as its part. */
const known: Readonly<Record<Version, WeakMap<Part, Placement>>> = { performed: new WeakMap(), written: new WeakMap() };

function measured(part: Part, version: Version): Placement {
  let found = known[version].get(part);
  if (!found) known[version].set(part, (found = placementOf(part, version)));
  return found;
}

/** What a part at rest measures: at once for few hits, from a worker for many; null until it is known, or where nothing is asked. */
export function usePlacement(part: Part | null, version: Version): Placement | null {
  const isLong = (part?.hits.length ?? 0) > FEW_HITS;
  const near = useMemo(() => (part && (!isLong || known[version].has(part)) ? measured(part, version) : null), [part, version, isLong]);
  const [far, setFar] = useState<{ part: Part; version: Version; found: Placement } | null>(null);
  useEffect(() => {
    if (!part || !isLong || known[version].has(part)) return;
    const asked = new AbortController();
    // What it does not need is not copied.
    const { source: _source, breaks: _breaks, heard: _heard, sections: _sections, order: _order, ...bare } = part;
    measureInWorker((api) => api.placement(bare, version), asked.signal).then(
      (found) => {
        known[version].set(part, found);
        if (!asked.signal.aborted) setFar({ part, version, found });
      },
      // Asked anew, or left.
      () => {},
    );
    return () => asked.abort(new Error('left'));
  }, [part, version, isLong]);
  return near ?? (far !== null && far.part === part && far.version === version ? far.found : null);
}
