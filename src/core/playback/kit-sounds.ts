import { endedBy } from '../synth/chokes';
import { KIT_TRAITS } from '../synth/kits/levels';
import { voiceOfRow, type VoiceName } from '../row-names';
import { tonedVelocity, type Sound, type SoundLayer } from './mixer';
import type { Program } from './program';
import { PLAIN_MIX } from './row-mix';
import { gainOfSource, layerAt, type LayerShape, type RowSource } from './sources';

/** Layers without a stroke yet. */
export const emptyLayers = (shapes: readonly LayerShape[]): SoundLayer[] =>
  shapes.map(({ upTo, takes, at = upTo }) => ({ upTo, at, takes: new Array<undefined>(takes).fill(undefined) }));

const isCymbal = (voice: VoiceName): boolean => /^(crash|ride|splash|china)/.test(voice);

const GRABBED_MS = 90;
const STOPPED_MS = 30;
/** A hat that its pedal closes. */
const CLOSED_MS = 40;
/** A stroke that ends the one before does it within so many ms. */
const CUT_MS = 3;

/** How a source ends itself and others, with the layers that its strokes go into. */
export function soundOfSource(source: RowSource, layers: SoundLayer[]): Sound {
  const { kit, own, pieces } = source;
  // A piece ends the one before, on whichever row of its break: their group sees to the others.
  if (pieces) return { layers, voice: source.voice, ends: [], gain: gainOfSource(source), chokeMs: CUT_MS, selfMs: CUT_MS };
  const voice = voiceOfRow(source.voice);
  const { voices: ends, ms } = endedBy(voice);
  const cut = own ? own.cut === true : KIT_TRAITS[kit].cuts(voice);
  return {
    layers,
    voice,
    ends,
    gain: gainOfSource(source),
    ...(ends.length > 0 ? { endMs: ms } : {}),
    chokeMs: isCymbal(voice) ? GRABBED_MS : voice.startsWith('hat-') ? CLOSED_MS : STOPPED_MS,
    ...(cut ? { selfMs: CUT_MS } : {}),
  };
}

/** Which layers a program strikes, by the player's numbers for rows: the commonest of each first. */
export function struckLayers(
  { voices, velocities, chokes, mix }: Pick<Program, 'voices' | 'velocities' | 'chokes' | 'mix'>,
  layersOf: (voice: number) => readonly LayerShape[],
): Map<number, number[]> {
  const counts = new Map<number, { shapes: readonly LayerShape[]; of: Uint32Array }>();
  for (let i = 0; i < voices.length; i++) {
    if (chokes[i] === 1) continue;
    const voice = voices[i] as number;
    let own = counts.get(voice);
    if (!own) {
      const shapes = layersOf(voice);
      counts.set(voice, (own = { shapes, of: new Uint32Array(shapes.length) }));
    }
    own.of[layerAt(own.shapes, tonedVelocity(velocities[i] as number, (mix.rows[voice] ?? PLAIN_MIX).tone))]!++;
  }
  return new Map([...counts].map(([voice, { of }]) => [voice, [...of.keys()].filter((c) => of[c]! > 0).sort((a, b) => of[b]! - of[a]!)]));
}
