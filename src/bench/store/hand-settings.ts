import { createStore } from 'zustand/vanilla';
import { SPOTS, STRIKERS, within, type KitLayout, type DrumPosition, type Striker } from '@/core/hands/kit';
import { HAND_LIMITS } from '@/core/hands/limits';
import type { Handed } from '@/core/hands/sticking';

/** Whose hands they are, and the kit they sit at: kept for every part. */
export type HandSettings = Required<Handed>;

const NAME = 'nod-sway:hands';
export const HAND_RANGE = { min: 40, max: 250 } as const;
export const USUAL_HANDS: HandSettings = { lead: 'right', limits: HAND_LIMITS, kit: {} };

const isLimit = (n: unknown): n is number => typeof n === 'number' && n >= HAND_RANGE.min && n <= HAND_RANGE.max;
const isStriker = (s: unknown): s is Striker => STRIKERS.includes(s as Striker);
const isPlace = (p: unknown): p is DrumPosition =>
  typeof p === 'object' && p !== null && Number.isFinite((p as DrumPosition).x) && Number.isFinite((p as DrumPosition).y);
const entries = (of: unknown): [string, unknown][] => (typeof of === 'object' && of !== null ? Object.entries(of) : []);

/** Settings out of what was kept; what does not read is as usual. */
export function readHands(text: string | null): HandSettings {
  try {
    const kept = (JSON.parse(text ?? '{}') ?? {}) as {
      lead?: unknown;
      hand?: unknown;
      foot?: unknown;
      places?: unknown;
      strikers?: unknown;
    };
    const places = entries(kept.places).flatMap(([name, place]): [string, DrumPosition][] =>
      isPlace(place) && SPOTS.some((s) => s.name === name) ? [[name, within(place)]] : [],
    );
    const strikers = entries(kept.strikers).flatMap(([voice, striker]): [string, Striker][] =>
      isStriker(striker) ? [[voice, striker]] : [],
    );
    const kit: KitLayout = {
      ...(places.length > 0 ? { places: Object.fromEntries(places) } : {}),
      ...(strikers.length > 0 ? { strikers: Object.fromEntries(strikers) } : {}),
    };
    return {
      lead: kept.lead === 'left' ? 'left' : 'right',
      limits: { hand: isLimit(kept.hand) ? kept.hand : HAND_LIMITS.hand, foot: isLimit(kept.foot) ? kept.foot : HAND_LIMITS.foot },
      kit,
    };
  } catch {
    return USUAL_HANDS;
  }
}

export const writeHands = ({ lead, limits, kit }: HandSettings): string => JSON.stringify({ lead, ...limits, ...kit });

function remembered(): HandSettings {
  try {
    return readHands(localStorage.getItem(NAME));
  } catch {
    return USUAL_HANDS;
  }
}

export const handSettings = createStore<HandSettings>(() => (typeof localStorage === 'undefined' ? USUAL_HANDS : remembered()));

handSettings.subscribe((settings) => {
  try {
    localStorage.setItem(NAME, writeHands(settings));
  } catch {
    // Not kept: they hold for this visit.
  }
});

/** A kit with one thing changed; what is as usual is not kept. */
export function withPlace(kit: KitLayout, spot: string, place: DrumPosition | null): KitLayout {
  const { [spot]: _old, ...rest } = kit.places ?? {};
  return { ...kit, places: place ? { ...rest, [spot]: within(place) } : rest };
}

export function withStriker(kit: KitLayout, voice: string, striker: Striker | null): KitLayout {
  const { [voice]: _old, ...rest } = kit.strikers ?? {};
  return { ...kit, strikers: striker ? { ...rest, [voice]: striker } : rest };
}
