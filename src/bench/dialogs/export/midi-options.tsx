'use client';

import type { Part } from '@/core/model/part';
import type { EarlyRule } from '@/core/smf/drum-notes';
import { EARLY_RULES } from '@/core/smf/drum-notes';
import { defaultPpq, MAX_PPQ, MIN_PPQ } from '@/core/smf/export-part';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { namesOf, rowsBeyond, silentRows } from './account';
import type { ExporterSpec, Source } from './exporter';

/** What notes are written of. */
export interface NotesOptions {
  version: 'performed' | 'written';
  withMuted: boolean;
  /** Keys of General MIDI alone. */
  generalMidi: boolean;
}

/** What a file of the part's own has beside. */
export interface FileOptions extends NotesOptions {
  ppq: number;
  early: EarlyRule;
  stretch: Stretch;
}

/** What of a part with sections is written. */
export const STRETCHES = ['bars', 'order', 'sections'] as const;
export type Stretch = (typeof STRETCHES)[number];
const STRETCH_WORDS: Readonly<Record<Stretch, string>> = { bars: 'from its first bar to its last', order: 'in its running order, sections marked', sections: 'each section as a file, in a zip' };

/** Those that a part has something for. */
export const stretchesOf = (part: Part): readonly Stretch[] => STRETCHES.filter((s) => s === 'bars' || (s === 'order' ? part.order : part.sections));

export function StretchChoice({ part, stretch, onChange }: { part: Part; stretch: Stretch; onChange: (stretch: Stretch) => void }) {
  const offered = stretchesOf(part);
  if (offered.length < 2) return null;
  return (
    <p>
      The part <Picker label="What is taken out" value={stretch} choices={offered.map((s) => ({ value: s, text: STRETCH_WORDS[s] }))} onChange={(s) => onChange(s as Stretch)} />
    </p>
  );
}

type Props<O extends object> = Parameters<Extract<NonNullable<ExporterSpec<O>['Options']>, (...given: never[]) => unknown>>[0];

export const firstNotes = (): NotesOptions => ({ version: 'performed', withMuted: false, generalMidi: false });
export const firstFile = ({ part }: Source): FileOptions => ({ ...firstNotes(), ppq: defaultPpq(part.source?.ppq), early: 'zero', stretch: part.order ? 'order' : 'bars' });

const VERSIONS = [
  { value: 'performed', text: 'as performed' },
  { value: 'written', text: 'as written' },
];
const EARLY_WORDS: Readonly<Record<EarlyRule, string>> = { zero: 'move to the start', 'lead-in': 'get a bar in front', wrap: 'go to the end of the loop' };

export function NotesChoices({ source: { part }, options, onChange }: Props<NotesOptions>) {
  const silent = silentRows(part);
  const beyond = rowsBeyond(part);
  return (
    <>
      <p>
        Hits <Picker label="Version" value={options.version} choices={VERSIONS} onChange={(v) => onChange({ version: v as NotesOptions['version'] })} />
      </p>
      {beyond.length > 0 && (
        <label className="flex items-baseline gap-1.5">
          <input type="checkbox" className="accent-accent" checked={options.generalMidi} onChange={(e) => onChange({ generalMidi: e.target.checked })} />
          <span>
            General MIDI keys only <span className="text-sm text-faint">({namesOf(part, beyond)} {beyond.length === 1 ? 'gets' : 'get'} the key of what is nearest)</span>
          </span>
        </label>
      )}
      {silent.length > 0 && (
        <label className="flex items-baseline gap-1.5">
          <input type="checkbox" className="accent-accent" checked={options.withMuted} onChange={(e) => onChange({ withMuted: e.target.checked })} />
          <span>
            with muted rows <span className="text-sm text-faint">({namesOf(part, silent)}, not heard now)</span>
          </span>
        </label>
      )}
    </>
  );
}

export function FileChoices(props: Props<FileOptions>) {
  const { source, options, onChange } = props;
  return (
    <>
      <StretchChoice part={source.part} stretch={options.stretch} onChange={(stretch) => onChange({ stretch })} />
      <NotesChoices {...props} />
      <p>
        Resolution <NumberField label="Resolution" value={options.ppq} min={MIN_PPQ} max={MAX_PPQ} unit="ticks a quarter" default={defaultPpq(source.part.source?.ppq)} onChange={(ppq) => onChange({ ppq })} />
      </p>
      <p>
        Hits before the start <Picker label="Early hits" value={options.early} choices={EARLY_RULES.map((r) => ({ value: r, text: EARLY_WORDS[r] }))} onChange={(v) => onChange({ early: v as EarlyRule })} />
      </p>
    </>
  );
}
