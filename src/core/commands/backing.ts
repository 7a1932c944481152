/** Commands on the recording that is heard beside a part. */
import { BACKING, type Backing } from '../model/backing';
import type { Part } from '../model/part';
import { clamp, seconds } from '../units';

/** Lets a recording be heard beside the part; null: none. */
export function setBacking(part: Part, backing: Backing | null): Part {
  if (backing) return { ...part, backing };
  const { backing: _, ...rest } = part;
  return rest;
}

/** Changes how it is heard; nothing where there is none. */
export function changeBacking(part: Part, change: Partial<Backing>): Part {
  if (!part.backing) return part;
  const next = { ...part.backing, ...change };
  const limited = {
    ...next,
    level: clamp(next.level, BACKING.level.min, BACKING.level.max),
    offsetMs: clamp(next.offsetMs, BACKING.offsetMs.min, BACKING.offsetMs.max),
    firstDownbeat: seconds(clamp(next.firstDownbeat, BACKING.firstDownbeat.min, BACKING.firstDownbeat.max)),
  };
  return { ...part, backing: limited };
}
