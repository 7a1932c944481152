'use client';

import { useBenchStore } from '../store/context';

const SIDES = [
  { dialog: 'target', text: 'Output notes' },
  { dialog: 'kit', text: 'Input notes' },
] as const;

/** The two sides of a part's keys, in one dialog: how they leave for the target, and which row each one means. */
export function KeySides({ side }: { side: (typeof SIDES)[number]['dialog'] }) {
  const { getState } = useBenchStore();
  return (
    <div role="group" aria-label="Which keys" className="flex gap-1 border-b border-line pb-2">
      {SIDES.map(({ dialog, text }) => (
        <button
          key={dialog}
          type="button"
          aria-pressed={dialog === side}
          onClick={() => getState().setUi({ dialog })}
          className="rounded px-2 py-0.5 text-faint hover:bg-sunk aria-pressed:bg-ink aria-pressed:text-ground"
        >
          {text}
        </button>
      ))}
    </div>
  );
}
