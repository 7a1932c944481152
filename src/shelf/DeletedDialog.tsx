'use client';

import type { DeletedRow } from '@/storage/database';
import { deletedStore, KEPT_MS } from '@/storage/deleted-store';
import { useStored } from '@/storage/use-stored';
import { agoText, inDays } from '@/ui/ago';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { say, showError } from '@/ui/notify';
import { TinyStems } from '@/ui/TinyStems';

const attempt = (work: Promise<unknown>): void => void work.catch(showError);

/** The drawer: parts that were deleted in the last thirty days. */
export default function DeletedDialog({ onClose }: { onClose: () => void }) {
  const deleted = useStored(() => deletedStore.list(), []) ?? [];
  const putBack = async ({ id, row }: DeletedRow) => {
    await deletedStore.putBack([id]);
    say(`${row.name} is on the Shelf again.`);
  };
  return (
    <Modal
      open
      onClose={onClose}
      title="Recently deleted"
      about="Each with its versions, takes and ideas. They are removed for good after thirty days."
    >
      {deleted.length === 0 ? (
        <p className="text-faint">Nothing was deleted recently.</p>
      ) : (
        <>
          <ul aria-label="Recently deleted" className="divide-y divide-line border-y border-line">
            {deleted.map((d) => (
              <li key={d.id} className="flex items-center gap-3 py-1.5">
                <span className="w-28 shrink-0">
                  <TinyStems summary={d.row.summary} />
                </span>
                <span className="mr-auto min-w-0">
                  <span className="block truncate font-serif text-base">{d.row.name}</span>
                  <span className="text-sm text-faint">
                    deleted {agoText(d.at)}, deleted for good {inDays(d.at + KEPT_MS)}
                  </span>
                </span>
                <Button size="small" aria-label={`Restore ${d.row.name}`} onClick={() => attempt(putBack(d))}>
                  Cancel
                </Button>
                <Button
                  size="small"
                  look="danger"
                  aria-label={`Delete ${d.row.name} for good`}
                  onClick={() => attempt(deletedStore.forget([d.id]))}
                >
                  Delete for good
                </Button>
              </li>
            ))}
          </ul>
          {deleted.length > 1 && (
            <p className="mt-3 flex justify-end">
              <Button onClick={() => attempt(deletedStore.putBack(deleted.map((d) => d.id)))}>Restore all</Button>
            </p>
          )}
        </>
      )}
    </Modal>
  );
}
