import type { Part } from '@/core/model/part';
import type { Transaction } from '@/editing/document';
import type { Gesture, GestureContext, Pointer } from './types';

/**
 * A drag that previews a change of the part: letting go makes one step of it, Escape puts all back.
 * @param done after a step was made
 * @param closing before it ends, however it does
 */
export function dragState(
  name: string,
  idle: Gesture,
  edit: Transaction<Part>,
  preview: (p: Pointer, context: GestureContext) => void,
  done: (context: GestureContext) => void = () => {},
  scrolls = false,
  closing: () => void = () => {},
): Gesture {
  const dragging: Gesture = {
    name,
    scrolls,
    move(p, context) {
      preview(p, context);
      return dragging;
    },
    up(_p, context) {
      closing();
      edit.commit();
      context.showReadout(null);
      done(context);
      return idle;
    },
    cancel(context) {
      closing();
      edit.cancel();
      context.showReadout(null);
      return idle;
    },
  };
  return dragging;
}
