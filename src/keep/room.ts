/** What the browser says of this page's data: bytes that are used and left, and whether it keeps them. */
export interface StorageSpace {
  used: number;
  left: number;
  kept: boolean;
}

/** Null where the browser does not say. */
export async function roomHere(): Promise<StorageSpace | null> {
  const { usage, quota } = (await navigator.storage?.estimate?.()) ?? {};
  if (usage === undefined || quota === undefined) return null;
  return { used: usage, left: Math.max(0, quota - usage), kept: (await navigator.storage.persisted?.()) ?? false };
}

/** Asks the browser not to clear what is kept here. @returns whether it promised */
export const askToKeep = async (): Promise<boolean> => (await navigator.storage?.persist?.().catch(() => false)) ?? false;
