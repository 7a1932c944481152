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

let said: string | number | undefined;

/** Shows a message in the place of the one before. As a new one: one that is on its way out takes what it is told along. */
function instead(text: string, options: Parameters<typeof toast>[1]): void {
  const before = said;
  said = toast(text, options);
  if (before !== undefined) toast.dismiss(before);
}

/** Says what was done, with one other choice beside it. */
export const sayWith = (text: string, choice: string, choose: () => void): void => instead(text, { duration: 8000, action: { label: choice, onClick: choose } });

/** Says in passing what was done, or why nothing was. */
export const say = (text: string): void => instead(text, { duration: 3500 });
