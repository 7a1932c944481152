import { listed, plural } from '@/core/plurals';
import type { LibraryMark, CameBack } from '@/storage/library-mark';

const MOST_NAMES = 12;

/**
 * @example lossWords(mark) // 'The browser deleted its data for this page, …. These parts can no longer be read: Low Tide and My Strut.'
 */
export function lossWords({ parts, others }: LibraryMark): string {
  const names = parts.map(([, name]) => name);
  const more = names.length > MOST_NAMES ? [`${names.length - MOST_NAMES} more`] : [];
  const list = listed([...names.slice(0, MOST_NAMES), ...more]);
  const rest = Object.values(others).some((n) => n > 0) ? ' Grooves, kits and other items of the Library may be missing too.' : '';
  return `The browser deleted its data for this page, as it does when the disk is full. ${plural(names.length, 'This part', 'These parts')} can no longer be read: ${list}.${rest}`;
}

/** @example restoredWords({ parts: 2, files: 0 }) // '… deleted its data for this page. 2 parts are back from the second copy.' */
export function restoredWords({ parts, files }: CameBack): string {
  const rest = files > 0 ? ' Your own samples and recordings were not in it: restore a backup to get them back.' : '';
  return `The browser deleted its data for this page. ${parts} ${plural(parts, 'part is', 'parts are')} back from the second copy.${rest}`;
}
