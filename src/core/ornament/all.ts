import type { Ornament, OrnamentKind } from '../model/ornament';
import { echoSpec } from './echo';
import { flamSpec } from './flam';
import type { OrnamentSpec } from './ornament-spec';
import { rollSpec } from './roll';

/** Every kind of ornament: the compiler asks for those that are missing. */
const BY_KIND: { readonly [K in OrnamentKind]: OrnamentSpec<Extract<Ornament, { kind: K }>> } = {
  roll: rollSpec,
  flam: flamSpec,
  echo: echoSpec,
};

/** In the order in which they are offered. */
export const ORNAMENTS = Object.values(BY_KIND) as unknown as readonly OrnamentSpec[];

/** The spec of an ornament's kind. @throws Error where the list has none: ornaments are checked where they come in */
export function ornamentSpecOf(kind: string, specs: readonly OrnamentSpec[] = ORNAMENTS): OrnamentSpec {
  const spec = specs.find((s) => s.kind === kind);
  if (!spec) throw new Error(`no ornament is called ${kind}`);
  return spec;
}

/** @example wordOfOrnament({ kind: 'flam', strokes: 2, ... }) // 'drag' */
export const wordOfOrnament = (ornament: Ornament): string => ornamentSpecOf(ornament.kind).word(ornament);

/** What an ornament of a kind starts with. */
export const newOrnament = <K extends OrnamentKind>(kind: K): Extract<Ornament, { kind: K }> =>
  (ornamentSpecOf(kind).ready[0] as { ornament: Ornament }).ornament as Extract<Ornament, { kind: K }>;
