import { counted, plural } from '@/core/plurals';
import { songBarsText } from '@/core/smf/song-bars';
import { breakOfRow } from '@/core/breaks/rows';
import { generalMidiKey, labelOfRow } from '@/core/part/rows';
import { isIdle } from '@/core/feel/move-spec';
import type { Hit, Part } from '@/core/model/part';
import { audibleVoices } from '@/core/playback/program';
import type { PitchRule } from '@/core/smf/drum-notes';
import { BEND_SEMITONES } from '@/core/smf/note-tracks';
import type { ExportResult } from '@/core/smf/export-part';

/** Rows with hits that do not sound now. */
export function silentRows(part: Part): string[] {
  const audible = audibleVoices(part);
  const played = new Set(part.hits.map((h) => h.voice));
  return part.rows.map((r) => r.voice).filter((v) => played.has(v) && !audible.has(v));
}

/** Why some rows are not in what is exported; null where all are. @example 'Only closed hat is heard, since it is soloed.' */
export function silenceWords(part: Part): string | null {
  const silent = silentRows(part);
  if (silent.length === 0) return null;
  const soloed = part.rows.filter((r) => r.soloed).map((r) => r.voice);
  return soloed.length > 0
    ? `Solo is on: only ${namesOf(part, soloed)} ${plural(soloed.length, 'is', 'are')} exported, without ${namesOf(part, silent)}.`
    : `Muted, so not exported: ${namesOf(part, silent)}.`;
}

/** Rows with hits whose keys General MIDI has no drum for, or another one. */
export const rowsBeyond = (part: Part): string[] => [
  ...new Set(
    part.hits
      .filter((h) => !h.choke && !breakOfRow(part, h.voice) && (generalMidiKey(part, h.voice, h.key) ?? h.key) !== h.key)
      .map((h) => h.voice),
  ),
];

/** @example namesOf(part, ['snare']) // 'snare' */
export const namesOf = (part: Part, voices: readonly string[]): string => voices.map((v) => labelOfRow(part, v).toLowerCase()).join(', ');

