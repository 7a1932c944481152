'use client';

import { plural } from '@/core/plurals';
import type { Part } from '@/core/model/part';
import { breakOfRow } from '@/core/breaks/rows';
import { outputMapOf } from '@/core/commands/output-map';
import { NO_TARGET, type OutputMap } from '@/core/model/output-map';
import { labelOfRow } from '@/core/part/rows';
import { READY_TARGETS } from '@/core/output-map/ready';
import { EARLY_RULES, PITCH_RULES, type EarlyRule, type PitchRule } from '@/core/smf/drum-notes';
import { outputMapStore } from '@/storage/output-map-store';
import { useStored } from '@/storage/use-stored';
import { defaultPpq, MAX_PPQ, MIN_PPQ } from '@/core/smf/export-part';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { namesOf, rowsBeyond, silentRows } from './account';
import type { ExporterSpec, ExportSource } from './exporter';

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
  stretch: ExportRange;
  /** Bars as they are counted, from 1. */
  fromBar: number;
  toBar: number;
  passes: number;
  /** A row's name, {@link SELECTION}, or '' for all. */
  only: string;
  format: '0' | '1';
  pitch: PitchRule;
  /** Instead of the part's own. */
  target: OutputMap | null;
}

/** The selected hits, among names of rows. */
export const SELECTION = '\u0000selection';

/** What of a part with sections is written. */
export const STRETCHES = ['bars', 'order', 'sections'] as const;
export type ExportRange = (typeof STRETCHES)[number];
const STRETCH_WORDS: Readonly<Record<ExportRange, string>> = {
  bars: 'from its first bar to its last',
  order: 'in its running order, sections marked',
  sections: 'each section as a file, in a zip',
};

/** Those that a part has something for. */
export const stretchesOf = (part: Part): readonly ExportRange[] =>
  STRETCHES.filter((s) => s === 'bars' || (s === 'order' ? part.order : part.sections));

export function StretchChoice({ part, stretch, onChange }: { part: Part; stretch: ExportRange; onChange: (stretch: ExportRange) => void }) {
  const offered = stretchesOf(part);
  if (offered.length < 2) return null;
  return (
    <p>
      The part{' '}
      <Picker
        label="What is taken out"
        value={stretch}
        choices={offered.map((s) => ({ value: s, text: STRETCH_WORDS[s] }))}
        onChange={(s) => onChange(s as ExportRange)}
      />
    </p>
  );
}

type Props<O extends object> = Parameters<Extract<NonNullable<ExporterSpec<O>['Options']>, (...given: never[]) => unknown>>[0];

export const firstNotes = (): NotesOptions => ({ version: 'performed', withMuted: false, generalMidi: false });
export const firstFile = ({ part }: ExportSource): FileOptions => ({
  ...firstNotes(),
  ppq: defaultPpq(part),
  early: 'zero',
  stretch: part.order ? 'order' : 'bars',
  fromBar: 1,
  toBar: part.bars,
  passes: 1,
  only: '',
  format: '0',
  pitch: 'left',
  target: null,
});

const VERSIONS = [
  { value: 'performed', text: 'as performed' },
  { value: 'written', text: 'as written' },
];
const EARLY_WORDS: Readonly<Record<EarlyRule, string>> = {
  zero: 'Move to the start',
  'lead-in': 'Add a bar before',
  wrap: 'Move to the loop end',
};

export function NotesChoices({ source: { part }, options, onChange }: Props<NotesOptions>) {
  const silent = silentRows(part);
  const beyond = rowsBeyond(part);
  return (
    <>
      <p>
        Hits{' '}
        <Picker
          label="Version"
          value={options.version}
          choices={VERSIONS}
          onChange={(v) => onChange({ version: v as NotesOptions['version'] })}
        />
      </p>
      {beyond.length > 0 && (
        <label className="flex items-baseline gap-1.5">
          <input
            type="checkbox"
            className="accent-accent"
            checked={options.generalMidi}
            onChange={(e) => onChange({ generalMidi: e.target.checked })}
          />
          <span>
            General MIDI keys only{' '}
            <span className="text-sm text-faint">
              ({namesOf(part, beyond)} {plural(beyond.length, 'gets', 'get')} the key of what is nearest)
            </span>
          </span>
        </label>
      )}
      {silent.length > 0 && (
        <label className="flex items-baseline gap-1.5">
          <input
            type="checkbox"
            className="accent-accent"
            checked={options.withMuted}
            onChange={(e) => onChange({ withMuted: e.target.checked })}
          />
          <span>
            with muted rows <span className="text-sm text-faint">({namesOf(part, silent)}, not heard now)</span>
          </span>
        </label>
      )}
    </>
  );
}

