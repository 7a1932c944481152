import { nanoid } from 'nanoid';

/**
 * Numbers that things are known by, made up here alone. Hits have many, so theirs are shorter; what goes from one library to another is
 * never to meet a like one there.
 */
export const newHitId = (): string => nanoid(10);
export const newTakeId = (): string => nanoid(10);
/** Unlike any other within its part: sections, breaks, ideas, series of versions. */
export const newIdInPart = (): string => nanoid(8);
/** Unlike any other anywhere: parts, versions, grooves, sounds, kits, folders. */
export const newId = (): string => nanoid(12);
