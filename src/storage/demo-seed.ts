import { partStore, type PartStore } from './part-store';

const SEEDED = 'demo-seeded';

/** Puts the demo parts on the Shelf that are not there; one that a user changed is never touched. @returns how many were added */
export async function addMissingDemos(store: PartStore = partStore): Promise<number> {
  const { demoCues } = await import('@/demo/cues');
  let added = 0;
  for (const cue of demoCues().reverse()) {
    if (await store.has(cue.id)) continue;
    try {
      await store.create(cue.part, { id: cue.id, about: cue.about, ...(cue.song ? { song: cue.song } : {}) });
      added++;
    } catch (e) {
      // Another tab may have been faster with the same part.
      if (!(await store.has(cue.id))) throw e;
    }
  }
  return added;
}

/** On the very first visit the Shelf starts with the demo parts. */
export async function seedOnFirstVisit(store: PartStore = partStore): Promise<void> {
  if (await store.hasFlag(SEEDED)) return;
  await addMissingDemos(store);
  // Only now: a first visit that was cut short starts again.
  await store.setFlag(SEEDED);
}
