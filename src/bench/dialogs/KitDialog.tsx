'use client';

import { useStored } from '@/storage/use-stored';
import { useRef, useState } from 'react';
import { toast } from 'sonner';
import { labelOfRow, playOnKit, readByKit, rowsWithout, setKeyVoice } from '@/core/commands/rows';
import { KITS, labelOfVoice, VOICES, voiceOfKey, type KitMap } from '@/core/voices';
import { KIT_FILE_ENDING, writeKitFile } from '@/formats/kit-format';
import { bringIn, broughtWords } from '@/storage/bring-in';
import { kitStore } from '@/storage/kit-store';
import { Button } from '@/ui/Button';
import { download, fileNameOf } from '@/ui/download';
import { Modal } from '@/ui/Modal';
import { NumberField } from '@/ui/NumberField';
import { say, showError } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { useBench, useBenchStore } from '../store/context';

/** Which voice each MIDI key of the part plays: corrected here, kept under a name, swapped, given away. */
export function KitDialog() {
  const { getState } = useBenchStore();
  const part = useBench((s) => s.part);
  const own = useStored(() => kitStore.list().catch(() => []), []) ?? [];
  const [name, setName] = useState(part.kitMap.name);
  const file = useRef<HTMLInputElement>(null);
  const counts = new Map<number, number>();
  for (const h of part.hits) counts.set(h.key, (counts.get(h.key) ?? 0) + 1);
  const [fresh, setFresh] = useState(36);
  const keys = [...new Set([...counts.keys(), ...Object.keys(part.kitMap.voices).map(Number)])].sort((a, b) => a - b);
  const isUsed = (key: number): boolean => counts.has(key);
  const attempt = (work: Promise<unknown>) => void work.catch(showError);
  const close = () => getState().setDesk({ dialog: null });

  const remap = (key: number, voice: string) =>
    getState().run(`Key ${key} is ${labelOfVoice(voice).toLowerCase()}`, (p) => setKeyVoice(p, key, voice));
  const forget = (key: number) => getState().run(`Take key ${key} out of the map`, (p) => setKeyVoice(p, key, null));
  const playOn = (kit: KitMap) => {
    const left = rowsWithout(part, kit);
    getState().run(`Play on ${kit.name}`, (p) => playOnKit(p, kit));
    if (left.length > 0) say(`${kit.name} has no key for ${left.map((v) => labelOfRow(part, v).toLowerCase()).join(', ')}: ${left.length === 1 ? 'it keeps its key' : 'they keep their keys'}.`);
  };
  const keep = async () => {
    const kit: KitMap = { name: name.trim() || 'My kit', voices: part.kitMap.voices };
    await kitStore.save(kit);
    getState().run(`Name the kit map ${kit.name}`, (p) => ({ ...p, kitMap: kit }));
    say(`The kit map ${kit.name} is kept for every part.`);
  };
  const bring = async (chosen: File) => {
    // A file of another kind goes where it belongs.
    say(broughtWords(await bringIn(await chosen.text(), chosen.name)));
  };
  const remove = async (kit: KitMap) => {
    const putBack = await kitStore.remove(kit);
    toast(`${kit.name} is gone.`, { action: { label: 'Put it back', onClick: () => attempt(putBack()) } });
  };
  const small = '!h-7 !px-2 text-sm';
  return (
    <Modal open onClose={close} title={`Kit map: ${part.kitMap.name}`} about="Which voice each MIDI key plays. Changing it keeps every hit, its time and its velocity.">
      <div className="space-y-5">
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
                const choices = VOICES.includes(voice) ? VOICES : [voice, ...VOICES];
                const own = part.rows.find((r) => r.voice === voice)?.name;
                return (
                  <tr key={key} className="border-t border-line">
                    <td className="py-1 tabular-nums">{key}</td>
                    <td>
                      <Picker label={`Voice of key ${key}`} value={voice} choices={choices.map((v) => ({ value: v, text: labelOfVoice(v) }))} onChange={(v) => remap(key, v)} />
                      {own && <span className="ml-1 text-sm text-faint">called {own}</span>}
                    </td>
                    <td className="text-right tabular-nums">
                      {counts.get(key) ?? (
                        <button type="button" aria-label={`Take key ${key} out of the map`} className="text-sm text-faint underline underline-offset-2" onClick={() => forget(key)}>
                          remove
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
          {part.hits.length === 0 && <span className="w-full text-faint">The part has no hits yet; new ones get their keys from this map.</span>}
          Add key <NumberField label="Key to add" value={fresh} min={0} max={127} unit="" className="[&_input]:w-[3em]" onChange={setFresh} />
          <Picker label="Voice of the added key" value="" placeholder={isUsed(fresh) || fresh in part.kitMap.voices ? 'is in the map' : 'which plays …'} choices={VOICES.map((v) => ({ value: v, text: labelOfVoice(v) }))} onChange={(v) => remap(fresh, v)} />
        </p>
        <ul className="space-y-1" aria-label="Kit maps">
          {[...KITS, ...own].map((kit) => (
            <li key={kit.name} className="flex flex-wrap items-baseline gap-1 border-t border-line pt-1">
              <span className="mr-auto">
                {kit.name} <span className="text-sm text-faint">{Object.keys(kit.voices).length} keys</span>
              </span>
              <Button className={small} title="The names were wrong: the keys stay, rows are named by this map" onClick={() => getState().run(`Read the keys by ${kit.name}`, (p) => readByKit(p, kit))}>
                read the keys by it
              </Button>
              <Button className={small} title="Another kit: the voices stay, their keys become this map's" onClick={() => playOn(kit)}>
                play on it
              </Button>
              {own.includes(kit) && (
                <Button className={small} aria-label={`Delete ${kit.name}`} onClick={() => attempt(remove(kit))}>
                  delete
                </Button>
              )}
            </li>
          ))}
        </ul>
        <div className="flex flex-wrap items-center gap-2 border-t border-line pt-3">
          <input aria-label="Name for this kit map" value={name} maxLength={120} onChange={(e) => setName(e.target.value)} className="min-w-0 flex-1 rounded border-b border-strong bg-transparent px-1" />
          <Button className={small} onClick={() => attempt(keep())}>
            Keep this map
          </Button>
          <Button className={small} onClick={() => download(writeKitFile(part.kitMap), `${fileNameOf(part.kitMap.name)}${KIT_FILE_ENDING}`, 'application/json')}>
            Export it
          </Button>
          <Button className={small} onClick={() => file.current?.click()}>
            Import one
          </Button>
          <input
            ref={file}
            type="file"
            accept=".json"
            className="sr-only"
            aria-label="Kit map file"
            data-testid="kit-file"
            tabIndex={-1}
            onChange={(e) => {
              const chosen = e.target.files?.[0];
              e.target.value = '';
              if (chosen) attempt(bring(chosen));
            }}
          />
        </div>
      </div>
    </Modal>
  );
}
