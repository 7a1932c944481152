import dynamic from 'next/dynamic';
import { hasClip, pasteOver } from '../../actions/clipboard';
import type { BenchFeature, MenuEntry } from '../../shared/feature';

const CONVERT: MenuEntry = { text: 'Convert to plain hits …', run: (store) => store.getState().setUi({ dialog: 'convert' }) };
const CONVERT_ROW: MenuEntry = {
  text: CONVERT.text,
  run: (store, { row }) => {
    if (row) store.getState().setFocus(row);
    store.getState().setUi({ dialog: 'convert-row' });
  },
};

const PASTE_OVER: MenuEntry = {
  text: 'Paste hits over this bar',
  run: (store, { bar }) => {
    if (bar !== undefined) pasteOver(store, { from: bar, to: bar + 1 });
  },
  isOffered: hasClip,
};

export const hitsFeature: BenchFeature = {
  id: 'hits',
  pages: [
    {
      id: 'hits',
      title: 'Hits',
      letter: 'h',
      about:
        'Everything you can do to the selected hits: velocity, timing, ghost notes, ornaments, marks. With nothing selected, it changes every hit.',
      also: ['selection', 'velocity', 'dynamics', 'ghost notes', 'flam', 'roll', 'drag', 'echo', 'nudge'],
      figure: (s) => (s.selection.size > 0 ? String(s.selection.size) : ''),
      open: ['dynamics', 'placement'],
      Page: dynamic(() => import('./HitsPage').then((m) => m.HitsPage), { ssr: false }),
    },
  ],
  menus: { hits: [CONVERT], rows: [CONVERT_ROW], bars: [PASTE_OVER] },
  dialogs: {
    convert: dynamic(() => import('./ConvertDialog').then((m) => m.ConvertHits), { ssr: false }),
    'convert-row': dynamic(() => import('./ConvertDialog').then((m) => m.ConvertRow), { ssr: false }),
  },
};
