'use client';

import { Command } from 'cmdk';
import { useMemo, useState } from 'react';
import { keyText } from '../words/key-text';
import type { Playback } from '../playback/use-playback';
import { useRecording } from '../recording/context';
import { useAllKeys } from '../shared/features';
import { useBenchStore } from '../store/context';
import { KEYS } from './keys';
import type { Context, KeySpec } from '../shared/key-spec';
import { rank } from './rank';
import { MORE } from './more';

const ALL = [...KEYS, ...MORE];

/** A line to write on under the transport: every action and page is found by its words and the trade's, says its key, and is done. */
export default function FindLine({ playback }: { playback: Playback }) {
  const specs = useAllKeys(ALL);
  const store = useBenchStore();
  const recording = useRecording();
  const context = useMemo((): Context => ({ store, playback, recording }), [store, playback, recording]);
  const close = () => store.getState().setUi({ dialog: null });
  // What had the focus before the line took it.
  const [before] = useState(() => document.activeElement);
  const leave = () => {
    close();
    if (before instanceof HTMLElement) before.focus();
  };
  const take = (spec: KeySpec) => {
    close();
    // What is done may lead the keyboard elsewhere, or open a dialog: this line is gone by then.
    requestAnimationFrame(() => spec.run?.(context));
  };
  return (
    <div className="fixed inset-0 z-40" onPointerDown={leave}>
      <div
        role="dialog"
        aria-label="Find anything"
        aria-modal="true"
        className="absolute top-[60px] left-1/2 w-[min(620px,94vw)] -translate-x-1/2 rounded-b-lg border border-strong bg-surface shadow-lg"
        onPointerDown={(e) => e.stopPropagation()}
      >
        <Command
          label="Find anything"
          filter={rank}
          loop
          onKeyDown={(e) => {
            if (e.key !== 'Escape') return;
            e.preventDefault();
            e.stopPropagation();
            leave();
          }}
        >
          <Command.Input
            autoFocus
            placeholder="What do you want to do? “humanize”, “ghost notes”, “export” …"
            className="w-full border-b border-strong bg-transparent px-4 py-3 text-base outline-none placeholder:text-faint focus-visible:!outline-none"
          />
          <Command.List className="max-h-[min(420px,60vh)] overflow-auto p-2">
            <Command.Empty className="px-3 py-2 text-faint">
              Nothing found. Try another word: what it changes, or what you would hear.
            </Command.Empty>
            {specs
              .filter((s) => s.run && s.shown !== null)
              .map((spec) => (
                <Command.Item
                  key={spec.text}
                  value={spec.text}
                  keywords={[...(spec.also ?? [])]}
                  onSelect={() => take(spec)}
                  className="flex cursor-default items-baseline justify-between gap-4 rounded px-3 py-1 data-[selected=true]:bg-sunk"
                >
                  <span>{spec.text}</span>
                  <span className="shrink-0 text-sm text-faint">{spec.keys[0] ? keyText(spec.keys[0]) : ''}</span>
                </Command.Item>
              ))}
          </Command.List>
        </Command>
      </div>
    </div>
  );
}
