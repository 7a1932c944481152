import * as Comlink from 'comlink';
import type { KitName } from '@/core/model/sound';
import { strokeOf } from '@/core/synth/kits/all';
import type { Stroke } from '@/core/synth/stroke';
import type { VoiceName } from '@/core/row-names';

export interface StrokeWish {
  kit: KitName;
  voice: VoiceName;
  /** Class of velocity. */
  index: number;
  take: number;
}

/** Renders the kits' strokes away from the interface. */
const api = {
  render: (wishes: StrokeWish[], sampleRate: number): Stroke[] => {
    const strokes = wishes.map(({ kit, voice, index, take }) => strokeOf(kit, voice, index, take, sampleRate));
    return Comlink.transfer(strokes, strokes.map((s) => s.samples.buffer));
  },
};

export type KitApi = typeof api;

Comlink.expose(api);
