import type { KitName } from '../../model/sound';
import { hashText } from '../../random';
import { standIns, voiceOfRow, type VoiceName } from '../../row-names';
import type { Recipe } from '../recipe';
import { renderStroke, type RenderedStroke } from '../stroke';
import { acousticKit } from './acoustic';
import { BEACON } from './beacon';
import { TICK_LEVEL } from './levels';

export interface SoundKit {
  name: KitName;
  about: string;
  recipes: Readonly<Record<VoiceName, Recipe>>;
}

export const SOUND_KITS: Readonly<Record<KitName, SoundKit>> = {
  Wheelhouse: {
    name: 'Wheelhouse',
    about: 'dry, close, wooden',
    recipes: acousticKit({ pitch: 1, ring: 1, wash: 1, soft: 1, tone: 1, wires: 1, click: 1 }),
  },
  'Dry Dock': {
    name: 'Dry Dock',
    about: 'large and roomy',
    recipes: acousticKit({ pitch: 0.86, ring: 1.5, wash: 1.15, soft: 1.15, tone: 0.95, wires: 1.1, click: 0.8 }),
  },
  Sailcloth: {
    name: 'Sailcloth',
    about: 'brushes and soft beaters',
    recipes: acousticKit({ pitch: 0.95, ring: 0.9, wash: 0.85, soft: 1.5, tone: 0.72, wires: 1.15, click: 0.9 }),
  },
  Beacon: { name: 'Beacon', about: 'small and electronic', recipes: BEACON },
};

/** A wooden tick, tuned by its name: what a key without an instrument sounds like. */
function tick(name: VoiceName): Recipe {
  const hz = 320 * 2 ** ((hashText(name) % 24) / 12);
  return {
    layers: [
      {
        kind: 'modes',
        hz,
        modes: [
          [1, 1],
          [2.1, 0.4],
          [4.3, 0.2],
        ],
        t60: 0.16,
        damping: 0.8,
        contact: [1.1, 0.35],
        level: 1,
      },
      { kind: 'noise', filter: 'bandpass', hz: 3600, q: 0.9, t60: 0.015, force: 0.6, level: 0.3 },
    ],
    tone: [hz * 2, 12_000],
    level: TICK_LEVEL,
  };
}

/** What a kit makes a voice of: its own recipe, that of what stands for it, or a tick. */
export function recipeOf(kit: KitName, voice: VoiceName): Recipe {
  const { recipes } = SOUND_KITS[kit];
  const own = [voice, ...standIns(voice)].find((name) => Object.hasOwn(recipes, name));
  return own === undefined ? tick(voiceOfRow(voice)) : (recipes[own] as Recipe);
}

/** Renders a stroke of a built-in kit. @param index class of velocity, 0 to 15 @param alternate 0 to 2 @param rate frames a second */
export const strokeOf = (
  kit: KitName,
  voice: VoiceName,
  index: number,
  alternate: number,
  rate: number,
  seconds?: number,
): RenderedStroke =>
  renderStroke({
    name: `${kit} ${voice}`,
    recipe: recipeOf(kit, voice),
    index,
    alternate,
    rate,
    ...(seconds === undefined ? {} : { seconds }),
  });
