'use client';

import { useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Feel } from '@/core/model/feel';
import { READY_FEELS } from '@/core/moves/ready-feels';
import { setFeel } from '@/core/commands/moves';
import { FEEL_FILE_ENDING, writeFeelFile } from '@/formats/feel-format';
import { bringIn, broughtWords } from '@/storage/bring-in';
import { feelStore, type KeptFeel } from '@/storage/feel-store';
import { Button } from '@/ui/Button';
import { download, fileNameOf } from '@/ui/download';
import { Modal } from '@/ui/Modal';
import { say, showError } from '@/ui/notify';
import { useBench, useBenchStore } from '../store/context';
import { useFeels } from '../store/use-feels';

/** Whole feels: ready ones to start from, the user's own, and files. */
export function FeelsDialog() {
  const { getState } = useBenchStore();
  const feel = useBench((s) => s.part.feel);
  const own = useFeels();
  const [name, setName] = useState('My feel');
  const file = useRef<HTMLInputElement>(null);
  const attempt = (work: Promise<unknown>) => void work.catch(showError);
  const close = () => getState().setDesk({ dialog: null });
  const use = (called: string, chosen: Feel) => {
    getState().run(`Use the feel ${called}`, (p) => setFeel(p, chosen));
    getState().setDesk({ dialog: null, openMove: null });
  };
  const keep = async () => {
    const kept = { name: name.trim() || 'My feel', feel };
    await feelStore.save(kept);
    say(`${kept.name} is kept for every part.`);
  };
  const bring = async (chosen: File) => {
    // A file of another kind goes where it belongs.
    say(broughtWords(await bringIn(await chosen.text(), chosen.name)));
  };
  const remove = async (kept: KeptFeel) => {
    const putBack = await feelStore.remove(kept);
    toast(`${kept.name} is gone.`, { action: { label: 'Put it back', onClick: () => attempt(putBack()) } });
  };
  const small = '!h-7 !px-2 text-sm';
  return (
    <Modal open onClose={close} title="Whole feels" about="A feel takes the place of the part’s own; one undo brings that back.">
      <div className="space-y-4">
        <ul aria-label="Ready feels" className="space-y-2">
          {READY_FEELS.map((r) => (
            <li key={r.name} className="flex items-start gap-3 border-t border-line pt-2">
              <span className="min-w-0 flex-1">
                <span className="font-serif text-base">{r.name}</span>
                <span className="block text-sm text-faint">{r.about}</span>
              </span>
              <Button className={small} aria-label={`Use ${r.name}`} onClick={() => use(r.name, r.feel)}>
                use
              </Button>
            </li>
          ))}
        </ul>
        {own.length > 0 && (
          <ul aria-label="Your feels" className="space-y-1">
            {own.map((k) => (
              <li key={k.name} className="flex items-baseline gap-1 border-t border-line pt-1">
                <span className="mr-auto">
                  {k.name} <span className="text-sm text-faint">{k.feel.moves.length} moves</span>
                </span>
                <Button className={small} aria-label={`Use ${k.name}`} onClick={() => use(k.name, k.feel)}>
                  use
                </Button>
                <Button className={small} aria-label={`Export ${k.name}`} onClick={() => download(writeFeelFile(k.feel), `${fileNameOf(k.name)}${FEEL_FILE_ENDING}`, 'application/json')}>
                  export
                </Button>
                <Button className={small} aria-label={`Delete ${k.name}`} onClick={() => attempt(remove(k))}>
                  delete
                </Button>
              </li>
            ))}
          </ul>
        )}
        <div className="flex flex-wrap items-center gap-2 border-t border-line pt-3">
          <input aria-label="Name for this feel" value={name} maxLength={120} onChange={(e) => setName(e.target.value)} className="min-w-0 flex-1 rounded border-b border-strong bg-transparent px-1" />
          <Button className={small} disabled={feel.moves.length === 0} onClick={() => attempt(keep())}>
            Keep this feel
          </Button>
          <Button className={small} disabled={feel.moves.length === 0} onClick={() => download(writeFeelFile(feel), `${fileNameOf(name)}${FEEL_FILE_ENDING}`, 'application/json')}>
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
            aria-label="Feel file"
            data-testid="feel-file"
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
