/** Commands on how a part leaves for another instrument. */
import { NO_TARGET, type Target } from '../model/target';
import type { Part } from '../model/part';
import { keysOfRows } from '../target/leaving';
import { sameValue } from '../model/fields';
import type { VoiceName } from '../row-names';

/** What a part leaves by, chosen or not. */
export const targetOf = (part: Pick<Part, 'target'>): Target => part.target ?? NO_TARGET;

/** Chooses a target; the one that changes nothing is none. */
export function setTarget(part: Part, target: Target): Part {
  if (sameValue(target, targetOf(part))) return part;
  if (!sameValue(target, NO_TARGET)) return { ...part, target };
  const { target: _, ...rest } = part;
  return rest;
}

/** Changes some of a part's target; what was ready is the user's own then. */
export function changeTarget(part: Part, change: Partial<Target>): Part {
  const before = targetOf(part);
  const next = { ...before, ...change };
  return sameValue(next, before) ? part : setTarget(part, { ...next, name: change.name ?? ownName(before.name) });
}

const CHANGED = ', changed';
const ownName = (name: string): string =>
  name === NO_TARGET.name ? 'Own target' : name.endsWith(CHANGED) || name === 'Own target' ? name : `${name}${CHANGED}`;

/** The key that a row leaves with; the keys of all other rows stay what they are. */
export function setTargetKey(part: Part, row: VoiceName, key: number): Part {
  const { keys } = targetOf(part);
  const rows = { ...(keys.kind === 'rows' ? keys.rows : {}), ...keysOfRows(part, targetOf(part)), [row]: key };
  return changeTarget(part, { keys: { kind: 'rows', rows } });
}

/** A row's own channel; null: the target's. */
export function setTargetChannel(part: Part, row: VoiceName, channel: number | null): Part {
  const { [row]: _, ...others } = targetOf(part).channels ?? {};
  return changeTarget(part, { channels: channel === null ? others : { ...others, [row]: channel } });
}
