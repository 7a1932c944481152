'use client';

import { counted } from '@/core/plurals';
import { BITS, type Bits } from '@/core/audio/wav';
import { breakOfRow } from '@/core/breaks/rows';
import { labelOfRow } from '@/core/part/rows';
import { audibleVoices } from '@/core/playback/program';
import type { Part } from '@/core/model/part';
import type { Section } from '@/core/model/song';
import { startTempo } from '@/core/commands/settings';
import { kitOf } from '@/core/playback/sources';
import { roundOfSection, roundsOfOrder } from '@/core/song/unroll';
import { ENDINGS, type Ending } from '@/core/render/render-part';
import { breakRecordings, recordingsOf, soundsUsed } from '@/sounds/used';
import { uniqueName } from '@/ui/unique-name';
import { Picker } from '@/ui/Picker';
import { renderAudio } from '@/workers/clients';
import type { RenderedFiles, RenderWish } from '@/workers/render.worker';
import { drawnWords, namesOf, silenceWords } from './account';
import { plainName, soundName } from './file-name';
import type { Exported, ExporterSpec, Job } from './exporter';
import { BarsChoice, StretchChoice, type ExportRange } from './midi-options';

/** What an audio file is made of. */
interface AudioOptions {
  audioWhat: 'mix' | 'rows' | 'breaks';
  /** This row alone, in one file; empty: all that are heard. */
  audioRow: string;
  audioVersion: 'performed' | 'written';
  rate: number;
  bits: Bits;
  /** Bars as they are counted, from 1. */
  fromBar: number;
  toBar: number;
  ending: Ending;
  passes: number;
  stretch: ExportRange;
}

const RATES = [44_100, 48_000, 96_000];
const BIT_WORDS: Readonly<Record<Bits, string>> = { '16': '16 bits', '24': '24 bits', '32f': '32 bits, floating point' };
const ENDING_WORDS: Readonly<Record<Ending, string>> = { ring: 'Keep the tail', fold: 'Seamless loop' };
const choices = <T extends string | number>(list: readonly T[], text: (value: T) => string) =>
  list.map((value) => ({ value: String(value), text: text(value) }));

/** What was chosen, as far as this part has it: a choice that is remembered may be of another. */
function whatOf(part: Part, { audioWhat, audioRow }: AudioOptions): Pick<AudioOptions, 'audioWhat' | 'audioRow'> {
  const what = audioWhat === 'breaks' && !part.breaks ? 'mix' : audioWhat;
  return { audioWhat: what, audioRow: what === 'mix' && part.rows.some((r) => r.voice === audioRow) ? audioRow : '' };
}

const nameOf = (part: Part, bars: number, name = part.name): string =>
  soundName(name, { bpm: startTempo(part), bars, kit: part.ownKit?.name ?? kitOf(part) });

function Options({
  source: { part },
  options,
  onChange,
}: Parameters<NonNullable<Extract<ExporterSpec<AudioOptions>['Options'], (...given: never[]) => unknown>>>[0]) {
  const { audioWhat, audioRow } = whatOf(part, options);
  const silence = audioRow === '' ? silenceWords(part) : null;
  return (
    <>
      <p>
        As{' '}
        <Picker
          label="What of the sound"
          value={audioWhat}
          choices={[
            { value: 'mix', text: 'one file' },
            { value: 'rows', text: 'stems (one file per row), in a zip' },
            ...(part.breaks ? [{ value: 'breaks', text: 'the breaks and the rest, a file each' }] : []),
          ]}
          onChange={(v) => onChange({ audioWhat: v as AudioOptions['audioWhat'] })}
        />
        , hits{' '}
        <Picker
          label="Version of the sound"
          value={options.audioVersion}
          choices={[
            { value: 'performed', text: 'as performed' },
            { value: 'written', text: 'as written' },
          ]}
          onChange={(v) => onChange({ audioVersion: v as AudioOptions['audioVersion'] })}
        />
      </p>
      {audioWhat === 'mix' && (
        <p>
          With{' '}
          <Picker
            label="Row of the sound"
            value={audioRow || 'all'}
            choices={[
              { value: 'all', text: 'all rows that are heard' },
              ...part.rows.map((r) => ({ value: r.voice, text: `the row ${labelOfRow(part, r.voice).toLowerCase()} alone` })),
            ]}
            onChange={(v) => onChange({ audioRow: v === 'all' ? '' : v })}
          />
        </p>
      )}
      {silence && <p className="text-sm text-faint">{silence}</p>}
      <StretchChoice part={part} stretch={options.stretch} onChange={(stretch) => onChange({ stretch })} />
      {options.stretch === 'bars' && <BarsChoice bars={part.bars} options={options} onChange={onChange} />}
      <p>
        End of the file{' '}
        <Picker
          label="At the end"
          value={options.ending}
          choices={choices(ENDINGS, (e) => ENDING_WORDS[e])}
          onChange={(v) => onChange({ ending: v as Ending })}
        />
      </p>
      <p>
        WAV at{' '}
        <Picker
          label="Rate"
          value={String(options.rate)}
          choices={choices(RATES, (r) => `${r / 1000} kHz`)}
          onChange={(v) => onChange({ rate: Number(v) })}
        />
        ,{' '}
        <Picker
          label="Bits"
          value={options.bits}
          choices={choices(BITS, (b) => BIT_WORDS[b])}
          onChange={(v) => onChange({ bits: v as Bits })}
        />
      </p>
      {audioWhat === 'breaks' && (
        <p className="text-sm text-faint">Both files bypass the limiter; mixed together they match the mix before the limiter.</p>
      )}
      {audioWhat === 'rows' && (
        <p className="text-sm text-faint">
          Each row is exported dry and without the limiter, and the room as a separate file. Mixed together they match the mix before the
          limiter.
        </p>
      )}
    </>
  );
}

