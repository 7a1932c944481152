'use client';

import { useEffect } from 'react';
import TwoTabsDialog from '@/ui/TwoTabsDialog';
import { useBench, useBenchStore } from '../store/context';

/** What of this part, or of an idea of it, another tab changed too. */
export default function TwoTabs() {
  const { getState } = useBenchStore();
  const own = useBench((s) => s.conflict);
  const partId = useBench((s) => s.id);
  const close = () => getState().setUi({ dialog: null });
  useEffect(() => {
    if (own === null) getState().setUi({ dialog: null });
  }, [own, getState]);
  if (own === null) return null;
  return (
    <TwoTabsDialog
      key={own}
      partId={partId}
      own={own}
      here={() => getState().bothOf(own)}
      takeOf={(which) => getState().takeOf(own, which)}
      onClose={close}
    />
  );
}
