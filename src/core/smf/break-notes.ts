import { breakOfRow, breakRowTest, kindOfRow, LIKE_OF_KIND, pieceOfHit } from '../breaks/rows';
import { GENERAL_MIDI_KIT, keyOfVoice } from '../key-map';
import type { StrokeKind } from '../model/break';
import type { Hit, Part, Row } from '../model/part';
import type { Performance } from '../perform/perform';
import { audibleVoices } from '../playback/program';

/** Whether all of a part's hits play slices of breaks: their names are all that MIDI can have of it. */
export function isAllBreaks(part: Pick<Part, 'rows' | 'hits'>, isChosen: (hit: Hit) => boolean = () => true): boolean {
  const ofBreak = breakRowTest(part);
  const chosen = part.hits.filter(isChosen);
  return chosen.length > 0 && chosen.every((h) => ofBreak(h.voice));
}

/** Which hits are heard: those on rows that are not muted, nor silenced by a solo. @param all every one of them */
export function hearableTest(part: Pick<Part, 'rows'>, all: boolean): (hit: Hit) => boolean {
  const audible = audibleVoices(part);
  return (hit) => all || audible.has(hit.voice);
}

/**
 * Hits of breaks as notes: each on the General MIDI key of what it is called, and of what is struck together with it. They stay where they
 * are performed.
 * @param isWritten which hits are
 */
export function asBreakNotes<P extends Pick<Part, 'rows' | 'hits' | 'breaks'>>(
  part: P,
  performance: Performance,
  isWritten: (hit: Hit) => boolean,
): { part: P; performance: Performance } {
  const ofBreak = breakRowTest(part);
  const sources: number[] = [];
  const hits: Hit[] = [];
  part.hits.forEach((hit, i) => {
    if (!ofBreak(hit.voice) || !isWritten(hit)) return;
    const of = breakOfRow(part, hit.voice);
    const also = of?.pieces[pieceOfHit(of, hit)]?.also;
    const { piece: _piece, ...rest } = hit;
    const as = (kind: StrokeKind, id: string): Hit => ({
      ...rest,
      id,
      voice: LIKE_OF_KIND[kind],
      key: keyOfVoice(GENERAL_MIDI_KIT, LIKE_OF_KIND[kind]),
    });
    const kind = kindOfRow(hit.voice);
    hits.push(as(kind, hit.id));
    sources.push(i);
    if (also && also !== kind) {
      hits.push(as(also, `${hit.id}+`));
      sources.push(i);
    }
  });
  const pick = <T extends Float64Array | Uint8Array>(column: T): T =>
    (column instanceof Uint8Array
      ? Uint8Array.from(sources, (i) => column[i] as number)
      : Float64Array.from(sources, (i) => column[i] as number)) as T;
  const voices = new Set(hits.map((h) => h.voice));
  const rows = [...voices].map((voice): Row => ({ voice }));
  return {
    part: { ...part, rows, hits },
    performance: {
      ...performance,
      ticks: pick(performance.ticks),
      velocities: pick(performance.velocities),
      lengths: pick(performance.lengths),
      placedHomes: pick(performance.placedHomes),
      timbre: null,
    },
  };
}
