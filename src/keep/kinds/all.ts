import type { EntryKind } from '@/formats/library-file';
import type { Kind } from './kind';
import { breakKind } from './break';
import { grooveKind } from './groove';
import { feelKind, keyMapKind, patternKind, outputMapKind } from './named';
import { partKind } from './part';
import { settingKind } from './setting';
import { soundKind } from './sound';

/** Every kind of thing in a library file, in the order in which they go in and come out: sounds before the parts that they play. */
export const KINDS: Readonly<Record<EntryKind, Kind>> = {
  sound: soundKind,
  break: breakKind,
  groove: grooveKind,
  feel: feelKind,
  'key map': keyMapKind,
  pattern: patternKind,
  target: outputMapKind,
  part: partKind,
  setting: settingKind,
};
