import { createStore, type StoreApi } from 'zustand/vanilla';
import { breakOfRow } from '@/core/breaks/rows';
import type { Part } from '@/core/model/part';
import { STRAIGHT_CURVE, throughCurve, type VelocityCurve } from '@/core/velocity-curve';
import { GALLEY_KIT, GENERAL_MIDI_KIT, keyOfVoice, keyOnKit, type KitMap } from '@/core/key-map';
import { soundOfRow } from '@/core/part/rows';
import type { OutputDevice } from '@/devices/output';
import type { NoteSender } from '@/sound/note-sender';
import type { SoundEngine } from '@/sound/engine';
import { seconds } from '@/core/units';
import { showError } from '@/ui/notify';

/** How performed hits go out. */
export interface SendingState {
  output: OutputDevice | null;
  /** 1 to 16. */
  channel: number;
  /** Keys: those of the part's hits, or a key map's. */
  kit: 'own' | 'General MIDI' | 'Galley pads';
  curve: VelocityCurve;
  /** Later is positive. */
  offsetMs: number;
  sent: number;
}

export interface Sender {
  state: StoreApi<SendingState>;
  set(change: Partial<SendingState>): void;
  dispose(): void;
}

const KITS: Readonly<Record<SendingState['kit'], KitMap | null>> = { own: null, 'General MIDI': GENERAL_MIDI_KIT, 'Galley pads': GALLEY_KIT };
const LOOK_MS = 20;
/** Drums need no length; receivers like to see an end. */
const NOTE_MS = 60;
const NOTE_ON = 0x90;
const NOTE_OFF = 0x80;

/** Sends what is played to an output, time-stamped, as long as one is chosen. */
export function createSender(engine: SoundEngine, partOf: () => Part, hitOfSlot: (slot: number) => string | undefined): Sender {
  const state = createStore<SendingState>(() => ({ output: null, channel: 10, kit: 'own', curve: STRAIGHT_CURVE, offsetMs: 0, sent: 0 }));
  // What decides which notes are due comes with the first output that is chosen.
  let notes: NoteSender | null = null;
  const begin = async () => {
    const { NoteSender: Decider } = await import('@/sound/note-sender');
    notes ??= new Decider(engine.sampleRate);
  };
  let keys: { part: Part; of: Map<string, { key: number; voice: string }> } | null = null;
  const hitOf = (slot: number) => {
    const part = partOf();
    if (keys?.part !== part) keys = { part, of: new Map(part.hits.map((h) => [h.id, h])) };
    return keys.of.get(hitOfSlot(slot) ?? '');
  };
  const look = () => {
    const { output, channel, kit, curve, offsetMs, sent } = state.getState();
    const due = notes?.due(output ? engine.sounding : null, seconds(engine.heardNow())) ?? [];
    if (!output || due.length === 0) return;
    let count = 0;
    for (const note of due) {
      const hit = hitOf(note.slot);
      // What plays a recording has no key elsewhere.
      if (!hit || breakOfRow(partOf(), hit.voice)) continue;
      const map = KITS[kit];
      const key = map ? keyOfVoice(map, keyOnKit(map, hit.voice) === undefined ? soundOfRow(partOf(), hit.voice) : hit.voice) : hit.key;
      const page = engine.pageTimeOf(note.at) + offsetMs;
      output.send([NOTE_ON | (channel - 1), key, throughCurve(curve, note.velocity)], page);
      output.send([NOTE_OFF | (channel - 1), key, 64], page + NOTE_MS);
      count++;
    }
    state.setState({ sent: sent + count });
  };
  let timer: ReturnType<typeof setInterval> | null = null;
  const set = (change: Partial<SendingState>) => {
    if ('output' in change) {
      state.getState().output?.clear();
      if (change.output && timer === null) {
        timer = setInterval(look, LOOK_MS);
        begin().catch(showError);
      }
      if (!change.output && timer !== null) {
        clearInterval(timer);
        timer = null;
        notes?.due(null, seconds(0));
      }
    }
    state.setState(change);
  };
  return { state, set, dispose: () => set({ output: null }) };
}
