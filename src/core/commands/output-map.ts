/** Commands on how a part leaves for another instrument. */
import { NO_TARGET, type OutputMap } from '../model/output-map';
import type { Part } from '../model/part';
import { keysOfRows } from '../output-map/leaving';
import { sameValue } from '../model/fields';
import type { VoiceName } from '../row-names';

/** What a part leaves by, chosen or not. */
export const outputMapOf = (part: Pick<Part, 'target'>): OutputMap => part.target ?? NO_TARGET;

/** Chooses a target; the one that changes nothing is none. */
export function setOutputMap(part: Part, target: OutputMap): Part {
  if (sameValue(target, outputMapOf(part))) return part;
  if (!sameValue(target, NO_TARGET)) return { ...part, target };
  const { target: _, ...rest } = part;
  return rest;
}

/** Changes some of a part's target; what was ready is the user's own then. */
export function changeOutputMap(part: Part, change: Partial<OutputMap>): Part {
  const before = outputMapOf(part);
  const next = { ...before, ...change };
  return sameValue(next, before) ? part : setOutputMap(part, { ...next, name: change.name ?? ownName(before.name) });
}

const CHANGED = ', changed';
const ownName = (name: string): string =>
  name === NO_TARGET.name ? 'Custom' : name.endsWith(CHANGED) || name === 'Custom' ? name : `${name}${CHANGED}`;

/** The key that a row leaves with; the keys of all other rows stay what they are. */
export function setOutputKey(part: Part, row: VoiceName, key: number): Part {
  const { keys } = outputMapOf(part);
  const rows = { ...(keys.kind === 'rows' ? keys.rows : {}), ...keysOfRows(part, outputMapOf(part)), [row]: key };
  return changeOutputMap(part, { keys: { kind: 'rows', rows } });
}

/** A row's own channel; null: the target's. */
export function setOutputChannel(part: Part, row: VoiceName, channel: number | null): Part {
  const { [row]: _, ...others } = outputMapOf(part).channels ?? {};
  return changeOutputMap(part, { channels: channel === null ? others : { ...others, [row]: channel } });
}
