import { createStore } from 'zustand/vanilla';

/** Ids of the parts that are chosen on the Shelf, and the last that was: what Shift reaches from. */
export const chosenParts = createStore<{ ids: ReadonlySet<string>; last: string | null }>(() => ({ ids: new Set(), last: null }));

export const chooseNone = (): void => chosenParts.setState({ ids: new Set(), last: null });

export const chooseAll = (ids: readonly string[]): void => chosenParts.setState({ ids: new Set(ids), last: ids.at(-1) ?? null });

/** Chooses a part or lets it go; with Shift, all from the last one to it. @param shown all that are seen, in their order */
export function choosePart(id: string, reach: boolean, shown: readonly string[]): void {
  const { ids, last } = chosenParts.getState();
  const next = new Set(ids);
  const [from, to] = [shown.indexOf(last ?? ''), shown.indexOf(id)].sort((a, b) => a - b) as [number, number];
  if (reach && from >= 0) for (const other of shown.slice(from, to + 1)) next.add(other);
  else if (!next.delete(id)) next.add(id);
  chosenParts.setState({ ids: next, last: id });
}

/** Lets go of what is not there any more. */
export function keepChosen(there: ReadonlySet<string>): void {
  const { ids, last } = chosenParts.getState();
  if ([...ids].every((id) => there.has(id))) return;
  chosenParts.setState({ ids: new Set([...ids].filter((id) => there.has(id))), last: last !== null && there.has(last) ? last : null });
}
