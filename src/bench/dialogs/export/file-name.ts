import { plural } from '@/core/plurals';
import { shortName } from '@/core/limits';

/** What file systems do not take. */
const REFUSED = /[\\/:*?"<>|\p{Cc}]+/gu;

/** @example plainName('Intro: A/B') // 'Intro- A-B' */
export const plainName = (name: string): string =>
  shortName(
    name
      .replace(REFUSED, '-')
      .replace(/\s+/g, ' ')
      .replace(/^[.\s]+|[.\s]+$/g, ''),
  ) || 'part';

/**
 * A sound file says its tempo, its length and its kit by its name.
 * @example soundName('Gangway Strut', { bpm: 96, bars: 4, kit: 'Beacon' }) // 'Gangway Strut 96bpm 4bars Beacon'
 */
export const soundName = (name: string, { bpm, bars, kit }: { bpm: number; bars: number; kit: string }): string =>
  plainName(`${name} ${Math.round(bpm * 100) / 100}bpm ${bars}${plural(bars, 'bar')} ${kit}`);

/**
 * A MIDI file says its tempo and length by its name.
 * @example midiName('Gangway Strut', { bpm: 96, bars: 8 }) // 'Gangway Strut 96bpm 8bars.mid'
 */
export const midiName = (name: string, { bpm, bars }: { bpm: number; bars: number }): string =>
  `${plainName(name)} ${Math.round(bpm * 100) / 100}bpm ${bars}${plural(bars, 'bar')}.mid`;
