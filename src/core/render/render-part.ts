import { playedPart, variesByPass, type PlayedPart } from '../song/played';
import { roundsOfBars, unroll, type OrderRound } from '../song/unroll';
import { endOfPart, meterMapOf } from '../part/part-time';
import type { Hit, Part } from '../model/part';
import { NO_OWN_SOUNDS, type OwnSounds } from '../model/own-sound';
import { emptyLayers, soundOfSource, struckLayers } from '../playback/kit-sounds';
import { Mixer, type Sound } from '../playback/mixer';
import { audibleVoices, makeProgram, type Program } from '../playback/program';
import { layersOfSource, nameOfSource, sourceOfRow, type RowSource } from '../playback/sources';
import { Sequencer } from '../playback/sequencer';
import { SOUND_KITS } from '../synth/kits/all';
import { strokeOfSource, type SampleSource } from '../playback/stroke-of-source';
import { bytesOfStroke, type RenderedStroke } from '../synth/stroke';
import { standIns, type VoiceName } from '../row-names';

/** What happens to what still rings at the end: it rings out, or it is laid over the start, so that the loop joins itself. */
export const ENDINGS = ['ring', 'fold'] as const;
export type Ending = (typeof ENDINGS)[number];

/** Which stretch of a part is rendered, and how. */
export interface RenderRange {
  /** Frames a second. */
  rate: number;
  /** Bars from 0, `to` exclusive. */
  from: number;
  to: number;
  ending: Ending;
}

/** Without bars it is the whole part. */
export interface RenderOptions extends Omit<RenderRange, 'from' | 'to'>, Partial<Pick<RenderRange, 'from' | 'to'>> {
  /** How often the range is played before it rings out; 1 without it. */
  passes?: number;
  /** As written instead of performed. */
  written?: boolean;
  /** The running order instead of the part's bars, where there is one; bars count in it then. */
  order?: boolean;
  /** These rounds alone, instead. */
  rounds?: readonly OrderRound[];
  /** These rows alone, whatever is muted. */
  rows?: readonly VoiceName[];
  /** Master volume beside the part's own level; {@link USUAL_VOLUME} is what is heard. */
  volume: number;
  /** Default true. */
  limited?: boolean;
  /** Default true. */
  room?: boolean;
  /** Takes of strokes; rendered here without it. */
  strokes?: StrokeSource;
  /** The user's own sounds; none without it. */
  sounds?: OwnSounds;
  /** Told how much is done, 0 to 1; throwing ends the work. */
  onProgress?: (done: number) => void;
}

/** A take of a source's layer, by their numbers. */
export type StrokeSource = (source: RowSource, layer: number, take: number) => RenderedStroke;

export interface Rendered {
  left: Float32Array;
  right: Float32Array;
}

/** What a render did beside. */
export interface RenderAccount {
  /** Rows with hits that are not heard. */
  silent: VoiceName[];
  /** Hits performed before the first bar line: they start with it, or at the end of a loop. */
  early: number;
  /** Rows that a kit has no sound of their own for, with what stands in: a voice, or a tick. */
  folds: { row: VoiceName; as: VoiceName }[];
  /** Rows whose chosen sound is not here; the kit plays them. */
  missing: { row: VoiceName; name: string }[];
}

/** Everything that several renders of one range share. */
export interface RenderPlan {
  program: Program;
  /** Rows that are heard, in the part's order, each with its number. */
  rows: { row: VoiceName; index: number }[];
  sounds: Sound[];
  account: RenderAccount;
  options: RenderOptions;
}

/** So many bytes of strokes a source keeps for the next render. */
const MOST_KEPT = 320 * 2 ** 20;

const noSamples: SampleSource = (sample) => {
  throw new Error(`The recording ${sample} is not here.`);
};

/**
 * Strokes of one rate, kept for what is rendered next; those that were made first go where room is short.
 * @param most bytes that are kept
 */
export function strokeSource(rate: number, samples: SampleSource = noSamples, most = MOST_KEPT): StrokeSource {
  const known = new Map<string, RenderedStroke>();
  let bytes = 0;
  return (source, layer, take) => {
    const key = `${nameOfSource(source)}|${layer}|${take}`;
    const found = known.get(key);
    if (found) return found;
    const stroke = strokeOfSource(source, layer, take, rate, samples);
    known.set(key, stroke);
    bytes += bytesOfStroke(stroke);
    for (const [old, other] of known) {
      if (bytes <= most) break;
      known.delete(old);
      bytes -= bytesOfStroke(other);
    }
    return stroke;
  };
}

