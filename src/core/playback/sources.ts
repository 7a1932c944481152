import { PIECE_VELOCITY, isOfBreak, type Break, type Slice } from '../model/break';
import type { KitName } from '../model/sound';
import type { Part } from '../model/part';
import { NO_OWN_SOUNDS, type OwnSound, type OwnSounds } from '../model/own-sound';
import { soundOfRow } from '../part/rows';
import { hashText } from '../random';
import { standIns, voiceOfRow, type VoiceName } from '../row-names';
import { ALTERNATES, CLASSES, velocityOf } from '../synth/classes';
import { levelOf } from '../synth/kits/levels';
import { FIRST_KIT } from '../model/sound';

/** What of a part says what plays it. */
export type Sounded = Pick<Part, 'rows' | 'kit' | 'ownKit' | 'breaks'>;

/** What of a break its strokes are made of. */
export type PiecesOf = Pick<Break, 'id' | 'sample' | 'gap' | 'pieces'>;

/** What plays a row. */
export interface RowSource {
  /** The built-in kit that plays it, or would without a sound of the user's own. */
  kit: KitName;
  voice: VoiceName;
  own?: OwnSound;
  /** It plays the pieces of a break. */
  pieces?: PiecesOf;
  /** Level of its hardest stroke in dB: that of the part's kit for this voice, whatever plays it. */
  level: number;
  /** A sound of the user's own was chosen that is not here: its name. */
  missing?: string;
}

export const kitOf = (part: Pick<Part, 'kit'>): KitName => part.kit ?? FIRST_KIT;

/** What plays a row: its own choice, the part's own kit as far as that goes, else the built-in kit. */
export function sourceOfRow(part: Sounded, row: VoiceName, sounds: OwnSounds = NO_OWN_SOUNDS): RowSource {
  const kit = kitOf(part);
  const voice = soundOfRow(part, row);
  const plain: RowSource = { kit, voice, level: levelOf(kit, voice) };
  const plays = part.rows.find((r) => r.voice === row)?.plays;
  if (plays && 'kit' in plays) return { ...plain, kit: plays.kit };
  if (isOfBreak(plays)) {
    const of = part.breaks?.find((b) => b.id === plays.break);
    if (!of || !sounds.has?.(of.sample)) return { ...plain, missing: of?.name ?? plays.break };
    const { id, sample, gap, pieces } = of;
    return { ...plain, pieces: { id, sample, gap, pieces } };
  }
  const own = plays ? sounds.sound(plays.own) : part.ownKit && soundOfKit(sounds, part.ownKit.id, voice);
  return { ...plain, ...(own ? { own } : {}), ...(plays && !own ? { missing: plays.name } : {}) };
}

/** A kit's sound for a voice, or for what stands in for it. */
function soundOfKit(sounds: OwnSounds, kit: string, voice: VoiceName): OwnSound | undefined {
  for (const name of [voice, voiceOfRow(voice), ...standIns(voice)]) {
    const found = sounds.ofKit(kit, name);
    if (found) return found;
  }
  return undefined;
}

/** Sources of one name have the same strokes. */
export const nameOfSource = ({ kit, voice, own, pieces }: Pick<RowSource, 'kit' | 'voice' | 'own' | 'pieces'>): string =>
  pieces
    ? `break|${pieces.sample}|${pieces.gap}|${namesOfPieces(pieces.pieces)}`
    : own
      ? `own|${own.id}|${hashText(JSON.stringify(own.layers))}`
      : `${kit}|${voice}`;

const pieceNames = new WeakMap<readonly Slice[], number>();

/** What of pieces their strokes depend on. */
function namesOfPieces(pieces: readonly Slice[]): number {
  let name = pieceNames.get(pieces);
  if (name === undefined)
    pieceNames.set(
      pieces,
      (name = hashText(
        JSON.stringify(pieces.map(({ from, until, velocity, level, backwards }) => [from, until, velocity, level, backwards])),
      )),
    );
  return name;
}

/** A layer of a source, without its strokes. */
export interface LayerShape {
  /** The highest velocity that it plays, and that its strokes are made for. */
  upTo: number;
  takes: number;
  /** That its strokes are made for, where it is another. */
  at?: number;
}

const CLASS_LAYERS: readonly LayerShape[] = Array.from({ length: CLASSES }, (_, i) => ({ upTo: velocityOf(i), takes: ALTERNATES }));

export const layersOfSource = ({ own, pieces }: Pick<RowSource, 'own' | 'pieces'>): readonly LayerShape[] =>
  (pieces ? [{ upTo: 127, at: PIECE_VELOCITY, takes: Math.max(1, pieces.pieces.length) }] : undefined) ??
  own?.layers.map(({ upTo, takes }) => ({ upTo, takes: takes.length })) ??
  CLASS_LAYERS;

/** The layer that plays a velocity. */
export function layerAt(layers: readonly LayerShape[], velocity: number): number {
  const found = layers.findIndex((l) => velocity <= l.upTo);
  return found < 0 ? layers.length - 1 : found;
}

/** What makes a source's strokes as loud as its level says: those of a built-in kit have that kit's own level. */
export const gainOfSource = ({ kit, voice, own, pieces, level }: RowSource): number =>
  pieces ? 1 : 10 ** ((own ? level : level - levelOf(kit, voice)) / 20);
