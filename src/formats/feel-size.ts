import { MOST_ENTRIES } from '@/core/limits';
import type { Size } from './validate';

/** Of a feel, its grooves included. */
export const FEEL_SIZE: Size = { list: MOST_ENTRIES, members: 256, depth: 12 };