const PITCH_WORDS: Readonly<Record<PitchRule, string>> = { left: 'is left out', bend: 'becomes bends', keys: 'becomes other keys' };

export function FileChoices(props: Props<FileOptions>) {
  const { source, options, onChange } = props;
  const { part } = source;
  const isPitched = part.hits.some((h) => h.pitch) || part.feel.moves.some((m) => m.kind === 'timbre');
  return (
    <>
      <OnlyChoice {...props} />
      <StretchChoice part={part} stretch={options.stretch} onChange={(stretch) => onChange({ stretch })} />
      {options.stretch === 'bars' && <BarsChoice bars={part.bars} options={options} onChange={onChange} />}
      <NotesChoices {...props} />
      <OutputMapChoice {...props} />
      {isPitched && (
        <p>
          Pitch{' '}
          <Picker
            label="Pitch"
            value={options.pitch}
            choices={PITCH_RULES.map((r) => ({ value: r, text: PITCH_WORDS[r] }))}
            onChange={(v) => onChange({ pitch: v as PitchRule })}
          />
        </p>
      )}
      <p>
        <NumberField
          label="Resolution"
          value={options.ppq}
          min={MIN_PPQ}
          max={MAX_PPQ}
          unit="ticks per quarter note"
          default={defaultPpq(part)}
          onChange={(ppq) => onChange({ ppq })}
        />
        {(options.target ?? outputMapOf(part)).tracks === 'one' && (
          <>
            , type{' '}
            <Picker
              label="Type of file"
              value={options.format}
              choices={[
                { value: '0', text: '0: all in one track' },
                { value: '1', text: '1: tempo apart' },
              ]}
              onChange={(v) => onChange({ format: v as FileOptions['format'] })}
            />
          </>
        )}
      </p>
      <p>
        Hits before the start{' '}
        <Picker
          label="Early hits"
          value={options.early}
          choices={EARLY_RULES.map((r) => ({ value: r, text: EARLY_WORDS[r] }))}
          onChange={(v) => onChange({ early: v as EarlyRule })}
        />
      </p>
    </>
  );
}

/** All rows, one, or what is selected. */
function OnlyChoice({ source: { part, selection }, options, onChange }: Props<FileOptions>) {
  const rows = part.rows.filter((r) => !breakOfRow(part, r.voice));
  const choices = [
    { value: 'all', text: 'all rows' },
    ...(selection.size > 0 ? [{ value: SELECTION, text: `the ${selection.size} selected ${plural(selection.size, 'hit')}` }] : []),
    ...rows.map((r) => ({ value: r.voice, text: `${labelOfRow(part, r.voice).toLowerCase()} alone` })),
  ];
  return (
    <p>
      With{' '}
      <Picker
        label="Rows to export"
        value={choices.some((c) => c.value === options.only) ? options.only : 'all'}
        choices={choices}
        onChange={(only) => onChange({ only: only === 'all' ? '' : only })}
      />
    </p>
  );
}

/** Some bars, several times over. */
export function BarsChoice({
  bars,
  options: { fromBar, toBar, passes },
  onChange,
}: {
  bars: number;
  options: { fromBar: number; toBar: number; passes: number };
  onChange: (change: { fromBar?: number; toBar?: number; passes?: number }) => void;
}) {
  const bar = (label: string, value: number, min: number, set: (n: number) => void) => (
    <NumberField label={label} value={value} min={min} max={bars} unit="" className="[&_input]:w-[2.8em]" onChange={set} />
  );
  return (
    <p>
      Bars {bar('From bar', fromBar, 1, (n) => onChange({ fromBar: n, toBar: Math.max(n, toBar) }))} to{' '}
      {bar('To bar', toBar, fromBar, (n) => onChange({ toBar: n }))}, played{' '}
      <NumberField
        label="Times"
        value={passes}
        min={1}
        max={64}
        unit={plural(passes, 'time')}
        className="[&_input]:w-[2.4em]"
        onChange={(n) => onChange({ passes: n })}
      />
    </p>
  );
}

/** The part's own target, or another for this export. */
function OutputMapChoice({ source: { part }, options, onChange }: Props<FileOptions>) {
  const kept = useStored(() => outputMapStore.list().catch(() => []), []) ?? [];
  const others = [NO_TARGET, ...READY_TARGETS, ...kept];
  const own = outputMapOf(part);
  return (
    <p>
      With the output map{' '}
      <Picker
        label="Output map of the export"
        value={options.target?.name ?? OWN}
        choices={[
          { value: OWN, text: `of the part: ${own.name}` },
          ...others.filter((t) => t.name !== own.name).map((t) => ({ value: t.name, text: t.name })),
        ]}
        onChange={(name) => onChange({ target: others.find((t) => t.name === name) ?? null })}
      />
    </p>
  );
}

const OWN = '\u0000own';
