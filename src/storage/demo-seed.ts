import { demoCues } from '@/demo/cues';
import { partStore, type PartStore } from './part-store';

/** Puts the demo parts on the Shelf that are not there; one that a user changed is never touched. @returns how many were added */
export async function addMissingDemos(store: PartStore = partStore): Promise<number> {
  let added = 0;
  for (const cue of demoCues().reverse()) {
    if (await store.has(cue.id)) continue;
    await store.create(cue.part, { id: cue.id, about: cue.about, ...(cue.song ? { song: cue.song } : {}) });
    added++;
  }
  return added;
}

/** On the very first visit the Shelf starts with the demo parts. */
export async function seedOnFirstVisit(store: PartStore = partStore): Promise<void> {
  if (await store.setFlag('demo-seeded')) await addMissingDemos(store);
}
