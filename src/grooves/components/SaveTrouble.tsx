'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
import { Button } from '@/ui/Button';
import { showError } from '@/ui/notify';
import { savePartFile } from '@/ui/save-part-file';
import { useStoreWords } from '@/ui/StoreNotice';
import { useGrooves, useGroovesStore } from '../store/context';

const TwoTabsDialog = dynamic(() => import('@/ui/TwoTabsDialog'), { ssr: false });

/** What could not be kept, and what can be done about it. */
export function SaveTrouble() {
  const { getState } = useGroovesStore();
  const save = useGrooves((s) => s.save);
  const stand = useGrooves((s) => s.stand);
  const words = useStoreWords();
  const [seeing, setSeeing] = useState(false);
  if (save.kind !== 'failed')
    return words ? (
      <p role="alert" data-testid="store-notice" className="border-t border-line px-4 py-1 text-sm text-danger">
        {words}
      </p>
    ) : null;
  const { message, remedy, code } = save.error;
  return (
    <div role="alert" data-testid="save-trouble" className="flex items-center gap-2 border-t border-line px-4 py-1 text-sm text-danger">
      <p className="mr-auto">
        Not saved. {message} {remedy}
      </p>
      {code === 'changed-elsewhere' && stand && <Button onClick={() => setSeeing(true)}>See both</Button>}
      {seeing && stand && (
        <TwoTabsDialog
          partId={stand.id}
          own={stand.id}
          here={getState().bothOf}
          takeOf={getState().takeOf}
          onClose={() => setSeeing(false)}
        />
      )}
      {code !== 'changed-elsewhere' && code !== 'deleted-elsewhere' && <Button onClick={() => getState().retrySave()}>Try again</Button>}
      {stand && <Button onClick={() => void savePartFile(stand.id, stand.part).catch(showError)}>Save a part file</Button>}
    </div>
  );
}
