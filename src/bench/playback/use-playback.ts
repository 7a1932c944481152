'use client';

import { useCallback, useEffect, useMemo, useSyncExternalStore } from 'react';
import { performPart, type Performance } from '@/core/perform/perform';
import type { Version, Versions } from '@/core/playback/player';
import { equalGain, makeProgram, type Program } from '@/core/playback/program';
import { endOfPart, meterMapOf } from '@/core/part/part-time';
import { ticksOfBars } from '@/core/commands/settings';
import { ticks, type Ticks } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import type { Hit } from '@/core/model/part';
import { ownSounds, watchOwnSounds } from '@/sounds/own';
import { soundEngine, type SoundEngine, type SoundStatus } from '@/sound/engine';
import { Slots } from '@/sound/slots';
import { showError } from '@/ui/notify';
import { withProposal } from '../actions/suggesting';
import type { BenchState, BenchStore } from '../store/bench-store';
import { programInputs, same, type ProgramInputs } from '../store/inputs';
import { useBenchStore } from '../store/context';
import { hitsBetween, otherOf, performanceWithin, writtenOf } from '../store/derived';

export interface Playback {
  engine: SoundEngine;
  toggle(): void;
  /** Starts from a tick, or moves there while playing. */
  playFrom(tick: Ticks): void;
  /** Starts the loop after a lead in seconds, in which it is counted in. */
  playLoop(lead: number): void;
  audition(voice: VoiceName, velocity?: number): void;
  /** Sounds a hit with its pan, pitch and brightness; a choke is silent. */
  auditionHit(hit: Hit): void;
  /** Hears the written part while held. */
  holdWritten(on: boolean): void;
  /** Hears the feel that is kept for comparing while held. */
  holdOther(on: boolean): void;
  /** The hit a player's number stands for. */
  hitOfSlot(slot: number): string | undefined;
}

const AUDITION_VELOCITY = 100;

/** All versions of what the transport asks for. */
function programsOf({ part, transport, other, equalLoudness, proposal }: ProgramInputs, engine: SoundEngine, slots: Slots): Versions {
  const whole = { start: Math.min(part.origin, part.hits[0] ? meterMapOf(part).barAt(part.hits[0].tick).start : 0), end: endOfPart(part) };
  const range = transport.loop ? { ...ticksOfBars(part, transport.fromBar, transport.toBar), loop: true } : { start: ticks(whole.start), end: whole.end, loop: false };
  const inRange = hitsBetween(part, range.start, range.end);
  const programOf = (performance: Performance): Program => makeProgram(part, performance, range, slots.of, engine.rowsOf(part), engine.ownSounds);
  // Suggestions are heard while they are shown.
  const suggested = withProposal(part, proposal);
  const performed = suggested === part ? programOf(performanceWithin(part, inRange)) : makeProgram(suggested, performPart(suggested), range, slots.of, engine.rowsOf(suggested), engine.ownSounds);
  const written = programOf(writtenOf(part, inRange));
  const compared = other && otherOf(part, other);
  const otherProgram = compared ? makeProgram(compared.part, compared.performance, range, slots.of, engine.rowsOf(compared.part), engine.ownSounds) : undefined;
  const gains = equalLoudness ? { written: equalGain(written, performed, engine.levelOf), ...(otherProgram ? { other: equalGain(otherProgram, performed, engine.levelOf) } : {}) } : {};
  return { performed, written, ...(otherProgram ? { other: otherProgram } : {}), gains };
}

/** Where playing starts: the loop's start, or the cursor. */
function startOf(state: BenchState): Ticks {
  const { part, transport } = state;
  if (transport.loop) return ticksOfBars(part, transport.fromBar, transport.toBar).start;
  return transport.cursor >= endOfPart(part) ? part.origin : transport.cursor;
}

/** Sends every change of the part to the player at once, while it plays; one program a frame at most. */
function followStore(store: BenchStore, engine: SoundEngine, slots: Slots): () => void {
  let waiting = 0;
  const stop = store.subscribe((state, before) => {
    if (!same(programInputs(state), programInputs(before))) send();
  });
  function send() {
    if (!engine.isPlaying || waiting) return;
    waiting = requestAnimationFrame(() => {
      waiting = 0;
      engine.setPrograms(programsOf(programInputs(store.getState()), engine, slots));
    });
  }
  // Sounds of the user's own come, go and change beside the part.
  const stopOwn = ownSounds.subscribe(send);
  return () => {
    cancelAnimationFrame(waiting);
    stop();
    stopOwn();
  };
}

export function usePlayback(): Playback {
  const store = useBenchStore();
  const engine = soundEngine();
  const slots = useMemo(() => new Slots(), []);

  useEffect(() => {
    watchOwnSounds();
    engine.prepare(store.getState().part);
    const stop = followStore(store, engine, slots);
    return () => {
      stop();
      engine.stop();
      engine.setVersion('performed');
    };
  }, [store, engine, slots]);

  const playFrom = useCallback(
    (tick: Ticks) => {
      engine.setPrograms(programsOf(programInputs(store.getState()), engine, slots));
      engine.play(tick).catch(showError);
    },
    [store, engine, slots],
  );

  const playLoop = useCallback(
    (lead: number) => {
      engine.setPrograms(programsOf(programInputs(store.getState()), engine, slots));
      engine.play(startOf(store.getState()), lead).catch(showError);
    },
    [store, engine, slots],
  );

  const hold = useCallback(
    (version: Version) => {
      if (store.getState().transport.version === version) return;
      engine.setVersion(version);
      store.getState().setTransport({ version });
    },
    [engine, store],
  );

  return useMemo(
    () => ({
      engine,
      playFrom,
      playLoop,
      toggle: () => (engine.isPlaying ? engine.stop() : playFrom(startOf(store.getState()))),
      audition: (voice, velocity = AUDITION_VELOCITY) => void engine.audition(store.getState().part, voice, velocity).catch(showError),
      auditionHit: (hit) => void engine.audition(store.getState().part, hit.voice, hit.velocity, { pan: hit.pan ?? 0, pitch: hit.pitch ?? 0, brightness: hit.brightness ?? 0, choke: hit.choke === true }).catch(showError),
      holdWritten: (on) => hold(on ? 'written' : 'performed'),
      holdOther: (on) => {
        const { desk, setDesk } = store.getState();
        if (on && !desk.other && desk.imported) setDesk({ other: desk.imported });
        if (!on || store.getState().desk.other) hold(on ? 'other' : 'performed');
        // What nobody chose is not compared with for longer than it is held.
        if (!on && desk.other !== null && desk.other === desk.imported) setDesk({ other: null });
      },
      hitOfSlot: (slot) => slots.ids[slot],
    }),
    [engine, hold, playFrom, playLoop, slots, store],
  );
}

export const useSoundStatus = (engine: SoundEngine): SoundStatus => useSyncExternalStore(engine.subscribe, () => engine.status, () => 'off' as const);
