'use client';

import { useCallback, useEffect, useMemo, useSyncExternalStore } from 'react';
import type { ProgramVersion } from '@/core/playback/player';
import type { Ticks } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import { breakOfRow, pieceOfHit } from '@/core/breaks/rows';
import type { Hit, Part } from '@/core/model/part';
import { PLAIN } from '@/core/playback/mixer';
import { watchOwnSounds } from '@/sounds/own';
import { soundEngine, type SoundEngine, type SoundStatus } from '@/sound/engine';
import { HitNumbers } from '@/sound/slots';
import { showError } from '@/ui/notify';
import { useBenchStore } from '../store/context';
import { Conductor } from './conductor';
import { followBeside } from './follow-beside';
import { tapOrHold } from './tap-or-hold';

export interface Playback {
  engine: SoundEngine;
  /** Decides what plays and what takes over. */
  conductor: Conductor;
  toggle(): void;
  /** Starts from a tick, or moves there while playing. */
  playFrom(tick: Ticks): void;
  /** Starts the loop after a lead in seconds, in which it is counted in. */
  playLoop(lead: number): void;
  audition(voice: VoiceName, velocity?: number): void;
  /** Sounds a hit with its pan, pitch and brightness; a choke is silent. */
  auditionHit(hit: Hit): void;
  /** Sounds a piece of a break by its number. */
  auditionPiece(row: VoiceName, piece: number, velocity: number): void;
  /** Hears the written part while held. */
  holdWritten(on: boolean): void;
  /** Hears what is compared with while held; tapped, it stays until the next press. */
  holdOther(on: boolean): void;
  /** The hit a player's number stands for. */
  hitOfSlot(slot: number): string | undefined;
}

const AUDITION_VELOCITY = 100;

/** On a row of a break: the piece that a hit plays. */
function pieceTake(part: Part, hit: Pick<Hit, 'voice' | 'piece'>): { take?: number } {
  const of = breakOfRow(part, hit.voice);
  return of ? { take: pieceOfHit(of, hit) } : {};
}

export function usePlayback(): Playback {
  const store = useBenchStore();
  const engine = soundEngine();
  const slots = useMemo(() => new HitNumbers(), []);
  const conductor = useMemo(() => new Conductor(store, engine, slots), [store, engine, slots]);

  useEffect(() => {
    watchOwnSounds();
    engine.prepare(store.getState().part);
    const stop = conductor.follow();
    const unfollow = followBeside(store, engine);
    return () => {
      unfollow();
      stop();
      engine.stop();
      engine.setVersion('performed');
    };
  }, [store, engine, conductor]);

  const playFrom = useCallback(
    (tick: Ticks) => {
      conductor.begin(store.getState());
      engine.play(tick).catch(showError);
    },
    [store, engine, conductor],
  );

  const playLoop = useCallback(
    (lead: number) => {
      const state = store.getState();
      engine.play(conductor.startOf(state, conductor.begin(state)), lead).catch(showError);
    },
    [store, engine, conductor],
  );

  const hold = useCallback(
    (version: ProgramVersion) => {
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
      conductor,
      toggle: () => {
        if (engine.isPlaying) return engine.stop();
        const state = store.getState();
        engine.play(conductor.startOf(state, conductor.begin(state, state.ui.leadBars))).catch(showError);
      },
      audition: (voice, velocity = AUDITION_VELOCITY) =>
        void engine
          .audition(store.getState().part, voice, velocity, { ...PLAIN, ...pieceTake(store.getState().part, { voice }) })
          .catch(showError),
      auditionHit: (hit) =>
        void engine
          .audition(store.getState().part, hit.voice, hit.velocity, {
            pan: hit.pan ?? 0,
            pitch: hit.pitch ?? 0,
            brightness: hit.brightness ?? 0,
            choke: hit.choke === true,
            ...pieceTake(store.getState().part, hit),
          })
          .catch(showError),
      auditionPiece: (row, take, velocity) =>
        void engine.audition(store.getState().part, row, velocity, { ...PLAIN, take }).catch(showError),
      holdWritten: (on) => hold(on ? 'written' : 'performed'),
      holdOther: (() => {
        const press = tapOrHold((on) => {
          const { ui, setUi } = store.getState();
          if (on && !ui.other && ui.imported) setUi({ other: ui.imported });
          if (!on || store.getState().ui.other) hold(on ? 'other' : 'performed');
          // What nobody chose is not compared with for longer than it is heard.
          if (!on && ui.other !== null && ui.other === ui.imported) setUi({ other: null });
        });
        return (down: boolean) => press(down, performance.now());
      })(),
      hitOfSlot: (slot) => slots.ids[slot],
    }),
    [conductor, engine, hold, playFrom, playLoop, slots, store],
  );
}

export const useSoundStatus = (engine: SoundEngine): SoundStatus =>
  useSyncExternalStore(
    engine.subscribe,
    () => engine.status,
    () => 'off' as const,
  );
