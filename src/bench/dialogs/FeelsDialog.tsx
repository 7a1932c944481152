'use client';

import { counted } from '@/core/plurals';
import { READY_FEELS } from '@/core/moves/ready-feels';
import { setFeel } from '@/core/commands/moves';
import type { Feel } from '@/core/model/feel';
import { FEEL_FILE_ENDING, writeFeelFile } from '@/formats/feel-format';
import { feelStore } from '@/storage/feel-store';
import type { LibraryItem } from '@/ui/KeptList';
import { LibraryDialog } from '@/ui/LibraryDialog';
import { useBench, useBenchStore } from '../store/context';
import { useFeels } from '../store/use-feels';

interface Item extends LibraryItem {
  feel: Feel;
}

const movesOf = ({ moves }: Feel): string => `${counted(moves.length, 'move')}`;

/** Feel presets: ready ones to start from, the user's own, and files. */
export function FeelsDialog() {
  const { getState } = useBenchStore();
  const feel = useBench((s) => s.part.feel);
  const own = useFeels().map((k): Item => ({ ...k, about: movesOf(k.feel) }));
  const use = (item: Item) => {
    getState().run(`Use the feel ${item.name}`, (p) => setFeel(p, item.feel));
    getState().setUi({ dialog: null, openMove: null });
  };
  return (
    <LibraryDialog<Item>
      title="Feel presets"
      about="A preset replaces the part’s feel. One undo restores it."
      what="feel"
      ours={READY_FEELS}
      own={own}
      uses={[{ word: 'use', label: (name) => `Use ${name}`, run: use }]}
      name="My feel"
      canKeep={feel.moves.length > 0}
      keep={(name) => feelStore.save({ name, feel })}
      rename={(item, name) => feelStore.rename(item, name)}
      remove={(item) => feelStore.remove(item)}
      file={(item) => ({ text: writeFeelFile(item?.feel ?? feel), ending: FEEL_FILE_ENDING })}
      onClose={() => getState().setUi({ dialog: null })}
    />
  );
}
