/// <reference types="@types/audioworklet" />
import { emptyLayers } from '@/core/playback/kit-sounds';
import type { SoundLayer } from '@/core/playback/mixer';
import { Player, type PlayState } from '@/core/playback/player';
import type { RenderedStroke } from '@/core/synth/stroke';
import type { LayerShape } from '@/core/playback/sources';
import { PLAYER_PROCESSOR, type FromPlayer, type ToPlayer } from './protocol';

/** The page hears of the level after so many blocks. */
const METER_BLOCKS = 16;

/** Runs the player on the audio thread: a busy page cannot delay a hit. Bundled by scripts/build-worklet.mjs. */
class PlayerProcessor extends AudioWorkletProcessor {
  private readonly player = new Player(sampleRate, []);
  /** Strokes by what they are of; rows of the same share them. */
  private readonly sources = new Map<string, SoundLayer[]>();
  private readonly peaks = { left: 0, right: 0, blocks: 0 };
  /** What the page was told last. */
  private told: PlayState | null = null;
  private capture: { firstFrame: number; samples: Float32Array; right: Float32Array; filled: number } | null = null;

  constructor() {
    super();
    this.port.onmessage = (event: MessageEvent<ToPlayer>) => this.receive(event.data);
  }

  private receive(message: ToPlayer) {
    switch (message.type) {
      case 'sounds':
        for (const { index, source, layers, sound } of message.sounds)
          this.player.setSound(index, { ...sound, layers: this.layersOf(source, layers) });
        return;
      case 'strokes':
        for (const { source, layer, take, stroke } of message.strokes) this.setStroke(source, layer, take, stroke);
        return;
      case 'forget':
        return this.setStroke(message.source, message.layer, message.take, undefined);
      case 'programs':
        this.player.setPrograms(message.versions, message.name);
        break;
      case 'queue':
        this.player.setQueue(message.queue);
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
      case 'stretch':
        this.player.setStretch(message.stretch);
        break;
      case 'audition':
        return this.player.audition(message.sound, message.velocity, message.colour);
      case 'volume':
        return this.player.setVolume(message.volume);
      case 'capture':
        this.capture = {
          firstFrame: currentFrame,
          samples: new Float32Array(message.frames),
          right: new Float32Array(message.frames),
          filled: 0,
        };
        return;
    }
    this.sendState();
  }

  private layersOf(source: string, shapes: readonly LayerShape[]): SoundLayer[] {
    let layers = this.sources.get(source);
    if (!layers) this.sources.set(source, (layers = emptyLayers(shapes)));
    return layers;
  }

  private setStroke(source: string, index: number, take: number, stroke: RenderedStroke | undefined) {
    const layer = this.sources.get(source)?.[index];
    if (layer) layer.takes[take] = stroke;
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
    const jumps = this.player.takeJumps();
    if (jumps.length > 0) this.send({ type: 'jumps', jumps });
    const { playing, settled, anchorFrame, name, next } = this.player.state;
    if (
      playing !== this.told?.playing ||
      settled !== this.told.settled ||
      anchorFrame !== this.told.anchorFrame ||
      name !== this.told.name ||
      next?.frame !== this.told.next?.frame ||
      next?.name !== this.told.next?.name
    )
      this.sendState();
    this.keep(left, right ?? left);
    this.measure(left, right ?? left);
    return true;
  }

  /** Tells the page some twenty times a second how loud it was. */
  private measure(left: Float32Array, right: Float32Array) {
    const p = this.peaks;
    for (const x of left) p.left = Math.max(p.left, Math.abs(x));
    for (const x of right) p.right = Math.max(p.right, Math.abs(x));
    if (++p.blocks < METER_BLOCKS) return;
    if (p.left > 0 || p.right > 0 || this.wasLoud)
      this.send({ type: 'meter', left: p.left, right: p.right, limited: this.player.takeLimited() });
    this.wasLoud = p.left > 0 || p.right > 0;
    Object.assign(p, { left: 0, right: 0, blocks: 0 });
  }

  private wasLoud = false;

  private keep(block: Float32Array, right: Float32Array) {
    const c = this.capture;
    if (!c) return;
    c.samples.set(block.subarray(0, Math.min(block.length, c.samples.length - c.filled)), c.filled);
    c.right.set(right.subarray(0, Math.min(right.length, c.right.length - c.filled)), c.filled);
    c.filled += block.length;
    if (c.filled < c.samples.length) return;
    this.send({ type: 'captured', firstFrame: c.firstFrame, samples: c.samples, right: c.right }, [c.samples.buffer, c.right.buffer]);
    this.capture = null;
  }
}

registerProcessor(PLAYER_PROCESSOR, PlayerProcessor);
