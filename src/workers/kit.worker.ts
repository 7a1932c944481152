import * as Comlink from 'comlink';
import { renderVoice } from '@/core/synth/render';
import type { VoiceName } from '@/core/voices';

/** Renders the kit's sounds away from the interface. */
const api = {
  render: (voices: VoiceName[], sampleRate: number): Float32Array[] => {
    const sounds = voices.map((voice) => renderVoice(voice, sampleRate));
    return Comlink.transfer(sounds, sounds.map((s) => s.buffer));
  },
};

export type KitApi = typeof api;

Comlink.expose(api);
