import type { StrokeName } from '@/core/breaks/alike';
import { STROKE_KINDS, type StrokeKind } from '@/core/model/break';

/** What is often struck together. */
export const TOGETHER: readonly StrokeName[] = [
  { kind: 'kick', also: 'hat' },
  { kind: 'snare', also: 'hat' },
  { kind: 'snare', also: 'kick' },
];

const NAMES: Readonly<Record<StrokeKind, string>> = { kick: 'kick', snare: 'snare', hat: 'hat', other: 'other drum' };

/** @example nameText({ kind: 'kick', also: 'hat' }) // 'kick and hat' */
export const nameText = ({ kind, also }: StrokeName): string => (also ? `${NAMES[kind]} and ${NAMES[also]}` : NAMES[kind]);

export const sameName = (a: StrokeName, b: StrokeName): boolean => a.kind === b.kind && a.also === b.also;

/** The names to choose from: each kind, common pairs, and the current name. */
export const namesToChoose = (now: StrokeName): StrokeName[] => {
  const usual: StrokeName[] = [...STROKE_KINDS.map((kind) => ({ kind })), ...TOGETHER];
  return usual.some((n) => sameName(n, now)) ? usual : [...usual, { kind: now.kind, ...(now.also ? { also: now.also } : {}) }];
};
