import type { ProgramVersion, Versions } from '@/core/playback/player';
import type { Program } from '@/core/playback/program';

/** Copies whose memory may be handed over: the page keeps its own, and the audio thread copies nothing. */
export function handOver({ gains, ...programs }: Versions): { versions: Versions; transfer: ArrayBuffer[] } {
  const transfer: ArrayBuffer[] = [];
  const copied = (program: Program): Program => copyOf(program, transfer);
  const versions = Object.fromEntries(Object.entries(programs).map(([version, program]) => [version, copied(program)])) as Record<
    Exclude<ProgramVersion, 'other'>,
    Program
  >;
  return { versions: { ...versions, ...(gains ? { gains } : {}) }, transfer };
}

/** A copy of plain data, its typed arrays in memory of their own. */
function copyOf<T>(value: T, transfer: ArrayBuffer[]): T {
  if (ArrayBuffer.isView(value)) {
    const copy = (value as unknown as Float64Array).slice();
    transfer.push(copy.buffer as ArrayBuffer);
    return copy as unknown as T;
  }
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).map(([name, member]) => [name, copyOf(member as unknown, transfer)])) as T;
}
