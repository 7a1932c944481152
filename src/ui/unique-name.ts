/** A name that no other file has, remembered among those taken. @example uniqueName('snare', new Set(['snare'])) // 'snare-2' */
export function uniqueName(name: string, taken: Set<string>): string {
  let next = name;
  for (let n = 2; taken.has(next); n++) next = `${name}-${n}`;
  taken.add(next);
  return next;
}
