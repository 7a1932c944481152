import dynamic from 'next/dynamic';
import type { BenchFeature, MenuEntry } from '../../shared/feature';

/** The pattern book keeps what is selected, and puts its patterns down at the loop. */
const PATTERN_BOOK: MenuEntry = { text: 'Pattern book …', run: (store) => store.getState().setUi({ dialog: 'patterns' }) };

export const libraryDialogsFeature: BenchFeature = {
  id: 'library-dialogs',
  menus: { hits: [PATTERN_BOOK], rows: [PATTERN_BOOK], bars: [PATTERN_BOOK] },
  dialogs: {
    patterns: dynamic(() => import('../../dialogs/PatternsDialog'), { ssr: false }),
    versions: dynamic(() => import('../../dialogs/VersionsDialog'), { ssr: false }),
    learn: dynamic(() => import('./LearnSelected').then((m) => m.LearnSelected), { ssr: false }),
    target: dynamic(() => import('../../dialogs/OutputMapDialog'), { ssr: false }),
    kit: dynamic(() => import('../../dialogs/KitDialog').then((m) => m.KitDialog), { ssr: false }),
  },
};
