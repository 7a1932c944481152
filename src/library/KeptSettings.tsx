'use client';

import { counted } from '@/core/plurals';
import type { KitMap } from '@/core/key-map';
import type { Feel } from '@/core/model/feel';
import type { OutputMap } from '@/core/model/output-map';
import { FEEL_FILE_ENDING, writeFeelFile } from '@/formats/feel-format';
import { KIT_FILE_ENDING, writeKitFile } from '@/formats/kit-format';
import { TARGET_FILE_ENDING, writeOutputMapFile } from '@/formats/output-map-format';
import { feelStore } from '@/storage/feel-store';
import { kitStore } from '@/storage/kit-store';
import { outputMapStore } from '@/storage/output-map-store';
import { useStored } from '@/storage/use-stored';
import { KeptList, type LibraryItem } from '@/ui/KeptList';

/** The feels that are kept. */
export function KeptFeels() {
  const kept = useStored(() => feelStore.list().catch(() => []), []) ?? [];
  if (kept.length === 0) return <p className="text-faint">None yet. Built-in presets are on the Feel page.</p>;
  return (
    <KeptList<LibraryItem & { feel: Feel }>
      what="feel"
      own={kept.map((k) => ({ ...k, about: counted(k.feel.moves.length, 'move') }))}
      rename={(item, name) => feelStore.rename(item, name)}
      remove={(item) => feelStore.remove(item)}
      file={({ feel }) => ({ text: writeFeelFile(feel), ending: FEEL_FILE_ENDING })}
    />
  );
}

/** The key maps that are kept. */
export function KeptKeyMaps() {
  const kept = useStored(() => kitStore.list().catch(() => []), []) ?? [];
  if (kept.length === 0) return <p className="text-faint">None yet.</p>;
  return (
    <KeptList<LibraryItem & KitMap>
      what="drum map"
      own={kept.map((k) => ({ ...k, about: counted(Object.keys(k.voices).length, 'key') }))}
      rename={({ name, voices }, next) => kitStore.rename({ name, voices }, next)}
      remove={({ name, voices }) => kitStore.remove({ name, voices })}
      file={({ name, voices }) => ({ text: writeKitFile({ name, voices }), ending: KIT_FILE_ENDING })}
    />
  );
}

/** The targets that are kept. */
export function KeptOutputMaps() {
  const kept = useStored(() => outputMapStore.list().catch(() => []), []) ?? [];
  if (kept.length === 0) return <p className="text-faint">None yet. Built-in maps are in a part’s export.</p>;
  return (
    <KeptList<LibraryItem & OutputMap>
      what="output map"
      own={kept.map((t) => ({ ...t, about: `channel ${t.channel}` }))}
      rename={({ about: _, ...target }, next) => outputMapStore.rename(target, next)}
      remove={({ about: _, ...target }) => outputMapStore.remove(target)}
      file={({ about: _, ...target }) => ({ text: writeOutputMapFile(target), ending: TARGET_FILE_ENDING })}
    />
  );
}
