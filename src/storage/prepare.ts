import { database } from './database';
import { seedOnFirstVisit } from './demo-seed';

// Where the store refuses, copies are kept outside of it: what does that is loaded with the first refusal.
database.recovery.onRefusal = () => void import('./rescue').then(({ keepRescues }) => keepRescues()).catch(() => undefined);

/** Whether a page before this one kept copies of what it could not save. */
function hasRescues(): boolean {
  try {
    return Object.keys(localStorage).some((key) => key.startsWith('nod-sway:rescue:'));
  } catch {
    return false;
  }
}

/** Brings back what could not be saved before. @returns the names of such parts */
export const bringRescuesBack = async (): Promise<string[]> => (hasRescues() ? (await import('./rescue')).putRescuesBack() : []);

/**
 * Before a place shows what there is: demo parts on the very first visit, and what could not be saved before.
 * @returns the names of such parts
 */
export async function prepareStore(): Promise<string[]> {
  const rescued = await bringRescuesBack();
  await seedOnFirstVisit();
  return rescued;
}
