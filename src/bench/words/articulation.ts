import type { Hit } from '@/core/model/part';
import { plural } from '@/core/plurals';
import { roundHalfUp } from '@/core/units';

/**
 * How open the hi-hat was and where the pad was struck; empty if neither is known.
 * @example articulationText({ openness: 64, position: 127 }) // 'hat 50 % open, position 127'
 */
export const articulationText = ({ openness, position }: Pick<Hit, 'openness' | 'position'>): string =>
  [openness !== undefined && `hat ${roundHalfUp((openness / 127) * 100)} % open`, position !== undefined && `position ${position}`]
    .filter(Boolean)
    .join(', ');

const signed = (n: number): string => `${n > 0 ? '+' : '−'}${Math.abs(n)}`;

/**
 * A hit's pan, pitch, brightness, openness and position; empty if it has none of them.
 * @example soundText({ pan: -20, pitch: 2 }) // 'pan 20 % left, pitch +2 semitones'
 */
export const soundText = (hit: Pick<Hit, 'pan' | 'pitch' | 'brightness' | 'openness' | 'position'>): string =>
  [
    hit.pan && `pan ${Math.abs(hit.pan)} % ${hit.pan < 0 ? 'left' : 'right'}`,
    hit.pitch && `pitch ${signed(hit.pitch)} ${plural(Math.abs(hit.pitch), 'semitone')}`,
    hit.brightness && `brightness ${signed(hit.brightness)} %`,
    articulationText(hit),
  ]
    .filter(Boolean)
    .join(', ');
