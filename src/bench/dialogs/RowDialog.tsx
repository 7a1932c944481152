'use client';

import { useState } from 'react';
import { labelOfRow, mergeRows, setRowKey, setRowVoice } from '@/core/commands/rows';
import { keyInPart } from '@/core/commands/place';
import { labelOfVoice, VOICES } from '@/core/voices';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { useBench, useBenchStore } from '../store/context';

/** A row's key, what it really is, and joining it with another. */
export function RowDialog({ voice, onClose }: { voice: string; onClose: () => void }) {
  const { getState } = useBenchStore();
  const part = useBench((s) => s.part);
  const label = labelOfRow(part, voice);
  const others = part.rows.filter((r) => r.voice !== voice).map((r) => r.voice);
  const [key, setKey] = useState(() => keyInPart(part, voice));
  const [real, setReal] = useState(voice);
  const [instrument, setInstrument] = useState(voice);
  const [into, setInto] = useState(others[0] ?? voice);
  const hits = part.hits.filter((h) => h.voice === voice);
  const keys = [...new Set(hits.map((h) => h.key))].sort((a, b) => a - b);
  const finish = (what: string, command: Parameters<ReturnType<typeof getState>['run']>[1]) => {
    getState().run(what, command);
    onClose();
  };
  const taken = part.hits.find((h) => h.key === key && h.voice !== voice)?.voice;
  const voices = VOICES.includes(voice) ? VOICES : [voice, ...VOICES];
  return (
    <Modal open onClose={onClose} title={label} about={`${hits.length} ${hits.length === 1 ? 'hit' : 'hits'}${keys.length > 0 ? ` on ${keys.length === 1 ? 'key' : 'keys'} ${keys.join(', ')}` : ''}`}>
      <div className="space-y-4">
        <div className="flex flex-wrap items-baseline gap-2">
          Its hits are sent as MIDI key <NumberField label="MIDI key" value={key} min={0} max={127} unit="" className="[&_input]:w-[3em]" onChange={setKey} />
          <Button className="ml-auto" onClick={() => finish(`Give ${label.toLowerCase()} key ${key}`, (p) => setRowKey(p, voice, key))}>
            Set the key
          </Button>
          {taken && <p className="w-full text-sm text-danger">Key {key} plays {labelOfRow(part, taken).toLowerCase()} now: both rows would share it in a file.</p>}
        </div>
        <div className="flex flex-wrap items-baseline gap-2">
          Play it with <Picker label="Play it with" value={instrument} choices={voices.map((v) => ({ value: v, text: labelOfVoice(v) }))} onChange={setInstrument} />
          <Button className="ml-auto" disabled={instrument === voice} onClick={() => finish(`Play ${label.toLowerCase()} with ${labelOfVoice(instrument).toLowerCase()}`, (p) => mergeRows(p, voice, instrument))}>
            Give the row another instrument
          </Button>
          <p className="w-full text-sm text-faint">Its hits are played and exported as that instrument{instrument !== voice ? `, key ${keyInPart(part, instrument)}` : ''}.</p>
        </div>
        <div className="flex flex-wrap items-baseline gap-2">
          {keys.length > 1 ? `Keys ${keys.join(', ')} mean` : `Key ${keys[0] ?? key} means`} <Picker label="The key means" value={real} choices={voices.map((v) => ({ value: v, text: labelOfVoice(v) }))} onChange={setReal} />
          <Button className="ml-auto" disabled={real === voice} onClick={() => finish(`Read ${label.toLowerCase()} as ${labelOfVoice(real).toLowerCase()}`, (p) => setRowVoice(p, voice, real))}>
            Read this key as it
          </Button>
          <p className="w-full text-sm text-faint">The file keeps its keys, other programs play it as before; only the name was wrong.</p>
        </div>
        {others.length > 0 && (
          <div className="flex flex-wrap items-baseline gap-2">
            Join it with <Picker label="Join with" value={into} choices={others.map((v) => ({ value: v, text: labelOfRow(part, v) }))} onChange={setInto} />
            <Button className="ml-auto" onClick={() => finish(`Merge ${label.toLowerCase()} into ${labelOfRow(part, into).toLowerCase()}`, (p) => mergeRows(p, voice, into))}>
              Merge
            </Button>
          </div>
        )}
        <p className="text-sm text-faint">Setting a key and correcting the map change the part’s key map. One undo brings all back.</p>
      </div>
    </Modal>
  );
}