export const audio: ExporterSpec<AudioOptions> = {
  id: 'audio',
  title: 'the sound',
  about: 'as WAV, just as it is heard',
  isAvailable: ({ part }) => part.hits.length > 0,
  refusal: ({ part }, options) => {
    const audible = audibleVoices(part);
    return whatOf(part, options).audioRow === '' && !part.hits.some((h) => audible.has(h.voice))
      ? 'No row with hits can be heard: every one is muted, or another row is soloed.'
      : null;
  },
  initial: ({ part }) => ({
    audioRow: '',
    audioWhat: 'mix',
    audioVersion: 'performed',
    rate: 48_000,
    bits: '24',
    fromBar: 1,
    toBar: part.bars,
    ending: part.order ? 'ring' : 'fold',
    passes: 1,
    stretch: part.order ? 'order' : 'bars',
  }),
  Options,
  async run({ part }, options, job) {
    const { audioWhat, audioRow } = whatOf(part, options);
    const sounds = soundsUsed(part);
    const wish: Omit<RenderWish, 'from' | 'to' | 'passes' | 'ending'> = {
      part,
      sounds,
      samples: await recordingsOf(sounds),
      recordings: await breakRecordings(part),
      rate: options.rate,
      bits: options.bits,
      written: options.audioVersion === 'written',
      split: audioWhat === 'rows',
      ...(audioRow ? { rows: [audioRow] } : {}),
    };
    if (options.stretch === 'sections' && part.sections) return sectionsOf(part.sections, wish, options, job);
    const ofBars = options.stretch === 'bars';
    const { fromBar, toBar, passes, ending, rate } = options;
    if (audioWhat === 'breaks') return breaksApart(wish, options, job);
    const made = await renderAudio(
      { ...wish, ending, passes: ofBars ? passes : 1, ...(ofBars ? { from: fromBar - 1, to: toBar } : { order: true }) },
      job.onProgress,
      job.signal,
    );
    const some = ofBars && (fromBar > 1 || toBar < part.bars) ? ` bars ${fromBar}-${toBar}` : '';
    const name = nameOf(
      part,
      barsOf(part, options),
      `${part.name}${some}${audioRow ? ` ${labelOfRow(part, audioRow).toLowerCase()}` : ''}`,
    );
    const said = [...accountOf(made, part, rate), ...drawnWords(part, !ofBars || passes > 1)];
    if (audioWhat === 'mix') return { data: made.files[0]?.bytes ?? new Uint8Array(), fileName: `${name}.wav`, type: 'audio/wav', said };
    const names = new Set<string>();
    return zipped(
      made.files.map(({ name: row, bytes }) => [
        `${uniqueName(`${name} ${row === 'room' ? 'room' : plainName(labelOfRow(part, row).toLowerCase())}`, names)}.wav`,
        bytes,
      ]),
      `${name} rows.zip`,
      [`Wrote ${made.files.length} files of equal length.`, ...said.slice(1)],
    );
  },
};

