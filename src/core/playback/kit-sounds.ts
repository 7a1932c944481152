import type { KitName } from '../model/sound';
import { ALTERNATES, CLASSES, classOf, velocityOf } from '../synth/classes';
import { endedBy } from '../synth/chokes';
import { clamp } from '../units';
import { voiceOfRow, type VoiceName } from '../row-names';
import type { Sound, SoundLayer } from './mixer';
import type { Program } from './program';
import { PLAIN_MIX } from './row-mix';

/** The layers of a built-in sound, without a stroke yet. */
export const emptyLayers = (): SoundLayer[] => Array.from({ length: CLASSES }, (_, i) => ({ upTo: velocityOf(i), at: velocityOf(i), takes: new Array<undefined>(ALTERNATES).fill(undefined) }));

const isCymbal = (voice: VoiceName): boolean => /^(crash|ride|splash|china)/.test(voice);
const isMetal = (voice: VoiceName): boolean => isCymbal(voice) || voice.startsWith('hat-') || voice === 'triangle';

const GRABBED_MS = 90;
const STOPPED_MS = 30;
const ELECTRONIC_MS = 3;

/** How a voice of a kit ends itself and others, with the layers that its strokes go into. */
export function kitSound(kit: KitName, sound: VoiceName, layers: SoundLayer[]): Sound {
  const voice = voiceOfRow(sound);
  const { voices: ends, ms } = endedBy(voice);
  return {
    layers,
    voice,
    ends,
    ...(ends.length > 0 ? { endMs: ms } : {}),
    chokeMs: isCymbal(voice) ? GRABBED_MS : STOPPED_MS,
    ...(kit === 'Beacon' && !isMetal(voice) ? { selfMs: ELECTRONIC_MS } : {}),
  };
}

/** Which classes of velocity a program strikes, by the player's numbers for rows: the commonest of each first. */
export function classesOf({ voices, velocities, chokes, mix }: Pick<Program, 'voices' | 'velocities' | 'chokes' | 'mix'>): Map<number, number[]> {
  const counts = new Map<number, Uint32Array>();
  for (let i = 0; i < voices.length; i++) {
    if (chokes[i] === 1) continue;
    const voice = voices[i] as number;
    let own = counts.get(voice);
    if (!own) counts.set(voice, (own = new Uint32Array(CLASSES)));
    own[tonedClass(velocities[i] as number, (mix.rows[voice] ?? PLAIN_MIX).tone)]!++;
  }
  return new Map([...counts].map(([voice, own]) => [voice, [...own.keys()].filter((c) => own[c]! > 0).sort((a, b) => own[b]! - own[a]!)]));
}

/** The class that a velocity is struck in, by its row's response of the tone. */
export const tonedClass = (velocity: number, tone: number): number => classOf(clamp(Math.round(100 + (velocity - 100) * tone), 1, 127));
