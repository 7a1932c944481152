import type { Part } from '@/core/model/part';
import { compareHits, type Hit } from '@/core/model/part';
import { voiceOfKey, GENERAL_MIDI_KIT } from '@/core/key-map';
import { compareVoices } from '@/core/voices';
import { ticks, TICKS_PER_QUARTER, velocity } from '@/core/units';
import { smallPart } from './arbitraries';
import { freeTake, type FreeTake } from './free-takes';
import { midiFile, noteEvents, tempoEvent, trackChunk } from './midi-bytes';

/** Seconds before the first stroke. */
const LEAD = 1.2;

/** A free take under a tempo that means nothing, as a file has it: 120 BPM, its first stroke a little after the start. */
export function freePart(seed: number): { take: FreeTake; part: Part } {
  const take = freeTake(seed);
  const first = Math.min(...take.strokes.map((s) => s.at));
  const hits = take.strokes
    .map(({ at, key, velocity: v }, i): Hit => {
      const tick = ticks(Math.round((at - first + LEAD) * 2 * TICKS_PER_QUARTER));
      return { id: `h${i}`, voice: voiceOfKey(GENERAL_MIDI_KIT, key), key, tick, home: tick, length: ticks(10_000), velocity: velocity(v) };
    })
    .sort(compareHits);
  const rows = [...new Set(hits.map((h) => h.voice))].sort(compareVoices).map((voice) => ({ voice }));
  const bars = Math.floor(hits.at(-1)!.tick / (4 * TICKS_PER_QUARTER)) + 1;
  return { take, part: { ...smallPart([]), hits, rows, bars } };
}

/** The same as a standard MIDI file of 480 ticks a quarter. */
export function freeMidi(seed: number): Uint8Array {
  const { strokes } = freeTake(seed);
  const first = Math.min(...strokes.map((s) => s.at));
  const notes = strokes
    .map(({ at, key, velocity: v }) => [Math.round((at - first + LEAD) * 960), key, v] as [number, number, number])
    .sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  return midiFile(0, 480, [trackChunk([tempoEvent(0, 500_000), ...noteEvents(notes, 60)])]);
}
