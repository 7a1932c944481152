import type { Part } from '@/core/model/part';

/** A demo part: the music of "The Salt Ferry", a radio drama that we made up, programmed in code. */
export interface DemoPart {
  id: string;
  part: Part;
  song?: Uint8Array;
  /** One line for the Shelf. */
  about: string;
}
