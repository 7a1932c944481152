'use client';

import { plural } from '@/core/plurals';
import { useState } from 'react';
import { useStored } from '@/storage/use-stored';
import { playOnKit, readByKit, rowsWithout, setKeyVoice } from '@/core/commands/rows';
import { labelOfRow } from '@/core/part/rows';
import { KITS, voiceOfKey, type KitMap } from '@/core/key-map';
import { KIT_FILE_ENDING, writeKitFile } from '@/formats/kit-format';
import { kitStore } from '@/storage/kit-store';
import type { LibraryItem } from '@/ui/KeptList';
import { LibraryDialog, type LibraryUse } from '@/ui/LibraryDialog';
import { NumberField } from '@/ui/NumberField';
import { say } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { useBench, useBenchStore } from '../store/context';
import { KeySides } from './KeySides';
import { rowChoices } from './row-choices';

type Item = KitMap & LibraryItem;

const itemOf = (kit: KitMap): Item => ({ ...kit, about: `${Object.keys(kit.voices).length} keys` });
const OURS = KITS.map(itemOf);
/** From where drums usually begin, round to below them. */
const KEYS = Array.from({ length: 128 }, (_, i) => (i + 35) % 128);

/** Which row each MIDI key of the part plays: corrected here, kept under a name, swapped, given away. */
export function KitDialog() {
  const { getState } = useBenchStore();
  const part = useBench((s) => s.part);
  const own = useStored(() => kitStore.list().catch(() => []), []) ?? [];
  const playOn = (kit: KitMap) => {
    const left = rowsWithout(part, kit);
    getState().run(`Write for ${kit.name}`, (p) => playOnKit(p, kit));
    if (left.length > 0)
      say(
        `${kit.name} has no key for ${left.map((v) => labelOfRow(part, v).toLowerCase()).join(', ')}: ${plural(left.length, 'it keeps its key', 'they keep their keys')}.`,
      );
  };
  const uses: readonly LibraryUse<Item>[] = [
    {
      word: 'read these keys as this one',
      label: (name) => `read these keys as ${name}`,
      title: 'For wrong row names: keys stay, rows are named by this map',
      run: ({ name, voices }) => getState().run(`Read the keys as ${name}`, (p) => readByKit(p, { name, voices })),
    },
    {
      word: 'write for this one',
      label: (name) => `write for ${name}`,
      title: 'Rows keep their drums; their keys change to this map',
      run: ({ name, voices }) => playOn({ name, voices }),
    },
  ];
  const keep = async (name: string) => {
    const kit: KitMap = { name, voices: part.kitMap.voices };
    await kitStore.save(kit);
    getState().run(`Name the drum map ${name}`, (p) => ({ ...p, kitMap: kit }));
  };
  return (
    <LibraryDialog<Item>
      title={`Drum map: ${part.kitMap.name}`}
      about="Which row each MIDI key plays. Changing it keeps every hit, its time and its velocity."
      what="drum map"
      ours={OURS}
      own={own.map(itemOf)}
      uses={uses}
      name={part.kitMap.name}
      canKeep
      keep={keep}
      rename={({ name, voices }, next) => kitStore.rename({ name, voices }, next)}
      remove={({ name, voices }) => kitStore.remove({ name, voices })}
      file={(item, name) => ({ text: writeKitFile({ name, voices: (item ?? part.kitMap).voices }), ending: KIT_FILE_ENDING })}
      onClose={() => getState().setUi({ dialog: null })}
    >
      <KeySides side="kit" />
      <Keys />
    </LibraryDialog>
  );
}

/** The keys of the part and of its map, each with its row. */
function Keys() {
  const { getState } = useBenchStore();
  const part = useBench((s) => s.part);
  const counts = new Map<number, number>();
  for (const h of part.hits) counts.set(h.key, (counts.get(h.key) ?? 0) + 1);
  const keys = [...new Set([...counts.keys(), ...Object.keys(part.kitMap.voices).map(Number)])].sort((a, b) => a - b);
  const isKnown = (key: number): boolean => counts.has(key) || key in part.kitMap.voices;
  const [wish, setWish] = useState<number | null>(null);
  // What can be added first, until another is wanted.
  const fresh = wish ?? (KEYS.find((key) => !isKnown(key)) as number);
  const remap = (key: number, voice: string) =>
    getState().run(`Key ${key} is ${labelOfRow(part, voice).toLowerCase()}`, (p) => setKeyVoice(p, key, voice));
  const forget = (key: number) => getState().run(`Delete key ${key} from the map`, (p) => setKeyVoice(p, key, null));
  return (
    <>
      <div className="max-h-64 overflow-auto" tabIndex={0} aria-label="Keys of this part">
        <table className="w-full">
          <thead className="text-left text-sm text-faint">
            <tr>
              <th className="font-normal">Key</th>
              <th className="font-normal">plays</th>
              <th className="text-right font-normal">hits</th>
            </tr>
          </thead>
          <tbody>
            {keys.map((key) => {
              const voice = voiceOfKey(part.kitMap, key);
              return (
                <tr key={key} className="border-t border-line">
                  <td className="py-1 tabular-nums">{key}</td>
                  <td>
                    <Picker label={`Row of key ${key}`} value={voice} choices={rowChoices(part, voice)} onChange={(v) => remap(key, v)} />
                  </td>
                  <td className="text-right tabular-nums">
                    {counts.get(key) ?? (
                      <button
                        type="button"
                        aria-label={`Delete key ${key} from the map`}
                        className="text-sm text-faint underline underline-offset-2"
                        onClick={() => forget(key)}
                      >
                        delete
                      </button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <p className="flex flex-wrap items-baseline gap-2 text-sm">
        {part.hits.length === 0 && (
          <span className="w-full text-faint">The part has no hits yet; new ones get their keys from this map.</span>
        )}
        Add key <NumberField label="Key to add" value={fresh} min={0} max={127} unit="" className="[&_input]:w-[3em]" onChange={setWish} />
        <Picker
          label="Row of the added key"
          value=""
          placeholder={isKnown(fresh) ? 'is in the map' : 'which plays …'}
          choices={rowChoices(part)}
          onChange={(v) => {
            remap(fresh, v);
            setWish(null);
          }}
        />
      </p>
    </>
  );
}
