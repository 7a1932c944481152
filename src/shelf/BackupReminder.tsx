'use client';

import { backupDates, daysWithout } from '@/storage/backup-dates';
import type { PartRow } from '@/storage/database';
import { useStored } from '@/storage/use-stored';
import { Button } from '@/ui/Button';
import { showError } from '@/ui/notify';

/** Says when the last backup is old, and something was done since. */
export default function BackupReminder({ rows, onBackUp }: { rows: readonly PartRow[]; onBackUp: () => void }) {
  const dates = useStored(() => backupDates.get(), []);
  const days = dates ? daysWithout(dates, rows) : null;
  if (!dates || days === null) return null;
  return (
    <p
      role="status"
      data-testid="backup-reminder"
      className="mb-4 flex flex-wrap items-center gap-2 rounded-md border border-strong px-4 py-2"
    >
      <span className="mr-auto">
        {dates.last === null
          ? `You have worked here for ${days} days, and there is no backup yet.`
          : `The last backup is ${days} days old, and you have worked since.`}
      </span>
      <Button look="strong" size="small" onClick={onBackUp}>
        Back up everything
      </Button>
      <Button size="small" onClick={() => void backupDates.putOff().catch(showError)}>
        Later
      </Button>
    </p>
  );
}
