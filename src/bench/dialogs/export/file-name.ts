import { shortName } from '@/core/limits';

/** What file systems do not take. */
const REFUSED = /[\\/:*?"<>|\p{Cc}]+/gu;

/** @example plainName('Intro: A/B') // 'Intro- A-B' */
export const plainName = (name: string): string => shortName(name.replace(REFUSED, '-').replace(/\s+/g, ' ').replace(/^[.\s]+|[.\s]+$/g, '')) || 'part';

/** A MIDI file says its tempo and length by its name. @example midiName('Gangway Strut', { bpm: 96, bars: 8 }) // 'Gangway Strut 96bpm 8bars.mid' */
export const midiName = (name: string, { bpm, bars }: { bpm: number; bars: number }): string => `${plainName(name)} ${Math.round(bpm * 100) / 100}bpm ${bars}${bars === 1 ? 'bar' : 'bars'}.mid`;
