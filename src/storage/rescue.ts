import { onSettled, unsavedParts } from '@/editing/unsaved';
import { partStore } from './part-store';
import { unchosenStore } from './unchosen-store';

/**
 * Copies of unsaved parts outside of the database, for a browser whose database stays broken until it is started again. They are small
 * enough for what pages may keep there, or are left out.
 */

const PREFIX = 'nod-sway:rescue:';
const MOST_LETTERS = 2_000_000;

const kept = new Set<string>();
onSettled((id) => kept.has(id) && dropRescue(id));

/** Writes copies of what could not be saved: each time anew, since the browser may not have had room for the last one. */
export function keepRescues(): void {
  if (typeof localStorage === 'undefined') return;
  for (const [id, { part, error }] of unsavedParts.getState()) {
    const now = error && part?.();
    if (!now) continue;
    try {
      const text = JSON.stringify({ at: Date.now(), part: now });
      if (text.length > MOST_LETTERS) continue;
      localStorage.setItem(PREFIX + id, text);
      kept.add(id);
    } catch {
      // There is no room there either: what stays is the part file that is offered.
    }
  }
}

/** What was rescued of a part is in the database again. */
function dropRescue(id: string): void {
  kept.delete(id);
  try {
    localStorage.removeItem(PREFIX + id);
  } catch {
    // Where nothing can be kept nothing was.
  }
}

/** Puts rescued parts back: as parts where they are gone, otherwise beside what is there, to be chosen from. @returns their names */
export async function putRescuesBack(): Promise<string[]> {
  if (typeof localStorage === 'undefined') return [];
  const names: string[] = [];
  for (const key of Object.keys(localStorage).filter((k) => k.startsWith(PREFIX))) {
    const id = key.slice(PREFIX.length);
    // A tab that is open still holds its own unsaved work, so its copies are not restored.
    if (unsavedParts.getState().has(id)) continue;
    try {
      const { parsePart } = await import('@/formats/part-format');
      const part = parsePart((JSON.parse(localStorage.getItem(key) as string) as { part: unknown }).part);
      if (await partStore.has(id)) await unchosenStore.put(id, part);
      else await partStore.create(part, { id });
      names.push(part.name);
    } catch (e) {
      console.error(e);
      continue;
    }
    localStorage.removeItem(key);
  }
  return names;
}
