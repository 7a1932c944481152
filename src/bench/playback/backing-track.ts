import { sliceOfPass } from '@/core/playback/beside';
import type { Backing } from '@/core/model/backing';
import { seconds, type Seconds } from '@/core/units';
import type { SoundEngine } from '@/sound/engine';
import { recordingStore } from '@/storage/recording-store';
import type { BenchStore } from '../store/bench-store';

/** Passes are begun so long ahead. */
const AHEAD_SECONDS = 0.6;
const LOOK_MS = 150;

interface Sounding {
  /** What it was scheduled by: when any of it changes, it is scheduled anew. */
  key: string;
  pass: number;
  sources: AudioBufferSourceNode[];
}

/** Plays the part's backing recording beside it, in step with the loop, until it is ended. It is in no export. */
export function followBacking(bench: BenchStore, engine: SoundEngine): () => void {
  let loaded: { sample: string; buffer: AudioBuffer | null } | null = null;
  let sounding: Sounding | null = null;
  let gain: GainNode | null = null;

  const load = (backing: Backing, context: BaseAudioContext) => {
    loaded = { sample: backing.sample, buffer: null };
    recordingStore
      .read(backing.sample)
      .then(async (blob) => blob && context.decodeAudioData(await blob.arrayBuffer()))
      .then((buffer) => {
        if (buffer && loaded?.sample === backing.sample) loaded.buffer = buffer;
      }, console.error);
  };

  const silence = () => {
    for (const source of sounding?.sources ?? []) source.stop();
    sounding = null;
  };

  const look = () => {
    const { part, transport } = bench.getState();
    const { backing } = part;
    const { context } = engine;
    const playing = engine.sounding;
    const { startedAt } = engine;
    if (!backing || backing.muted || !context || !playing || startedAt === null || transport.order) return silence();
    if (loaded?.sample !== backing.sample) load(backing, context);
    const buffer = loaded?.buffer;
    if (!buffer) return;
    const { program } = playing;
    const key = JSON.stringify([backing, startedAt, program.startTick, program.endTick, program.length, program.loop]);
    if (sounding?.key !== key) silence();
    gain ??= new GainNode(context);
    gain.connect(context.destination);
    gain.gain.value = 10 ** (backing.level / 20);
    const now = context.currentTime;
    const current = program.loop && program.length > 0 ? Math.max(0, Math.floor((now - startedAt) / program.length)) : 0;
    sounding ??= { key, pass: current - 1, sources: [] };
    const passes = program.loop && program.length > 0 ? Math.floor((now + AHEAD_SECONDS - startedAt) / program.length) : 0;
    while (sounding.pass < Math.max(current, passes)) {
      sounding.pass++;
      const slice = sliceOfPass(part, backing, program, startedAt, sounding.pass, seconds(now) as Seconds);
      if (!slice) continue;
      const source = new AudioBufferSourceNode(context, { buffer });
      source.connect(gain);
      source.start(slice.at, slice.offset, slice.length);
      sounding.sources = [...sounding.sources.slice(-3), source];
    }
  };

  const timer = setInterval(look, LOOK_MS);
  const stops = [engine.subscribe(look), bench.subscribe((state, before) => state.part.backing !== before.part.backing && look())];
  return () => {
    clearInterval(timer);
    for (const stop of stops) stop();
    silence();
    gain?.disconnect();
  };
}