/** How many bars are written. */
const barsOf = (part: Part, { stretch, fromBar, toBar, passes }: Pick<AudioOptions, 'stretch' | 'fromBar' | 'toBar' | 'passes'>): number =>
  stretch === 'bars' ? (Math.min(toBar, part.bars) - fromBar + 1) * passes : roundsOfOrder(part).reduce((sum, r) => sum + r.to - r.from, 0);

/** Files of sound in a zip, which hardly shrink. */
async function zipped(files: readonly (readonly [string, Uint8Array])[], fileName: string, said: readonly string[]): Promise<Exported> {
  const { zipSync } = await import('fflate');
  return {
    data: zipSync(Object.fromEntries(files.map(([name, bytes]) => [name, [bytes, { level: 0 }] as const]))),
    fileName,
    type: 'application/zip',
    said,
  };
}

/** The rows of breaks as one file, all others as another. */
async function breaksApart(
  wish: Omit<RenderWish, 'from' | 'to' | 'passes' | 'ending'>,
  { stretch, fromBar, toBar, passes, ending, rate }: AudioOptions,
  { onProgress, signal }: Job,
): Promise<Exported> {
  const { part } = wish;
  const base = nameOf(part, barsOf(part, { stretch, fromBar, toBar, passes }));
  const audible = audibleVoices(part);
  const heard = part.rows.map((r) => r.voice).filter((row) => audible.has(row));
  const ofBreaks = heard.filter((row) => breakOfRow(part, row));
  const groups = (
    [
      ['breaks', ofBreaks],
      ['rest', heard.filter((row) => !ofBreaks.includes(row))],
    ] as const
  ).filter(([, rows]) => rows.length > 0);
  const files: [string, Uint8Array][] = [];
  let said: string[] = [];
  for (const [i, [name, rows]] of groups.entries()) {
    const made = await renderAudio(
      {
        ...wish,
        rows,
        ending,
        passes: stretch === 'bars' ? passes : 1,
        ...(stretch === 'bars' ? { from: fromBar - 1, to: toBar } : { order: true }),
      },
      (done) => onProgress((i + done) / groups.length),
      signal,
    );
    files.push([`${base} ${name}.wav`, made.files[0]?.bytes ?? new Uint8Array()]);
    said = accountOf({ ...made, account: { ...made.account, silent: [] } }, part, rate).slice(1);
  }
  return zipped(files, `${base} breaks.zip`, [
    `Wrote ${counted(files.length, 'file')}: ${groups.map(([name]) => name).join(' and ')}.`,
    ...said,
  ]);
}

/** Each section as a file, or its rows as files in a folder of its own. */
async function sectionsOf(
  sections: readonly Section[],
  wish: Omit<RenderWish, 'from' | 'to' | 'passes' | 'ending'>,
  { ending }: AudioOptions,
  { onProgress, signal }: Job,
): Promise<Exported> {
  const names = new Set<string>();
  const files: [string, Uint8Array][] = [];
  for (const [i, section] of sections.entries()) {
    const made = await renderAudio(
      { ...wish, ending, passes: 1, rounds: [roundOfSection(section)] },
      (done) => onProgress((i + done) / sections.length),
      signal,
    );
    const name = uniqueName(nameOf(wish.part, section.bars, section.name), names);
    const rows = new Set<string>();
    for (const { name: row, bytes } of made.files)
      files.push([
        wish.split
          ? `${name}/${uniqueName(row === 'room' ? 'room' : plainName(labelOfRow(wish.part, row).toLowerCase()), rows)}.wav`
          : `${name}.wav`,
        bytes,
      ]);
  }
  return zipped(files, `${plainName(wish.part.name)} sections.zip`, [
    `Wrote ${counted(sections.length, 'section')} as ${counted(files.length, 'file')}.`,
  ]);
}

function accountOf({ account: { silent, early, missing }, seconds, files }: RenderedFiles, part: Part, rate: number): string[] {
  return [
    `Wrote ${seconds.toFixed(2)} s of sound at ${rate / 1000} kHz${files.length > 1 ? `, ${files.length} files` : ''}.`,
    ...(silent.length > 0 ? [`Left out, since they are not heard: ${namesOf(part, silent)}.`] : []),
    ...missing.map(({ row, name }) => `${labelOfRow(part, row)}: ${name} is not here, so the kit plays it.`),
    ...(early > 0
      ? [
          `${counted(early, 'hit is', 'hits are')} performed before the first bar line: moved to the start, or to the end of a seamless loop.`,
        ]
      : []),
  ];
}
