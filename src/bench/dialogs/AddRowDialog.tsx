'use client';

import { Command } from 'cmdk';
import { addRow, anotherRow } from '@/core/commands/rows';
import { labelOfVoice, VOICES } from '@/core/voices';
import { Modal } from '@/ui/Modal';
import { useBench, useBenchStore } from '../store/context';

const item = 'cursor-default rounded px-3 py-1 data-[selected=true]:bg-sunk';

/** Names that begin with what was typed come first. */
function matches(name: string, typed: string, keywords: string[] = []): number {
  const wanted = typed.trim().toLowerCase();
  const at = [name, ...keywords].join(' ').toLowerCase().indexOf(wanted);
  return at < 0 ? 0 : at === 0 ? 1 : 0.5;
}

/** Every instrument that a row can be of, searched by its name. */
export function AddRowDialog() {
  const { getState } = useBenchStore();
  const rows = useBench((s) => s.part.rows);
  const close = () => getState().setUi({ dialog: null });
  const add = (voice: string) => {
    close();
    getState().setView({ hideEmpty: false });
    getState().run(`Add the row ${labelOfVoice(voice).toLowerCase()}`, (p) => addRow(p, voice));
  };
  return (
    <Modal open onClose={close} title="Add row">
      <Command label="Instruments" loop filter={matches}>
        <Command.Input
          autoFocus
          placeholder="Search instruments"
          className="w-full rounded border border-strong bg-surface px-3 py-1.5 placeholder:text-faint"
        />
        <Command.List className="mt-2 max-h-[min(360px,50vh)] overflow-auto">
          <Command.Empty className="px-3 py-1 text-faint">No instrument has this name.</Command.Empty>
          {VOICES.map((voice) => anotherRow({ rows }, voice)).map((voice) => (
            <Command.Item key={voice} value={labelOfVoice(voice)} onSelect={() => add(voice)} className={item}>
              {labelOfVoice(voice)}
            </Command.Item>
          ))}
          <Command.Item
            value="Row with your own name"
            keywords={['own', 'custom', 'new']}
            onSelect={() => getState().setUi({ dialog: 'own-row' })}
            className={`${item} mt-1 border-t border-line`}
          >
            Row with your own name …
          </Command.Item>
        </Command.List>
      </Command>
    </Modal>
  );
}
