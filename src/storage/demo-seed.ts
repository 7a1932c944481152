import { NamedError } from '@/core/errors';
import type { Cue } from '@/demo/cue';
import { partStore, type PartStore } from './part-store';
import { AS_IMPORTED, versionStore, type VersionStore } from './version-store';

const SEEDED = 'demo-seeded';

/** The demo parts as data: made from code by `npm run demo:data`, so that the page need not carry that code. @throws NamedError no-demos */
async function fetchCues(): Promise<Cue[]> {
  const response = await fetch('/demo/parts.json').catch(() => null);
  if (!response?.ok) throw new NamedError('no-demos');
  const cues = (await response.json()) as (Omit<Cue, 'song'> & { song?: string })[];
  return cues.map(({ song, ...cue }) => ({ ...cue, ...(song === undefined ? {} : { song: Uint8Array.from(atob(song), (c) => c.charCodeAt(0)) }) }));
}

/** Puts the demo parts on the Shelf that are not there; one that a user changed is never touched. @returns how many were added */
export async function addMissingDemos(store: PartStore = partStore, versions: VersionStore = versionStore, load: () => Promise<Cue[]> = fetchCues): Promise<number> {
  const cues = (await load()).reverse();
  const added = await store.together(async () => {
    const fresh: typeof cues = [];
    for (const cue of cues) {
      if (await store.has(cue.id)) continue;
      await store.create(cue.part, { id: cue.id, about: cue.about, ...(cue.song ? { song: cue.song } : {}) });
      fresh.push(cue);
    }
    return fresh;
  });
  // What came from a file can be compared with how it came.
  for (const cue of added) if (cue.song) await versions.keep(cue.id, AS_IMPORTED, cue.part);
  return added.length;
}

/** On the very first visit the Shelf starts with the demo parts. A first visit that was cut short starts again. */
export async function seedOnFirstVisit(store: PartStore = partStore, versions: VersionStore = versionStore, load: () => Promise<Cue[]> = fetchCues): Promise<void> {
  if (await store.hasFlag(SEEDED)) return;
  await addMissingDemos(store, versions, load);
  await store.setFlag(SEEDED);
}
