/** Where a version came from: the part as it was imported; absent for one that was saved by hand. */
export interface WithOrigin {
  name: string;
  origin?: 'import';
}

/** Name of the version that is kept of every import. */
export const AS_IMPORTED = 'As imported';

/**
 * Versions of before knew their origin by their name: where none of a part's versions says it, those of that name came with the import.
 */
export const withOrigins = <V extends WithOrigin>(versions: readonly V[]): V[] =>
  versions.some((v) => v.origin) ? [...versions] : versions.map((v): V => (v.name === AS_IMPORTED ? { ...v, origin: 'import' } : v));
