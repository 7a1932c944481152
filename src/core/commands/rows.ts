/** Commands on rows and the drum map: which voice a line is, which key it has, what it is called, where it stands. */
import { breakRowTest } from '../breaks/rows';
import { freeKey, keyOfVoice, keyOnKit, voiceOfKey, type KitMap } from '../key-map';
import type { Feel } from '../model/feel';
import { compareHits, type Hit, type Part, type Row } from '../model/part';
import { soundOfRow } from '../part/rows';
import { isOwnRow, nextRow, standIns, voiceOfRow, type VoiceName } from '../row-names';
import { compareVoices, generalMidiKeys, labelOfVoice } from '../voices';
import { rowsWith } from './hits';
import { keyInPart } from './place';

const LONGEST_NAME = 40;

/** Gives a row a name of its own; an empty one gives the voice's back. */
export function renameRow(part: Part, voice: VoiceName, name: string): Part {
  const wanted = name.trim().slice(0, LONGEST_NAME);
  const own = wanted === '' || wanted === labelOfVoice(voice) ? undefined : wanted;
  // A row of the user's own has no other name to go back to.
  if (own === undefined && isOwnRow(voice)) return part;
  return changeRow(part, voice, ({ name: _was, ...rest }) => (own === undefined ? rest : { ...rest, name: own }));
}

function changeRow(part: Part, voice: VoiceName, change: (row: Row) => Row): Part {
  return { ...part, rows: part.rows.map((row) => (row.voice === voice ? change(row) : row)) };
}

/** Moves a row so that it stands at an index from the top. */
export function moveRow(part: Part, voice: VoiceName, to: number): Part {
  const from = part.rows.findIndex((r) => r.voice === voice);
  if (from < 0 || from === to) return part;
  const rows = [...part.rows];
  const [row] = rows.splice(from, 1);
  rows.splice(Math.max(0, Math.min(rows.length, to)), 0, row as Row);
  return { ...part, rows };
}

/** Adds an empty row at its voice's usual place, with a key of its own: the kit's, or a free one that the kit then knows it by. */
export function addRow(part: Part, row: VoiceName, settings: Omit<Row, 'voice'> = {}): Part {
  if (part.rows.some((r) => r.voice === row)) return part;
  const rows = rowsWith(part.rows, [row]).map((r) => (r.voice === row ? { ...settings, ...r } : r));
  return { ...part, rows, kitMap: withKeyFor(part, row) };
}

/** Another row of a voice that the part has. @example addRow(part, anotherRow(part, 'snare')) // 'snare:2' */
export const anotherRow = (part: Pick<Part, 'rows'>, voice: VoiceName): VoiceName => nextRow(new Set(part.rows.map((r) => r.voice)), voice);

/** The part's key map with a key for a row that is new: no hit has it, and no other row needs it. */
export function withKeyFor(part: Pick<Part, 'hits' | 'kitMap'>, row: VoiceName): KitMap {
  const { kitMap } = part;
  if (keyOnKit(kitMap, row) !== undefined || (/^key-\d+$/.test(row) && kitMap.voices[keyOfVoice(kitMap, row)] === undefined)) return kitMap;
  const used = new Set(part.hits.map((h) => h.key));
  const voice = voiceOfRow(row);
  const main = keyOnKit(kitMap, voice);
  const isSpare = (key: number): boolean => kitMap.voices[key] === undefined || (kitMap.voices[key] === voice && key !== main);
  return withVoice(
    kitMap,
    freeKey(row, (key) => used.has(key) || !isSpare(key)),
    row,
  );
}

/** Takes a row away, with its hits. Of a further row the keys go back to its voice. */
export function removeRow(part: Part, row: VoiceName): Part {
  return {
    ...part,
    rows: part.rows.filter((r) => r.voice !== row),
    hits: part.hits.some((h) => h.voice === row) ? part.hits.filter((h) => h.voice !== row) : part.hits,
    kitMap: withoutRow(part.kitMap, row),
  };
}

