'use client';

import { RadioGroup } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { NamedError } from '@/core/errors';
import { EARLY_RULES, type EarlyRule } from '@/core/smf/drum-notes';
import { defaultPpq, exportPart, MAX_PPQ, MIN_PPQ, type ExportResult } from '@/core/smf/export-part';
import { exportSong } from '@/core/smf/export-song';
import { readSmf } from '@/core/smf/read';
import { isIdle } from '@/core/feel/move-spec';
import type { Hit, Part } from '@/core/model/part';
import { labelOfRow } from '@/core/commands/rows';
import { audibleVoices } from '@/core/playback/program';
import { versionStore } from '@/storage/version-store';
import { PART_FILE_ENDING, writePartFile } from '@/formats/part-file';
import { partStore } from '@/storage/part-store';
import { Button } from '@/ui/Button';
import { download, fileNameOf } from '@/ui/download';
import { Modal } from '@/ui/Modal';
import { showError } from '@/ui/notify';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { useBenchStore } from '../store/context';

type What = 'part' | 'song' | 'file';
type Version = 'performed' | 'written';

const EARLY_WORDS: Readonly<Record<EarlyRule, string>> = { zero: 'move to the start', 'lead-in': 'get a bar in front', wrap: 'go to the end of the loop' };

/** Takes the part out: as MIDI, as the song with its drums replaced, or as a file that keeps everything. */
export function ExportDialog({ onClose }: { onClose: () => void }) {
  const { getState } = useBenchStore();
  const { part, hasSong, id } = getState();
  const [what, setWhat] = useState<What>(hasSong ? 'song' : 'part');
  const [version, setVersion] = useState<Version>('performed');
  const [ppq, setPpq] = useState(defaultPpq(part.source?.ppq));
  const [early, setEarly] = useState<EarlyRule>('zero');
  const [withMuted, setWithMuted] = useState(false);
  const silent = silentRows(part);
  const [said, setSaid] = useState<string[] | null>(null);

  const run = async () => {
    try {
      const name = fileNameOf(part.name);
      const song = hasSong ? await partStore.song(id) : undefined;
      if (what === 'file') {
        const versions = await versionStore.list(id);
        download(writePartFile({ part, versions, ...(song ? { song } : {}) }), `${name}${PART_FILE_ENDING}`, 'application/json');
        return setSaid([`Wrote the whole part with its feel${versions.length > 0 ? `, ${versions.length} ${versions.length === 1 ? 'version' : 'versions'}` : ''}${song ? ' and the imported song' : ''}.`]);
      }
      if (what === 'song' && !song) throw new NamedError('no-source');
      const written = version === 'written';
      const result = what === 'song' ? exportSong(part, readSmf(song as Uint8Array), { written, withMuted }) : exportPart(part, { written, ppq, early, withMuted });
      download(result.bytes, `${name}${what === 'song' ? '-song' : ''}${written ? '-written' : ''}.mid`, 'audio/midi');
      setSaid(account(result, part, what, written));
    } catch (e) {
      showError(e);
    }
  };

  return (
    <Modal open onClose={onClose} title="Export" about="You take out exactly what you hear: the same performed hits.">
      <RadioGroup.Root value={what} onValueChange={(v) => setWhat(v as What)} aria-label="What to export" className="space-y-2">
        {hasSong && <Choice value="song" title="The song with these drums" about="Every other track as it came, byte for byte" />}
        <Choice value="part" title="The drum part alone" about="A standard MIDI file, drums on channel 10" />
        <Choice value="file" title="The part with everything" about={`${PART_FILE_ENDING}: feel, nudges and ghosts, to open here again`} />
      </RadioGroup.Root>
      {what !== 'file' && (
        <div className="mt-4 space-y-1 leading-8">
          <p>
            Hits{' '}
            <Picker
              label="Version"
              value={version}
              choices={[
                { value: 'performed', text: 'as performed' },
                { value: 'written', text: 'as written' },
              ]}
              onChange={(v) => setVersion(v as Version)}
            />
          </p>
          {silent.length > 0 && (
            <label className="flex items-baseline gap-1.5">
              <input type="checkbox" className="accent-accent" checked={withMuted} onChange={(e) => setWithMuted(e.target.checked)} />
              <span>
                with muted rows <span className="text-sm text-faint">({namesOf(part, silent)}, not heard now)</span>
              </span>
            </label>
          )}
          {what === 'part' && (
            <>
              <p>
                Resolution <NumberField label="Resolution" value={ppq} min={MIN_PPQ} max={MAX_PPQ} unit="ticks a quarter" default={defaultPpq(part.source?.ppq)} onChange={setPpq} />
              </p>
              <p>
                Hits before the start <Picker label="Early hits" value={early} choices={EARLY_RULES.map((r) => ({ value: r, text: EARLY_WORDS[r] }))} onChange={(v) => setEarly(v as EarlyRule)} />
              </p>
            </>
          )}
        </div>
      )}
      {said && (
        <div role="status" data-testid="export-account" className="mt-4 rounded-md border border-strong px-4 py-2">
          {said.map((line) => (
            <p key={line}>{line}</p>
          ))}
        </div>
      )}
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>{said ? 'Done' : 'Not now'}</Button>
        <Button look="strong" onClick={() => void run()}>
          Export
        </Button>
      </div>
    </Modal>
  );
}

