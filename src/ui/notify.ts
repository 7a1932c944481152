import { createStore } from 'zustand/vanilla';
import type * as Sonner from 'sonner';
import { isNamedError } from '@/core/errors';

/** What shows messages is loaded with the first of them. */
export const messagesState = createStore<{ wanted: boolean; onShown: () => void }>(() => ({ wanted: false, onShown: () => {} }));

let shown: Promise<typeof Sonner> | undefined;

function messages(): Promise<typeof Sonner> {
  return (shown ??= Promise.all([import('sonner'), new Promise<void>((onShown) => messagesState.setState({ wanted: true, onShown }))]).then(
    ([sonner]) => sonner,
  ));
}

const show = (work: (toast: (typeof Sonner)['toast']) => void): void => {
  messages().then(({ toast }) => work(toast), console.error);
};

/** Shows an error with what to do about it; anything unnamed is told apart as our own fault. */
export function showError(e: unknown): void {
  if (isNamedError(e)) return show((toast) => toast.error(e.message, { description: e.remedy, duration: 12_000 }));
  console.error(e);
  show((toast) =>
    toast.error('Something went wrong unexpectedly.', { description: e instanceof Error ? e.message : String(e), duration: 12_000 }),
  );
}

interface Choice {
  label: string;
  onClick: () => void;
}

let said: string | number | undefined;

/** Shows a message in the place of the one before. As a new one: one that is on its way out takes what it is told along. */
function instead(text: string, options: { duration: number; action?: Choice }): void {
  show((toast) => {
    const before = said;
    said = toast(text, options);
    if (before !== undefined) toast.dismiss(before);
  });
}

/** Says what was done, with one other choice beside it. */
export const sayWith = (text: string, choice: string, choose: () => void): void =>
  instead(text, { duration: 8000, action: { label: choice, onClick: choose } });

/** Says in passing what was done, or why nothing was. */
export const say = (text: string): void => instead(text, { duration: 3500 });

/** Tells something that stays beside other messages, with one choice where there is one. */
export const tell = (text: string, action?: Choice): void => show((toast) => toast(text, action ? { action } : {}));

/** Tells something with a choice, and stays until it is answered. */
export const offer = (text: string, label: string, onClick: () => void): void =>
  show((toast) => toast(text, { duration: Infinity, closeButton: true, action: { label, onClick } }));
