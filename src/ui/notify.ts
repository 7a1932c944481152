import { toast } from 'sonner';
import { isNamedError } from '@/core/errors';

/** Shows an error with what to do about it; anything unnamed is told apart as our own fault. */
export function showError(e: unknown): void {
  if (isNamedError(e)) toast.error(e.message, { description: e.remedy, duration: 12_000 });
  else {
    console.error(e);
    toast.error('Something went wrong that should not.', { description: e instanceof Error ? e.message : String(e), duration: 12_000 });
  }
}

/** Says what was done, with one other choice beside it. */
export const sayWith = (text: string, choice: string, choose: () => void): void => void toast(text, { id: 'said', duration: 8000, action: { label: choice, onClick: choose } });

/** Says in passing what was done, or why nothing was. */
export const say = (text: string): void => void toast(text, { id: 'said', duration: 3500 });