function Choice({ value, title, about }: { value: What; title: ReactNode; about: string }) {
  return (
    <label className="flex cursor-pointer items-start gap-3 rounded-md border border-line px-3 py-2 has-[[data-state=checked]]:border-accent">
      <RadioGroup.Item value={value} aria-label={String(title)} className="mt-1 flex size-4 shrink-0 items-center justify-center rounded-full border border-strong">
        <RadioGroup.Indicator className="size-2 rounded-full bg-accent" />
      </RadioGroup.Item>
      <span>
        {title}
        <span className="block text-sm text-faint">{about}</span>
      </span>
    </label>
  );
}

/** Rows with hits that do not sound now. */
function silentRows(part: Part): string[] {
  const audible = audibleVoices(part);
  const played = new Set(part.hits.map((h) => h.voice));
  return part.rows.map((r) => r.voice).filter((v) => played.has(v) && !audible.has(v));
}

const namesOf = (part: Part, voices: readonly string[]): string => voices.map((v) => labelOfRow(part, v).toLowerCase()).join(', ');

/** What the export did, in sentences, and what MIDI could not take along. */
function account(result: ExportResult, part: Part, what: What, written: boolean): string[] {
  const lines = [`Wrote ${result.notes} drum notes${what === 'song' && !part.source?.ppq ? '' : ` at ${result.ppq} ticks a quarter`}.`];
  const { early, silent, merged, choked, spilled } = result.left;
  if (silent.length > 0) lines.push(`Left out, since they are not heard: ${namesOf(part, silent)}.`);
  if (merged > 0) lines.push(`${merged} ${merged === 1 ? 'note fell' : 'notes fell'} on another of the same key at the same tick: the louder one is left.`);
  if (spilled > 0) lines.push(`${spilled} ${spilled === 1 ? 'stroke of an ornament lies' : 'strokes of ornaments lie'} behind the end of the part and ${spilled === 1 ? 'was' : 'were'} left out.`);
  if (result.changesBehind > 0) lines.push(`${result.changesBehind} ${result.changesBehind === 1 ? 'change' : 'changes'} of tempo or meter behind the end of the part ${result.changesBehind === 1 ? 'was' : 'were'} left out.`);
  if (early > 0) lines.push(`${early} ${early === 1 ? 'hit was' : 'hits were'} performed before the start: ${{ zero: 'moved to 0', 'lead-in': 'one bar was put in front', wrap: 'placed at the end of the loop' }[result.earlyRule]}.`);
  const count = (has: (h: Hit) => unknown): number => part.hits.filter(has).length;
  const chokes = count((h) => h.choke);
  if (chokes > 0) lines.push(`MIDI has no chokes: ${chokes} ${chokes === 1 ? 'ends' : 'end'} what rings before ${chokes === 1 ? 'it' : 'them'}, ${choked} ${choked === 1 ? 'note was' : 'notes were'} shortened.`);
  const ornaments = count((h) => h.ornament && !h.choke);
  if (ornaments > 0) lines.push(`MIDI has no rolls, flams and echoes: ${ornaments === 1 ? 'one was' : `${ornaments} were`} written as ${ornaments === 1 ? 'its' : 'their'} strokes.`);
  const coloured = [['pan', count((h) => h.pan)], ['pitch', count((h) => h.pitch)], ['brightness', count((h) => h.brightness)]] as const;
  const used = coloured.filter(([, n]) => n > 0).map(([name, n]) => `the ${name} of ${n}`);
  if (used.length > 0) lines.push(`Notes of one MIDI channel share pan, pitch and brightness: ${used.join(', ')} hits stays here.`);
  const ghosts = part.hits.filter((h) => h.ghost).length;
  const nudges = part.hits.filter((h) => h.nudge).length;
  if (ghosts > 0) lines.push(`MIDI has no mark for ghosts: ${ghosts} are plain soft notes there.`);
  if (!written && (!isIdle(part.feel) || nudges > 0)) lines.push('MIDI cannot hold written and performed side by side: the feel and nudges are in the note times.');
  if (written && nudges > 0) lines.push(`${nudges} nudges were left out, as the part is written without them.`);
  return lines;
}
