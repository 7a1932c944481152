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
    ? `Solo is on: only ${namesOf(part, soloed)} ${soloed.length === 1 ? 'is' : 'are'} exported, without ${namesOf(part, silent)}.`
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
    `Wrote ${result.notes} drum ${result.notes === 1 ? 'note' : 'notes'} over ${result.bars} ${result.bars === 1 ? 'bar' : 'bars'}${song && !part.source?.ppq ? '' : ` at ${result.ppq} ticks a quarter`}.`,
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
      `${keyless} ${keyless === 1 ? 'hit plays a slice' : 'hits play slices'} beyond the last MIDI key and ${keyless === 1 ? 'was' : 'were'} left out.`,
    );
  if (folded.length > 0) lines.push(`Written with General MIDI keys of what is nearest: ${namesOf(part, folded)}.`);
  if (beyond.length > 0) lines.push(`Keys that General MIDI has no drum for: ${namesOf(part, beyond)}.`);
  if (merged > 0)
    lines.push(
      `${merged} ${merged === 1 ? 'note fell' : 'notes fell'} on another of the same key at the same tick: the louder one is left.`,
    );
  if (spilled > 0)
    lines.push(
      `${spilled} ${spilled === 1 ? 'stroke of an ornament lies' : 'strokes of ornaments lie'} after the end of the part and ${spilled === 1 ? 'was' : 'were'} left out.`,
    );
  if (result.changesBehind > 0)
    lines.push(
      `${result.changesBehind} ${result.changesBehind === 1 ? 'change' : 'changes'} of tempo or meter after the end of the part ${result.changesBehind === 1 ? 'was' : 'were'} left out.`,
    );
  if (early > 0)
    lines.push(
      `${early} ${early === 1 ? 'hit was' : 'hits were'} performed before the start: ${{ zero: 'moved to 0', 'lead-in': 'one bar was put in front', wrap: 'placed at the end of the loop' }[result.earlyRule]}.`,
    );
  const count = (has: (h: Hit) => unknown): number => part.hits.filter(has).length;
  const chokes = count((h) => h.choke);
  if (chokes > 0)
    lines.push(
      `MIDI has no chokes: ${chokes} ${chokes === 1 ? 'ends' : 'end'} what rings before ${chokes === 1 ? 'it' : 'them'}, ${choked} ${choked === 1 ? 'note was' : 'notes were'} shortened.`,
    );
  const ornaments = count((h) => h.ornament && !h.choke);
  if (ornaments > 0)
    lines.push(
      `MIDI has no rolls, flams and echoes: ${ornaments === 1 ? 'one was' : `${ornaments} were`} written as ${ornaments === 1 ? 'its' : 'their'} strokes.`,
    );
  if (result.left.pitched > 0)
    lines.push(
      `The pitch of ${result.left.pitched} ${result.left.pitched === 1 ? 'note' : 'notes'} is ${pitch === 'bend' ? `written as bends of up to ${BEND_SEMITONES} semitones, which all notes of their channel share` : 'written as keys that many semitones away'}.`,
    );
  const coloured = [
    ['pan', count((h) => h.pan)],
    ['pitch', pitch === 'left' ? count((h) => h.pitch) : 0],
    ['brightness', count((h) => h.brightness)],
  ] as const;
  const used = coloured.filter(([, n]) => n > 0).map(([name, n]) => `the ${name} of ${n}`);
  if (used.length > 0) lines.push(`Notes of one MIDI channel share pan, pitch and brightness: ${used.join(', ')} hits stays here.`);
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
      ? [
          `${chances} ${chances === 1 ? 'hit has' : 'hits have'} a probability: written as they fall ${everyPass ? 'in each pass' : 'in pass 1'}.`,
        ]
      : []),
    ...(passes > 0
      ? [
          `${passes} ${passes === 1 ? 'hit sounds' : 'hits sound'} in some passes alone: written ${everyPass ? 'where they do' : 'as in pass 1'}.`,
        ]
      : []),
    ...(rounds.length > 0 ? [`Written out as plain hits, because their rows have their own loop length: ${namesOf(part, rounds)}.`] : []),
  ];
}
