import { clamp } from '../units';
import { evenOf, hitHashes, mix, SALT } from '../feel/random-values';
import type { TimbreMove } from '../model/feel';
import { number, type ApplyMove, type MoveSpec } from '../feel/move-spec';

/** How far sound goes whatever adds up: pan and brightness in percent, pitch in semitones. */
const FURTHEST = { pan: 100, pitch: 24, brightness: 100 } as const;
/** Velocity in the middle: brightness by velocity is 0 there. */
const MIDDLE = 64;
const OCTAVE = 12;

/**
 * Pan, pitch and brightness around the hits' own: even draws of mean 0, brightness by velocity, pan by pitch. Times and velocities stay.
 */
const applyTimbre: ApplyMove<TimbreMove> = (
  { pan, pitch, brightness, velocityBrightness, pitchPan },
  { hits, written, range, loudness, timbre },
  inScope,
  seed,
) => {
  const hashes = hitHashes(hits);
  const salts = { pan: mix(seed, SALT.pan), pitch: mix(seed, SALT.pitch), brightness: mix(seed, SALT.brightness) };
  const draw = (salt: number, i: number, reach: number): number =>
    reach === 0 ? 0 : (2 * evenOf(mix(salt, hashes[i] as number)) - 1) * reach;
  const columns = timbre();
  for (let i = range.from; i < range.to; i++) {
    if (written.chokes[i] === 1 || !inScope(i)) continue;
    const pitched = clamp((columns.pitches[i] as number) + draw(salts.pitch, i, pitch), -FURTHEST.pitch, FURTHEST.pitch);
    columns.pitches[i] = pitched;
    columns.pans[i] = clamp(
      (columns.pans[i] as number) + draw(salts.pan, i, pan) + (pitched / OCTAVE) * pitchPan,
      -FURTHEST.pan,
      FURTHEST.pan,
    );
    const opened = (((loudness[i] as number) - MIDDLE) / (127 - MIDDLE)) * velocityBrightness;
    columns.brightness[i] = clamp(
      (columns.brightness[i] as number) + draw(salts.brightness, i, brightness) + opened,
      -FURTHEST.brightness,
      FURTHEST.brightness,
    );
  }
};

export const timbreMove: MoveSpec<TimbreMove> = {
  kind: 'timbre',
  members: {
    pan: number(0, 100),
    pitch: number(0, 12),
    brightness: number(0, 100),
    velocityBrightness: number(-100, 100),
    pitchPan: number(-100, 100),
  },
  plain: { kind: 'timbre', pan: 0, pitch: 0, brightness: 0, velocityBrightness: 0, pitchPan: 0 },
  first: () => ({ pitch: 0.2, brightness: 10, velocityBrightness: 30 }),
  salt: 'timbre',
  draws: true,
  apply: applyTimbre,
};
