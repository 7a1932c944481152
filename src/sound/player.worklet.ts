/// <reference types="@types/audioworklet" />
import { Player, type PlayState } from '@/core/playback/player';
import { PLAYER_PROCESSOR, type FromPlayer, type ToPlayer } from './protocol';

/** Runs the player on the audio thread: a busy page cannot delay a hit. Bundled by scripts/build-worklet.mjs. */
class PlayerProcessor extends AudioWorkletProcessor {
  private readonly player = new Player(sampleRate, []);
  /** What the page was told last. */
  private told: PlayState | null = null;
  private capture: { firstFrame: number; samples: Float32Array; filled: number } | null = null;

  constructor() {
    super();
    this.port.onmessage = (event: MessageEvent<ToPlayer>) => this.receive(event.data);
  }

  private receive(message: ToPlayer) {
    switch (message.type) {
      case 'sounds':
        for (const { index, ...sound } of message.sounds) this.player.setSound(index, sound);
        return;
      case 'programs':
        this.player.setPrograms(message.versions);
        break;
      case 'version':
        this.player.setVersion(message.version);
        break;
      case 'play':
        this.player.play(message.fromTick, message.lead);
        break;
      case 'clicks':
        return this.player.setClicks(message.program);
      case 'stop':
        this.player.stop();
        break;
      case 'audition':
        return this.player.audition(message.sound, message.velocity, message.colour);
      case 'volume':
        return this.player.setVolume(message.volume);
      case 'capture':
        this.capture = { firstFrame: currentFrame, samples: new Float32Array(message.frames), filled: 0 };
        return;
    }
    this.sendState();
  }

  private send(message: FromPlayer, transfer: Transferable[] = []) {
    this.port.postMessage(message, transfer);
  }

  private sendState() {
    const state = this.player.state;
    this.told = state;
    this.send({ type: 'state', state, frame: currentFrame });
  }

  process(_inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0] ?? [];
    if (!left) return true;
    const onsets = this.player.render(left, right ?? left, currentFrame);
    if (onsets.length > 0) this.send({ type: 'onsets', onsets });
    const { playing, anchorFrame } = this.player.state;
    if (playing !== this.told?.playing || anchorFrame !== this.told.anchorFrame) this.sendState();
    this.keep(left);
    return true;
  }

  private keep(block: Float32Array) {
    const c = this.capture;
    if (!c) return;
    c.samples.set(block.subarray(0, Math.min(block.length, c.samples.length - c.filled)), c.filled);
    c.filled += block.length;
    if (c.filled < c.samples.length) return;
    this.send({ type: 'captured', firstFrame: c.firstFrame, samples: c.samples }, [c.samples.buffer]);
    this.capture = null;
  }
}

registerProcessor(PLAYER_PROCESSOR, PlayerProcessor);
