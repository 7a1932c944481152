import { plural } from '@/core/plurals';
import { shortName } from '@/core/limits';
import type { PartRow } from '@/storage/database';
import { say, showError, tell } from '@/ui/notify';
import { tellDeleted } from '@/ui/undo-key';

/** What is done to parts on the Shelf; the stores for it come with the first action. */

/** @example partsText([row]) // 'Gangway Strut'; of three: '3 parts' */
export const partsText = (rows: readonly PartRow[]): string => (rows.length === 1 ? (rows[0] as PartRow).name : `${rows.length} parts`);

const shelf = async () => (await import('@/storage/shelf-store')).shelfStore;
const drawer = async () => (await import('@/storage/deleted-store')).deletedStore;

const attempt = (work: Promise<unknown>): void => void work.catch(showError);

export function removeParts(rows: readonly PartRow[]): void {
  const ids = rows.map((row) => row.id);
  const remove = async () => {
    await (await drawer()).remove(ids);
    tellDeleted(`${partsText(rows)} ${plural(rows.length, 'is', 'are')} deleted: for thirty days under Recently deleted.`, () =>
      drawer().then((d) => d.putBack(ids)),
    );
  };
  attempt(remove());
}

export function copyPart({ id }: PartRow): void {
  attempt(shelf().then((s) => s.duplicate(id, (name) => shortName(`${name} (copy)`))));
}

export function renamePartTo({ id, name }: PartRow, next: string): void {
  if (next.trim() && next.trim() !== name) attempt(shelf().then((s) => s.rename(id, next)));
}

export function tagParts(rows: readonly PartRow[], change: { add?: readonly string[]; remove?: readonly string[] }): void {
  const tag = async () => {
    const putBack = await (
      await shelf()
    ).tag(
      rows.map((row) => row.id),
      change,
    );
    const words = [...(change.add ?? []).map((t) => `has the tag “${t}”`), ...(change.remove ?? []).map((t) => `lost the tag “${t}”`)].join(
      ', ',
    );
    if (rows.length > 1) tell(`Each of ${rows.length} parts ${words}.`, { label: 'Undo', onClick: () => attempt(putBack()) });
    else say(`${partsText(rows)} ${words}.`);
  };
  attempt(tag());
}