/** What the export did, in sentences, and what MIDI could not take along. */
export function account(
  result: ExportResult,
  part: Part,
  { song, written, pitch = 'left' }: { song: boolean; written: boolean; pitch?: PitchRule },
): string[] {
  const lines = [
    `Wrote ${result.notes} drum ${plural(result.notes, 'note')} over ${counted(result.bars, 'bar')}${song && !part.source?.ppq ? '' : ` at ${result.ppq} ticks per quarter note`}.`,
  ];
  if (song && result.bars > part.bars) lines.push(songBarsText(part.bars, result.bars));
  if (result.rowTracks > 0)
    lines.push(
      result.rowTracks === 1
        ? 'The row has its own track.'
        : `Each of the ${result.rowTracks} rows has its own track, named after the row.`,
    );
  const { early, silent, merged, choked, spilled, folded, beyond, recorded, keyless } = result.left;
  if (silent.length > 0) lines.push(`Left out, since they are not heard: ${namesOf(part, silent)}.`);
  if (recorded.length > 0)
    lines.push(`Left out, since MIDI has no recordings: ${namesOf(part, recorded)}. Export the break’s slices to include them.`);
  if (keyless > 0)
    lines.push(
      `${counted(keyless, 'hit plays a slice', 'hits play slices')} beyond the last MIDI key and ${plural(keyless, 'was', 'were')} left out.`,
    );
  if (folded.length > 0) lines.push(`Written with General MIDI keys of what is nearest: ${namesOf(part, folded)}.`);
  if (beyond.length > 0) lines.push(`Keys that General MIDI has no drum for: ${namesOf(part, beyond)}.`);
  if (merged > 0)
    lines.push(`${counted(merged, 'note fell', 'notes fell')} on another of the same key at the same tick: the louder one was kept.`);
  if (spilled > 0)
    lines.push(
      `${counted(spilled, 'stroke of an ornament lies', 'strokes of ornaments lie')} after the end of the part and ${plural(spilled, 'was', 'were')} left out.`,
    );
  if (result.changesBehind > 0)
    lines.push(
      `${counted(result.changesBehind, 'change')} of tempo or meter after the end of the part ${plural(result.changesBehind, 'was', 'were')} left out.`,
    );
  if (early > 0)
    lines.push(
      `${counted(early, 'hit was', 'hits were')} performed before the start: ${{ zero: 'moved to 0', 'lead-in': 'one bar was put in front', wrap: 'placed at the end of the loop' }[result.earlyRule]}.`,
    );
  const count = (has: (h: Hit) => unknown): number => part.hits.filter(has).length;
  const muted = count((h) => h.muted);
  if (muted > 0) lines.push(`${counted(muted, 'muted hit was', 'muted hits were')} left out.`);
  const positions = count((h) => h.position !== undefined && !h.muted);
  if (part.target?.articulation === 'keys' && positions > 0)
    lines.push(`The output map has no positions: those of ${counted(positions, 'hit')} are not exported.`);
  const chokes = count((h) => h.choke);
  if (chokes > 0)
    lines.push(
      `MIDI has no chokes: ${counted(chokes, 'ends', 'end')} what rings before ${plural(chokes, 'it', 'them')}, ${counted(choked, 'note was', 'notes were')} shortened.`,
    );
  const ornaments = count((h) => h.ornament && !h.choke);
  if (ornaments > 0)
    lines.push(
      `MIDI has no rolls, flams and echoes: ${ornaments === 1 ? 'one was' : `${ornaments} were`} written as ${plural(ornaments, 'its', 'their')} strokes.`,
    );
  if (result.left.pitched > 0)
    lines.push(
      `The pitch of ${counted(result.left.pitched, 'note')} is ${pitch === 'bend' ? `written as bends of up to ${BEND_SEMITONES} semitones, which all notes of their channel share` : 'written as keys that many semitones away'}.`,
    );
  const coloured = [
    ['pan', count((h) => h.pan)],
    ['pitch', pitch === 'left' ? count((h) => h.pitch) : 0],
    ['brightness', count((h) => h.brightness)],
  ] as const;
  const used = coloured.filter(([, n]) => n > 0).map(([name, n]) => `the ${name} of ${n}`);
  if (used.length > 0) lines.push(`Notes of one MIDI channel share pan, pitch and brightness: ${used.join(', ')} hits is not exported.`);
  const ghosts = part.hits.filter((h) => h.ghost).length;
  const nudges = part.hits.filter((h) => h.nudge).length;
  if (ghosts > 0) lines.push(`MIDI has no mark for ghosts: ${ghosts} are plain soft notes there.`);
  if (!written && (!isIdle(part.feel) || nudges > 0))
    lines.push('MIDI cannot hold written and performed side by side: the feel and nudges are in the note times.');
  if (written && nudges > 0) lines.push(`${nudges} nudges were left out, as the part is written without them.`);
  return lines;
}

/** How chances, passes and rows that come round were written. */
export function drawnWords(part: Part, everyPass: boolean): string[] {
  const chances = part.hits.filter((h) => h.chance !== undefined).length;
  const passes = part.hits.filter((h) => h.passes).length;
  const rounds = part.rows.filter((r) => r.cycle).map((r) => r.voice);
  return [
    ...(chances > 0
      ? [`${counted(chances, 'hit has', 'hits have')} a probability: written as they fall ${everyPass ? 'in each pass' : 'in pass 1'}.`]
      : []),
    ...(passes > 0
      ? [`${counted(passes, 'hit sounds', 'hits sound')} in some passes alone: written ${everyPass ? 'where they do' : 'as in pass 1'}.`]
      : []),
    ...(rounds.length > 0 ? [`Written out as plain hits, because their rows have their own loop length: ${namesOf(part, rounds)}.`] : []),
  ];
}
