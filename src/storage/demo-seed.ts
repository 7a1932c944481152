import { NamedError } from '@/core/errors';
import type { DemoPart } from '@/demo/cue';
import { isLossOpen } from './library-mark';
import { partStore, summaryOf, type PartStore } from './part-store';
import type { PartSummary } from './summary';
import { versionStore, type VersionStore } from './version-store';

const SEEDED = 'demo-seeded';
/** When the demo parts are said to have been imported: the same everywhere. */
const MADE_AT = Date.UTC(2026, 0, 1, 12);

/** A demo part, with what the Shelf shows of it where that was made with it. */
type SeededCue = DemoPart & { summary?: PartSummary };

/** The demo parts as data: made from code by `npm run demo:data`, so that the page need not carry that code. @throws NamedError no-demos */
async function fetchCues(): Promise<SeededCue[]> {
  const response = await fetch('/demo/parts.json').catch(() => null);
  if (!response?.ok) throw new NamedError('no-demos');
  const cues = (await response.json()) as (Omit<SeededCue, 'song'> & { song?: string })[];
  return cues.map(({ song, ...cue }) => ({
    ...cue,
    ...(song === undefined ? {} : { song: Uint8Array.from(atob(song), (c) => c.charCodeAt(0)) }),
  }));
}

/** Puts the demo parts on the Shelf that are not there; one that a user changed is never touched. @returns how many were added */
export async function addMissingDemos(
  store: PartStore = partStore,
  versions: VersionStore = versionStore,
  load: () => Promise<SeededCue[]> = fetchCues,
): Promise<number> {
  const cues = await Promise.all(
    (await load()).reverse().map(async (cue) => ({ ...cue, summary: cue.summary ?? (await summaryOf(cue.part)) })),
  );
  const added = await store.together(async () => {
    const fresh: typeof cues = [];
    for (const cue of cues) {
      if (await store.has(cue.id)) continue;
      await store.create(cue.part, { id: cue.id, about: cue.about, summary: cue.summary, ...(cue.song ? { song: cue.song } : {}) });
      fresh.push(cue);
    }
    return fresh;
  });
  // What came from a file can be compared with how it came.
  for (const cue of added) if (cue.song) await versions.keepImported(cue.id, cue.part, MADE_AT);
  return added.length;
}

/** On the very first visit the Shelf starts with the demo parts. A first visit that was cut short starts again. */
export async function seedOnFirstVisit(
  store: PartStore = partStore,
  versions: VersionStore = versionStore,
  load: () => Promise<SeededCue[]> = fetchCues,
): Promise<void> {
  if (await store.hasFlag(SEEDED)) return;
  // A library was here and is gone: that is said first, and nothing is laid over it.
  if (isLossOpen()) return;
  await addMissingDemos(store, versions, load);
  await store.setFlag(SEEDED);
}