/** Prepares a render: hits become a program, their strokes are made. */
export function planRender(whole: Part, wanted: RenderOptions): RenderPlan {
  const played = playedFor(whole, wanted);
  const { part, options } = played;
  const map = meterMapOf(part);
  const { from = 0, to = part.bars } = options;
  const range = { start: map.barOf(from).start, end: to >= part.bars ? endOfPart(part) : map.barOf(to).start, loop: true };
  const chosen = options.rows && new Set(options.rows);
  const heard: Part = chosen
    ? { ...part, rows: part.rows.map(({ soloed: _soloed, ...row }) => ({ ...row, muted: !chosen.has(row.voice) })) }
    : part;
  const index = new Map(part.rows.map((r, i) => [r.voice, i]));
  const slots = new Map<string, number>();
  const slotOf = (hit: Hit, stroke: number): number => {
    const name = `${hit.id} ${stroke}`;
    let slot = slots.get(name);
    if (slot === undefined) slots.set(name, (slot = slots.size));
    return slot;
  };
  const numberOf = (row: VoiceName): number => index.get(row) ?? part.rows.length;
  const own = options.sounds ?? NO_OWN_SOUNDS;
  const made = makeProgram(heard, played.performance, range, slotOf, numberOf, own);
  const early = made.offsets.filter((offset) => offset < 0).length;
  const program: Program = options.room === false ? { ...made, mix: { ...made.mix, room: { ...made.mix.room, amount: 0 } } } : made;
  const audible = audibleVoices(heard);
  const struck = new Set(part.hits.map((h) => h.voice));
  const strokes = options.strokes ?? strokeSource(options.rate);
  const sources = part.rows.map((r) => sourceOfRow(part, r.voice, own));
  const shapes = sources.map(layersOfSource);
  const sounds: Sound[] = [];
  const rows: RenderPlan['rows'] = [];
  for (const [number, chosenLayers] of struckLayers(program, (n) => shapes[n] ?? [])) {
    const row = part.rows[number]?.voice;
    if (row === undefined) continue;
    const source = sources[number] as RowSource;
    const layers = emptyLayers(shapes[number] ?? []);
    for (const l of chosenLayers) layers[l]!.takes = layers[l]!.takes.map((_, take) => strokes(source, l, take));
    sounds[number] = soundOfSource(source, layers);
    rows.push({ row, index: number });
  }
  rows.sort((a, b) => a.index - b.index);
  const account: RenderAccount = {
    silent: part.rows.map((r) => r.voice).filter((row) => struck.has(row) && !audible.has(row)),
    early,
    folds: foldsOf(
      part,
      rows.filter(({ index: n }) => !sources[n]?.own).map((r) => r.row),
    ),
    missing: rows.flatMap(({ row, index: n }) => (sources[n]?.missing === undefined ? [] : [{ row, name: sources[n].missing }])),
  };
  return { program, rows, sounds, account, options };
}

/** What a render plays. Several passes that differ from each other are put one after another first. */
function playedFor(whole: Part, options: RenderOptions): Pick<PlayedPart, 'part' | 'performance'> & { options: RenderOptions } {
  const { passes = 1, written = false, order = false, rounds } = options;
  if (rounds) return { ...playedPart(whole, { written, rounds }), options };
  if (order && whole.order) return { ...playedPart(whole, { written, order }), options };
  if (passes === 1 || !variesByPass(whole)) return { ...playedPart(whole, { written }), options };
  const { from: _from, to: _to, ...rest } = options;
  return { ...unroll(whole, roundsOfBars(options.from ?? 0, options.to ?? whole.bars, passes), written), options: { ...rest, passes: 1 } };
}

/** What plays rows that the kit does not know. */
function foldsOf(part: Part, rows: readonly VoiceName[]): RenderAccount['folds'] {
  return rows.flatMap((row) => {
    const { kit, voice: sound } = sourceOfRow(part, row);
    const { recipes } = SOUND_KITS[kit];
    if (Object.hasOwn(recipes, sound)) return [];
    return [{ row, as: standIns(sound).find((name) => Object.hasOwn(recipes, name)) ?? 'tick' }];
  });
}

const BLOCK = 2048;
/** However long something rings, a file ends so many seconds after the music. */
const LONGEST_RING = 12;

/**
 * Renders a plan: the same sequencer and mixer as live, frame by frame. Cuts lie at absolute rounded frames.
 * @param only one row, dry, or the room alone; all of it without
 */
export function renderPlan({ program, sounds, options }: RenderPlan, only: { sound: number } | 'room' | null = null): Rendered {
  const { rate, ending, passes = 1, volume, limited = true, onProgress } = options;
  const sequencer = new Sequencer(rate);
  const mixer = new Mixer(rate, sounds, { limited });
  mixer.volume = volume;
  mixer.only = only;
  mixer.setMix(program.mix);
  sequencer.setProgram(program, 0);
  sequencer.play(program.startTick, 0, 0);
  const lengthOf = (n: number): number => Math.round(n * program.length * rate);
  // A loop is taken from its second round, when the first one's tail lies over its start.
  const first = ending === 'fold' ? lengthOf(1) : 0;
  const music = ending === 'fold' ? lengthOf(1 + passes) : lengthOf(passes);
  const most = ending === 'fold' ? music : music + LONGEST_RING * rate;
  // A hit may be performed after the end that its home lies before.
  const lastHit = lengthOf(passes - 1) + rate * program.offsets.reduce((latest, offset) => Math.max(latest, offset), 0);
  const blocks = Math.ceil((most + mixer.latency) / BLOCK);
  const [allLeft, allRight] = [new Float32Array(blocks * BLOCK), new Float32Array(blocks * BLOCK)];
  let frame = 0;
  for (; frame < most + mixer.latency; frame += BLOCK) {
    if (ending === 'ring' && frame > Math.max(music, lastHit) + mixer.latency && mixer.isQuiet) break;
    // What rings out begins with its first bar line: hits that are performed before it start with it.
    for (const o of sequencer.advance(frame, BLOCK, frame === 0 && ending === 'ring' ? lengthOf(1) : 0)) {
      if (ending === 'fold' || o.pass < passes) mixer.start(o.voice, o.velocity, o.frame - frame, o.colour);
    }
    mixer.render(allLeft.subarray(frame, frame + BLOCK), allRight.subarray(frame, frame + BLOCK));
    if ((frame / BLOCK) % 32 === 0) onProgress?.(Math.min(1, frame / most));
  }
  const [from, to] = [first + mixer.latency, (ending === 'fold' ? music : Math.min(most, frame - mixer.latency)) + mixer.latency];
  return { left: allLeft.subarray(from, to), right: allRight.subarray(from, to) };
}

/** Renders a part, or some bars of it, as it is heard. */
export function renderPart(part: Part, options: RenderOptions): Rendered & { account: RenderAccount } {
  const plan = planRender(part, options);
  return { ...renderPlan(plan), account: plan.account };
}