function withoutRow(kit: KitMap, row: VoiceName): KitMap {
  const voice = voiceOfRow(row);
  if ((voice === row && !isOwnRow(row)) || keyOnKit(kit, row) === undefined) return kit;
  const isUsual = (key: number): boolean => generalMidiKeys(voice).includes(key);
  return {
    ...kit,
    voices: Object.fromEntries(
      Object.entries(kit.voices).flatMap(([key, name]) => (name !== row ? [[key, name]] : isUsual(Number(key)) ? [[key, voice]] : [])),
    ),
  };
}

/**
 * Gives all hits of a row another MIDI key, which the drum map then knows as this row: the only one, so that new hits are written
 * with it, too. Keys that the row had before keep their meaning where other hits use them.
 */
export function setRowKey(part: Part, voice: VoiceName, key: number): Part {
  const hits = part.hits.map((h) => (h.voice === voice && h.key !== key ? { ...h, key } : h)).sort(compareHits);
  const used = new Set(hits.map((h) => h.key));
  const voices = Object.fromEntries(Object.entries(part.kitMap.voices).filter(([k, v]) => v !== voice || used.has(Number(k))));
  return { ...part, kitMap: withVoice({ ...part.kitMap, voices }, key, voice), hits };
}

/** Says which voice a key means, whether or not a hit uses it; hits of the key go along. Null forgets the key. */
export function setKeyVoice(part: Part, key: number, voice: VoiceName | null): Part {
  const { [key]: _was, ...rest } = part.kitMap.voices;
  const kitMap: KitMap = { ...part.kitMap, voices: voice === null ? rest : { ...rest, [key]: voice } };
  const meant = voiceOfKey(kitMap, key);
  const ofBreak = breakRowTest(part);
  const hits = part.hits.map((h) => (h.key === key && h.voice !== meant && !ofBreak(h.voice) ? { ...h, voice: meant } : h));
  return { ...part, kitMap, hits, rows: rowsAfter(part, hits) };
}

const withVoice = (kit: KitMap, key: number, voice: VoiceName): KitMap =>
  kit.voices[key] === voice ? kit : { ...kit, voices: { ...kit.voices, [key]: voice } };

/**
 * The keys of a row mean another instrument: hits keep their keys, and whatever plays the file sounds as before; only names change.
 * Where `to` is a row already, it takes them in. To have another instrument play the row, see {@link giveInstrument}.
 */
export function setRowVoice(part: Part, from: VoiceName, to: VoiceName): Part {
  if (from === to) return part;
  const keys = new Set(part.hits.filter((h) => h.voice === from).map((h) => h.key));
  let kitMap = part.kitMap;
  for (const key of keys) kitMap = withVoice(kitMap, key, to);
  return { ...intoVoice(part, from, to), kitMap, hits: part.hits.map((h) => echoTo(h.voice === from ? { ...h, voice: to } : h, from, to)) };
}

/**
 * Another instrument plays a row: what is heard and the key that is written change together. Where the part has a row of that voice,
 * this one becomes another of it.
 * @returns the part, and what the row is called now
 */
export function giveInstrument(part: Part, from: VoiceName, voice: VoiceName): { part: Part; row: VoiceName } {
  if (voiceOfRow(from) === voice) return { part, row: from };
  const to = anotherRow(part, voice);
  const without = { ...part, kitMap: withoutRow(part.kitMap, from), hits: part.hits.filter((h) => h.voice !== from) };
  const kitMap = withKeyFor(without, to);
  const key = keyOfVoice(kitMap, to);
  return {
    part: {
      ...intoVoice(part, from, to),
      kitMap,
      hits: part.hits.map((h) => echoTo(h.voice === from ? { ...h, voice: to, key } : h, from, to)).sort(compareHits),
    },
    row: to,
  };
}

/** A row joins another: its hits become hits of `to`, with its key. What falls together stays, as duplicates. */
export function mergeRows(part: Part, from: VoiceName, to: VoiceName): Part {
  if (from === to) return part;
  const key = keyInPart(part, to);
  const joined = intoVoice(part, from, to);
  return {
    ...joined,
    kitMap: withoutRow(part.kitMap, from),
    hits: part.hits.map((h) => echoTo(h.voice === from ? { ...h, voice: to, key } : h, from, to)).sort(compareHits),
  };
}

