import type { Part } from '@/core/model/part';
import type { Transaction } from '@/editing/document';
import type { Gesture, Hands, Pointer } from './types';

/**
 * A drag that previews a change of the part: letting go makes one step of it, Escape puts all back.
 * @param done after a step was made
 * @param closing before it ends, however it does
 */
export function dragState(
  name: string,
  idle: Gesture,
  edit: Transaction<Part>,
  preview: (p: Pointer, hands: Hands) => void,
  done: (hands: Hands) => void = () => {},
  scrolls = false,
  closing: () => void = () => {},
): Gesture {
  const dragging: Gesture = {
    name,
    scrolls,
    move(p, hands) {
      preview(p, hands);
      return dragging;
    },
    up(_p, hands) {
      closing();
      edit.commit();
      hands.showReadout(null);
      done(hands);
      return idle;
    },
    cancel(hands) {
      closing();
      edit.cancel();
      hands.showReadout(null);
      return idle;
    },
  };
  return dragging;
}
