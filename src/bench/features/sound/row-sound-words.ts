import { breakOfRow } from '@/core/breaks/rows';
import { isOfBreak } from '@/core/model/break';
import type { OwnSounds } from '@/core/model/own-sound';
import type { Part, Row } from '@/core/model/part';
import { soundOfRow } from '@/core/part/rows';
import { audibleVoices } from '@/core/playback/program';
import { restOfRow } from '@/core/playback/row-mix';
import { sourceOfRow } from '@/core/playback/sources';
import { isOwnRow } from '@/core/row-names';
import { labelOfVoice } from '@/core/voices';

/** A row's sound in a line: why it is not heard, and what differs from the kit. @example '-6 dB, left 20, in full response' */
export function rowSoundWords(part: Part, row: Row, sounds: OwnSounds): string {
  const { level = 0, pan = 0, tune = 0, ring = 100, loudness, tone = 100, room, group = 0 } = row.sound ?? {};
  const silent = silentBecause(part, row);
  const { own, missing } = sourceOfRow(part, row.voice, sounds);
  const rest = restOfRow(part, row.voice, sounds);
  const words = [
    silent,
    missing !== undefined && `${missing} is not here: the kit plays it`,
    own?.name,
    row.plays && 'kit' in row.plays && row.plays.kit,
    isOfBreak(row.plays) && `slices of ${breakOfRow(part, row.voice)?.name ?? 'a break'}`,
    isOwnRow(row.voice) && `like ${labelOfVoice(soundOfRow(part, row.voice)).toLowerCase()}`,
    level !== 0 && level > -60 && `${signed(level)} dB`,
    pan !== 0 && `${pan < 0 ? 'left' : 'right'} ${Math.abs(pan)}`,
    tune !== 0 && `${signed(tune)} semitones`,
    ring !== 100 && `decay ${ring} %`,
    loudness === 0 ? 'same loudness at every velocity' : loudness !== undefined && loudness !== rest.loudness && `response ${loudness} %`,
    tone !== 100 && `tone ${tone} %`,
    room !== undefined && `room ${room} %`,
    group > 0 && `group ${group}`,
    row.held && 'ends with its hits',
  ].filter(Boolean);
  return words.length > 0 ? words.join(', ') : 'as the kit has it';
}

/** Why a row is not heard; false where it is. */
function silentBecause(part: Part, row: Row): string | false {
  if (row.muted) return 'muted';
  if (!audibleVoices(part).has(row.voice)) return 'silent: another row is soloed';
  if ((row.sound?.level ?? 0) <= -60) return 'silent: its level is at the bottom';
  return !part.hits.some((h) => h.voice === row.voice) && 'no hits yet';
}

const signed = (n: number): string => `${n > 0 ? '+' : '−'}${Math.abs(n)}`;
