'use client';

import { plural } from '@/core/plurals';
import { useState, type FormEvent } from 'react';
import { useStored } from '@/storage/use-stored';
import { KITS } from '@/core/key-map';
import { MAX_BPM, MIN_BPM } from '@/core/units';
import { kitStore } from '@/storage/kit-store';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { FIRST_BEGINNING, type Beginning } from '@/core/part/empty-part';

/** Tempo comes first: it decides the genre. Everything has a value, so that Enter starts at once. */
export function NewPartDialog({ onStart, onClose }: { onStart: (beginning: Beginning) => void; onClose: () => void }) {
  const [wish, setWish] = useState<Beginning>(FIRST_BEGINNING);
  const own = useStored(() => kitStore.list().catch(() => []), []) ?? [];
  const kits = [...KITS, ...own];
  const change = (part: Partial<Beginning>) => setWish({ ...wish, ...part });
  const submit = (e: FormEvent) => {
    e.preventDefault();
    onStart(wish);
  };
  return (
    <Modal open onClose={onClose} title="New part">
      <form onSubmit={submit} className="space-y-3">
        <p className="text-lg leading-10">
          <NumberField
            label="Tempo"
            value={wish.tempo}
            min={MIN_BPM}
            max={MAX_BPM}
            digits={1}
            unit="BPM"
            default={100}
            onChange={(tempo) => change({ tempo })}
          />{' '}
          in{' '}
          <NumberField
            label="Beats per bar"
            value={wish.numerator}
            min={1}
            max={32}
            unit="/"
            className="[&_input]:w-[2.2em]"
            onChange={(numerator) => change({ numerator })}
          />{' '}
          <Picker
            label="Unit"
            value={String(wish.denominator)}
            choices={['2', '4', '8', '16'].map((d) => ({ value: d, text: d }))}
            onChange={(d) => change({ denominator: Number(d) })}
          />
          ,{' '}
          <NumberField
            label="Length"
            value={wish.bars}
            min={1}
            max={256}
            unit={plural(wish.bars, 'bar')}
            default={2}
            className="[&_input]:w-[2.6em]"
            onChange={(bars) => change({ bars })}
          />{' '}
          for the drum map{' '}
          <Picker
            label="Drum map"
            value={wish.kit.name}
            choices={kits.map((k) => ({ value: k.name, text: k.name }))}
            onChange={(name) => change({ kit: kits.find((k) => k.name === name) ?? wish.kit })}
          />
        </p>
        <label className="flex items-baseline gap-2">
          <span className="text-faint">Called</span>
          <input
            value={wish.name}
            maxLength={120}
            onChange={(e) => change({ name: e.target.value })}
            className="min-w-0 flex-1 rounded border-b border-strong bg-transparent px-1 font-serif text-lg"
          />
        </label>
        <div className="flex justify-end gap-2 pt-2">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" look="strong" autoFocus>
            Create part
          </Button>
        </div>
      </form>
    </Modal>
  );
}
