'use client';

import { useEffect, useMemo } from 'react';
import { shallow } from 'zustand/shallow';
import { performPart, writtenPerformance } from '@/core/perform/perform';
import { isIdle } from '@/core/feel/move-spec';
import { makeProgram, type Program } from '@/core/playback/program';
import type { Versions } from '@/core/playback/player';
import type { Part } from '@/core/model/part';
import { soundEngine, type SoundEngine } from '@/sound/engine';
import { HitNumbers } from '@/sound/slots';
import { watchOwnSounds } from '@/sounds/own';
import { showError } from '@/ui/notify';
import { heardInputs, heardParts } from './heard';
import type { GroovesState, GroovesStoreApi } from './grooves-store';

export interface Hearing {
  engine: SoundEngine;
  toggle(): void;
  /** Starts from the beginning, or goes on where it is. */
  start(): void;
  /** Hears the pattern without the groove while held. */
  holdPlain(on: boolean): void;
}

function versionsOf(state: GroovesState, engine: SoundEngine, slots: HitNumbers): Versions {
  const { plain, grooved, range } = heardParts(state);
  const programOf = (part: Part): Program =>
    makeProgram(
      part,
      isIdle(part.feel) ? writtenPerformance(part) : performPart(part),
      range,
      slots.of,
      engine.rowsOf(part),
      engine.ownSounds,
    );
  return { performed: programOf(grooved), written: programOf(plain) };
}

/** Plays what is in hand; every change is heard at its next due moment while the loop goes on. */
export function useHearing(store: GroovesStoreApi): Hearing {
  const engine = soundEngine();
  useEffect(watchOwnSounds, []);
  const slots = useMemo(() => new HitNumbers(), []);

  useEffect(() => {
    const prepare = () => engine.prepare(heardParts(store.getState()).plain);
    prepare();
    let waiting = 0;
    const stop = store.subscribe((state, before) => {
      if (state.stand?.id !== before.stand?.id) prepare();
      if (!engine.isPlaying || waiting || shallow(heardInputs(state), heardInputs(before))) return;
      waiting = requestAnimationFrame(() => {
        waiting = 0;
        engine.setPrograms(versionsOf(store.getState(), engine, slots));
      });
    });
    return () => {
      cancelAnimationFrame(waiting);
      stop();
      engine.stop();
      engine.setVersion('performed');
    };
  }, [store, engine, slots]);

  return useMemo<Hearing>(() => {
    const start = () => {
      if (engine.isPlaying) return;
      engine.setPrograms(versionsOf(store.getState(), engine, slots));
      engine.play(heardParts(store.getState()).range.start).catch(showError);
    };
    return {
      engine,
      start,
      toggle: () => (engine.isPlaying ? engine.stop() : start()),
      holdPlain: (on) => engine.setVersion(on ? 'written' : 'performed'),
    };
  }, [store, engine, slots]);
}
