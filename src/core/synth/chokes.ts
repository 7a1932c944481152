import type { VoiceName } from '../row-names';

/** Voices whose start ends the ring of others, and within how many ms: a pedal or a closed stroke ends the open hat. */
const ENDS: Readonly<Record<VoiceName, { voices: readonly VoiceName[]; ms: number }>> = {
  'hat-closed': { voices: ['hat-open', 'hat-half', 'hat-splash'], ms: 30 },
  'hat-shoulder': { voices: ['hat-open', 'hat-half', 'hat-splash'], ms: 30 },
  'hat-pedal': { voices: ['hat-open', 'hat-half', 'hat-splash'], ms: 45 },
  'hat-half': { voices: ['hat-open'], ms: 45 },
  'hat-splash': { voices: ['hat-open', 'hat-half'], ms: 45 },
  'triangle-mute': { voices: ['triangle'], ms: 30 },
  'cuica-mute': { voices: ['cuica-open'], ms: 20 },
  'whistle-short': { voices: ['whistle-long'], ms: 10 },
  'guiro-short': { voices: ['guiro-long'], ms: 10 },
  'conga-mute': { voices: ['conga-high'], ms: 20 },
};

const NONE = { voices: [], ms: 0 } as const;

export const endedBy = (voice: VoiceName): { voices: readonly VoiceName[]; ms: number } =>
  Object.hasOwn(ENDS, voice) ? (ENDS[voice] as { voices: readonly VoiceName[]; ms: number }) : NONE;
