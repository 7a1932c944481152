import { voiceOfKey } from '../key-map';
import { FIRST_PIECE_KEY, isOfBreak, KEY_OF_BREAKS, STROKE_KINDS, type Break, type StrokeKind } from '../model/break';
import { compareHits, type Hit, type Part, type Row } from '../model/part';
import { ownRow, type VoiceName } from '../row-names';

/** The row of a break that its strokes of a kind are on. */
export const rowOfKind = (breakId: string, kind: StrokeKind): VoiceName => ownRow(`${breakId}-${kind}`);

/** The kind of a break's row. */
export const kindOfRow = (row: VoiceName): StrokeKind => STROKE_KINDS.find((k) => row.endsWith(`-${k}`)) ?? 'other';

/** The break whose pieces a row plays. */
export function breakOfRow(part: Pick<Part, 'rows' | 'breaks'>, row: VoiceName): Break | undefined {
  const plays = part.breaks && part.rows.find((r) => r.voice === row)?.plays;
  return isOfBreak(plays) ? part.breaks?.find((b) => b.id === plays.break) : undefined;
}

/** Whether rows play pieces of a break. */
export function breakRowTest({ rows }: Pick<Part, 'rows'>): (row: VoiceName) => boolean {
  const found = new Set(rows.flatMap((r) => (isOfBreak(r.plays) ? [r.voice] : [])));
  return (row) => found.has(row);
}

/** Which of a break's pieces a hit plays: its own, else the first of its row's kind. */
export function pieceOfHit({ pieces }: Pick<Break, 'pieces'>, hit: Pick<Hit, 'piece' | 'voice'>): number {
  if (hit.piece !== undefined && hit.piece < pieces.length) return hit.piece;
  return Math.max(
    0,
    pieces.findIndex((p) => p.kind === kindOfRow(hit.voice)),
  );
}

/** The MIDI key that names a piece; beyond the last key all have the last. */
export const keyOfPiece = (n: number): number => Math.min(127, FIRST_PIECE_KEY + n);

/** What a struck key plays: a piece of a break, counted from key 36 up, where keys play that; else the row that the drum map says. */
export function playedByKey(
  part: Pick<Part, 'kitMap' | 'breaks'>,
  key: number,
  pieces: string | undefined,
): Pick<Hit, 'voice' | 'key' | 'piece'> {
  const piece = key - FIRST_PIECE_KEY;
  const kind = pieces === undefined ? undefined : part.breaks?.find((b) => b.id === pieces)?.pieces[piece]?.kind;
  return kind === undefined || pieces === undefined
    ? { voice: voiceOfKey(part.kitMap, key), key }
    : { voice: rowOfKind(pieces, kind), key: KEY_OF_BREAKS, piece };
}

/** What the strokes of a kind sound like, and what stands for them where the recording is not at hand. */
export const LIKE_OF_KIND: Readonly<Record<StrokeKind, VoiceName>> = { kick: 'kick', snare: 'snare', hat: 'hat-closed', other: 'tom-low' };

/** A part whose breaks are played by voices as a kit has them: what is learnt from it fits other parts. */
export function withVoices(part: Part): Part {
  if (!part.breaks) return part;
  const voices = new Map(part.rows.flatMap((r) => (isOfBreak(r.plays) ? [[r.voice, LIKE_OF_KIND[kindOfRow(r.voice)]] as const] : [])));
  const { breaks: _breaks, heard: _heard, ...rest } = part;
  const hits = part.hits
    .map(({ piece: _piece, ...hit }): Hit => (voices.has(hit.voice) ? { ...hit, voice: voices.get(hit.voice) as VoiceName } : hit))
    .sort(compareHits);
  const others = part.rows.filter((r) => !voices.has(r.voice));
  const known = new Set(others.map((r) => r.voice));
  const struck = new Set(hits.map((h) => h.voice));
  const rows: Row[] = [
    ...others,
    ...STROKE_KINDS.map((kind) => ({ voice: LIKE_OF_KIND[kind] })).filter((r) => struck.has(r.voice) && !known.has(r.voice)),
  ];
  return { ...rest, rows, hits };
}
