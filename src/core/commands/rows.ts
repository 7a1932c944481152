/** Commands on rows and the key map: which voice a line is, which key it has, what it is called, where it stands. */
import type { Feel } from '../model/feel';
import { keyOfVoice, labelOfVoice, voiceOfKey, type KitMap, type VoiceName } from '../voices';
import { compareHits, type Hit, type Part, type Row } from '../model/part';
import { rowsWith } from './hits';
import { keyInPart } from './place';

/** What a row is called: the user's name for it, else its voice's. */
export function labelOfRow(part: Pick<Part, 'rows'>, voice: VoiceName): string {
  return part.rows.find((r) => r.voice === voice)?.name ?? labelOfVoice(voice);
}

const LONGEST_NAME = 40;

/** Gives a row a name of its own; an empty one gives the voice's back. */
export function renameRow(part: Part, voice: VoiceName, name: string): Part {
  const wanted = name.trim().slice(0, LONGEST_NAME);
  const own = wanted === '' || wanted === labelOfVoice(voice) ? undefined : wanted;
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

/** Adds an empty row at its voice's usual place. */
export const addRow = (part: Part, voice: VoiceName): Part => ({ ...part, rows: rowsWith(part.rows, [voice]) });

/** Takes a row away, with its hits. */
export const removeRow = (part: Part, voice: VoiceName): Part => ({ ...part, rows: part.rows.filter((r) => r.voice !== voice), hits: part.hits.some((h) => h.voice === voice) ? part.hits.filter((h) => h.voice !== voice) : part.hits });

/**
 * Gives all hits of a row another MIDI key, which the key map then knows as this voice: the only one, so that new hits are written
 * with it, too. Keys that the voice had before keep their meaning where other hits use them.
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
  const hits = part.hits.map((h) => (h.key === key && h.voice !== meant ? { ...h, voice: meant } : h));
  return { ...part, kitMap, hits, rows: rowsAfter(part, hits) };
}

const withVoice = (kit: KitMap, key: number, voice: VoiceName): KitMap => (kit.voices[key] === voice ? kit : { ...kit, voices: { ...kit.voices, [key]: voice } });

/**
 * The keys of a row mean another instrument: hits keep their keys, and whatever plays the file sounds as before; only names change.
 * A row of that voice takes them in. To have another instrument play the row, see {@link mergeRows}.
 */
export function setRowVoice(part: Part, from: VoiceName, to: VoiceName): Part {
  if (from === to) return part;
  const keys = new Set(part.hits.filter((h) => h.voice === from).map((h) => h.key));
  let kitMap = part.kitMap;
  for (const key of keys) kitMap = withVoice(kitMap, key, to);
  return { ...intoVoice(part, from, to), kitMap, hits: part.hits.map((h) => echoTo(h.voice === from ? { ...h, voice: to } : h, from, to)) };
}

/**
 * Another instrument plays a row: its hits become hits of `to`, with its key, and join the row of that voice where there is one. What
 * falls together stays, as duplicates.
 */
export function mergeRows(part: Part, from: VoiceName, to: VoiceName): Part {
  if (from === to) return part;
  const key = keyInPart(part, to);
  return { ...intoVoice(part, from, to), hits: part.hits.map((h) => echoTo(h.voice === from ? { ...h, voice: to, key } : h, from, to)).sort(compareHits) };
}

/** An echo played by a voice goes along with it. */
const echoTo = (hit: Hit, from: VoiceName, to: VoiceName): Hit => (hit.ornament && 'voice' in hit.ornament && hit.ornament.voice === from ? { ...hit, ornament: { ...hit.ornament, voice: to } } : hit);

/** Rows and feel after a voice went into another. */
function intoVoice(part: Part, from: VoiceName, to: VoiceName): Part {
  const exists = part.rows.some((r) => r.voice === to);
  const rows = exists ? part.rows.filter((r) => r.voice !== from) : part.rows.map(({ name: _name, ...row }, i) => (row.voice === from ? { ...row, voice: to } : (part.rows[i] as Row)));
  return { ...part, rows, feel: withVoiceRenamed(part.feel, from, to) };
}

/** Moves that name a voice go along with it. */
function withVoiceRenamed(feel: Feel, from: VoiceName, to: VoiceName): Feel {
  if (!feel.moves.some((m) => m.scope?.voices?.includes(from))) return feel;
  const moves = feel.moves.map((m) => (m.scope?.voices ? { ...m, scope: { ...m.scope, voices: [...new Set(m.scope.voices.map((v) => (v === from ? to : v)))] } } : m));
  return { ...feel, moves };
}

/** Which row each old row's hits went to, for rows that go with their hits. */
function rowsAfter(part: Part, hits: readonly Hit[]): readonly Row[] {
  const voices = new Set(hits.map((h) => h.voice));
  const had = new Set(part.hits.map((h) => h.voice));
  return rowsWith(part.rows.filter((r) => voices.has(r.voice) || !had.has(r.voice)), voices);
}

/** Reads the part's keys by another map: names and rows change, keys and everything else stay. For a file whose names are wrong. */
export function readByKit(part: Part, kit: KitMap): Part {
  const hits = part.hits.map((h) => {
    const voice = voiceOfKey(kit, h.key);
    return voice === h.voice ? h : { ...h, voice };
  });
  return { ...part, kitMap: kit, hits, rows: rowsAfter(part, hits) };
}

/** The rows with hits that a kit has no key for: they keep their keys when the part is played on it. */
export function rowsWithout(part: Pick<Part, 'hits' | 'rows'>, kit: KitMap): VoiceName[] {
  const known = new Set(Object.values(kit.voices));
  const played = new Set(part.hits.map((h) => h.voice));
  return part.rows.map((r) => r.voice).filter((v) => played.has(v) && !known.has(v));
}

/** Plays the part on another kit: voices stay, keys become the kit's. A voice that the kit lacks keeps its keys, see {@link rowsWithout}. */
export function playOnKit(part: Part, kit: KitMap): Part {
  const known = new Set(Object.values(kit.voices));
  const hits = part.hits.map((h) => {
    if (!known.has(h.voice) || kit.voices[h.key] === h.voice) return h;
    return { ...h, key: keyOfVoice(kit, h.voice) };
  });
  return { ...part, kitMap: kit, hits: hits.sort(compareHits) };
}
