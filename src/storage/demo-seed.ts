import { partStore, type PartStore } from './part-store';

const SEEDED = 'demo-seeded';

/** Puts the demo parts on the Shelf that are not there; one that a user changed is never touched. @returns how many were added */
export async function addMissingDemos(store: PartStore = partStore): Promise<number> {
  const { demoCues } = await import('@/demo/cues');
  const cues = demoCues().reverse();
  return store.together(async () => {
    let added = 0;
    for (const cue of cues) {
      if (await store.has(cue.id)) continue;
      await store.create(cue.part, { id: cue.id, about: cue.about, ...(cue.song ? { song: cue.song } : {}) });
      added++;
    }
    return added;
  });
}

/** On the very first visit the Shelf starts with the demo parts. A first visit that was cut short starts again. */
export async function seedOnFirstVisit(store: PartStore = partStore): Promise<void> {
  if (await store.hasFlag(SEEDED)) return;
  await addMissingDemos(store);
  await store.setFlag(SEEDED);
}