/** An echo played by a voice goes along with it. */
const echoTo = (hit: Hit, from: VoiceName, to: VoiceName): Hit =>
  hit.ornament && 'voice' in hit.ornament && hit.ornament.voice === from ? { ...hit, ornament: { ...hit.ornament, voice: to } } : hit;

/** Rows and feel after a voice went into another. */
function intoVoice(part: Part, from: VoiceName, to: VoiceName): Part {
  const exists = part.rows.some((r) => r.voice === to);
  const rows = exists
    ? part.rows.filter((r) => r.voice !== from)
    : part.rows.map(({ name: _name, like: _like, ...row }, i) => (row.voice === from ? { ...row, voice: to } : (part.rows[i] as Row)));
  return { ...part, rows, feel: withVoiceRenamed(part.feel, from, to) };
}

/** Moves that name a voice go along with it. */
function withVoiceRenamed(feel: Feel, from: VoiceName, to: VoiceName): Feel {
  if (!feel.moves.some((m) => m.scope?.voices?.includes(from))) return feel;
  const moves = feel.moves.map((m) =>
    m.scope?.voices ? { ...m, scope: { ...m.scope, voices: [...new Set(m.scope.voices.map((v) => (v === from ? to : v)))] } } : m,
  );
  return { ...feel, moves };
}

/** Which row each old row's hits went to, for rows that go with their hits. */
function rowsAfter(part: Part, hits: readonly Hit[]): readonly Row[] {
  const voices = new Set(hits.map((h) => h.voice));
  const had = new Set(part.hits.map((h) => h.voice));
  return rowsWith(
    part.rows.filter((r) => voices.has(r.voice) || !had.has(r.voice)),
    voices,
  );
}

/** Reads the part's keys by another map: names and rows change, keys and everything else stay. For a file whose names are wrong. */
export function readByKit(part: Part, kit: KitMap): Part {
  const ofBreak = breakRowTest(part);
  const hits = part.hits.map((h) => {
    if (ofBreak(h.voice)) return h;
    const voice = voiceOfKey(kit, h.key);
    return voice === h.voice ? h : { ...h, voice };
  });
  return { ...part, kitMap: kit, hits, rows: rowsAfter(part, hits) };
}

/**
 * The rows with hits that a kit has no key for, nor for anything that stands for them: they keep their keys when the part is played on it.
 */
export function rowsWithout(part: Pick<Part, 'hits' | 'rows'>, kit: KitMap): VoiceName[] {
  const known = new Set(Object.values(kit.voices));
  const played = new Set(part.hits.map((h) => h.voice));
  const ofBreak = breakRowTest(part);
  return part.rows
    .map((r) => r.voice)
    .filter(
      (row) =>
        played.has(row) &&
        !ofBreak(row) &&
        ![row, soundOfRow(part, row), ...standIns(soundOfRow(part, row))].some((name) => known.has(name)),
    );
}

/**
 * Plays the part on another kit: rows stay, keys become the kit's. Further rows of a voice, and strokes that the kit lacks, get keys
 * beside the kit's own; a row that it knows nothing of keeps its keys, see {@link rowsWithout}.
 */
export function playOnKit(part: Part, kit: KitMap): Part {
  const played = [...new Set(part.hits.map((h) => h.voice))].sort(compareVoices);
  // What plays a recording has no key of a kit's.
  const ofBreak = breakRowTest(part);
  const lost = new Set([...rowsWithout(part, kit), ...played.filter(ofBreak)]);
  const kept = part.hits.filter((h) => lost.has(h.voice));
  let kitMap = kit;
  for (const row of played) if (!lost.has(row) && keyOnKit(kitMap, row) === undefined) kitMap = withKeyFor({ hits: kept, kitMap }, row);
  const hits = part.hits.map((h) =>
    lost.has(h.voice) || kitMap.voices[h.key] === h.voice ? h : { ...h, key: keyOfVoice(kitMap, h.voice) },
  );
  return { ...part, kitMap, hits: hits.sort(compareHits) };
}
