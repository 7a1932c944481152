import { stretchesOfOrder, stretchOfPass } from '@/core/playback/beside';
import { sameValue } from '@/core/model/fields';
import { tempoMapOf } from '@/core/part/part-time';
import { seconds } from '@/core/units';
import type { SoundEngine } from '@/sound/engine';
import { partStore } from '@/storage/part-store';
import { recordingStore } from '@/storage/recording-store';
import { makeTones } from '@/workers/clients';
import type { BenchStore } from '../store/bench-store';
import { BesideTrack, type Stretches } from './beside-track';
import { unrolledOrder } from './programs';

const LOOK_MS = 150;
/** A song's other tracks, in dB. */
const TONES_LEVEL = -12;

/** A sound that is made when it is first wanted, and anew when what it is made of changes. */
class Made {
  buffer: AudioBuffer | null = null;
  private of: unknown = undefined;

  /** @param of what it is made of */
  ask(of: unknown, make: () => Promise<AudioBuffer | undefined>): AudioBuffer | null {
    if (this.of === undefined || !sameValue(this.of, of)) {
      this.of = of;
      this.buffer = null;
      make().then((buffer) => {
        if (buffer && sameValue(this.of, of)) this.buffer = buffer;
      }, console.error);
    }
    return this.buffer;
  }
}

/** Plays what is heard beside the part, its backing recording and tones of the song's other tracks, until it is ended. */
export function followBeside(bench: BenchStore, engine: SoundEngine): () => void {
  const [recording, tones] = [new BesideTrack(engine), new BesideTrack(engine)];
  const [recorded, toned] = [new Made(), new Made()];

  const recordingOf = (context: BaseAudioContext) => {
    const { backing } = bench.getState().part;
    if (!backing || backing.muted) return null;
    const buffer = recorded.ask(backing.sample, async () => {
      const blob = await recordingStore.read(backing.sample);
      return blob && context.decodeAudioData(await blob.arrayBuffer());
    });
    return buffer && { ...backing, buffer };
  };

  const tonesOf = () => {
    const { id, part, hasSong, idea, ui } = bench.getState();
    if (!hasSong || idea !== null || !part.source || ui.tracksBeside.length === 0) return null;
    const { lanes } = part.source;
    const buffer = toned.ask([ui.tracksBeside, part.tempo, lanes], async () => {
      const song = await partStore.song(id);
      if (!song) return undefined;
      const { samples, rate } = await makeTones(song, lanes, ui.tracksBeside, part.tempo);
      const made = new AudioBuffer({ length: samples.length, sampleRate: rate, numberOfChannels: 1 });
      made.copyToChannel(samples, 0);
      return made;
    });
    // It begins at the file's zero.
    return (
      buffer && {
        buffer,
        firstDownbeat: tempoMapOf(part).toSeconds(part.origin),
        offsetMs: 0,
        seconds: seconds(buffer.duration),
        level: TONES_LEVEL,
      }
    );
  };

  const look = () => {
    const { main, part, transport } = bench.getState();
    const { context, sounding } = engine;
    if (context === null || sounding === null) {
      recording.look(null, null);
      return tones.look(null, null);
    }
    const { program } = sounding;
    const isOrder = transport.order && main.order !== undefined;
    const passes: Stretches = {
      key: [program.startTick, program.endTick, program.length, program.loop].join(),
      at: (n) => stretchOfPass(part, program, n),
    };
    // A running order is the song: the recording goes through it once; the song's other tracks go with the bars, wherever they come.
    const once: Stretches = {
      key: `order ${program.length}`,
      at: (n) => (n === 0 ? { begin: 0, place: 0, length: program.length } : null),
    };
    const others = tonesOf();
    const ofOrder = isOrder && others ? stretchesOfOrder(main, unrolledOrder(main).performed, program.length) : [];
    const rounds: Stretches = { key: `rounds ${ofOrder.map((s) => `${s.begin} ${s.place}`).join()}`, at: (n) => ofOrder[n] ?? null };
    recording.look(recordingOf(context), isOrder ? once : passes);
    tones.look(others, isOrder ? rounds : passes);
  };

  const timer = setInterval(look, LOOK_MS);
  const stops = [
    engine.subscribe(look),
    bench.subscribe(
      (state, before) => (state.part.backing !== before.part.backing || state.ui.tracksBeside !== before.ui.tracksBeside) && look(),
    ),
  ];
  return () => {
    clearInterval(timer);
    for (const stop of stops) stop();
    recording.dispose();
    tones.dispose();
  };
}
