'use client';

import { BITS, type Bits } from '@/core/audio/wav';
import { labelOfRow } from '@/core/part/rows';
import type { Part } from '@/core/model/part';
import { ENDINGS, type Ending } from '@/core/render/render-part';
import { recordingsOf, soundsUsed } from '@/sounds/used';
import { fileNameOf } from '@/ui/download';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { renderAudio } from '@/workers/clients';
import type { RenderedFiles } from '@/workers/render.worker';
import { namesOf } from './account';
import type { ExporterSpec } from './exporter';

/** What an audio file is made of. */
interface AudioOptions {
  audioWhat: 'mix' | 'rows';
  audioVersion: 'performed' | 'written';
  rate: number;
  bits: Bits;
  /** Bars as they are counted, from 1. */
  fromBar: number;
  toBar: number;
  ending: Ending;
  passes: number;
}

const RATES = [44_100, 48_000, 96_000];
const BIT_WORDS: Readonly<Record<Bits, string>> = { '16': '16 bits', '24': '24 bits', '32f': '32 bits, floating point' };
const ENDING_WORDS: Readonly<Record<Ending, string>> = { ring: 'rings out', fold: 'is laid over the start, as a loop' };
const choices = <T extends string | number>(list: readonly T[], text: (value: T) => string) => list.map((value) => ({ value: String(value), text: text(value) }));

function Options({ source: { part }, options, onChange }: Parameters<NonNullable<Extract<ExporterSpec<AudioOptions>['Options'], (...given: never[]) => unknown>>>[0]) {
  const bar = (label: string, value: number, min: number, set: (n: number) => void) => <NumberField label={label} value={value} min={min} max={part.bars} unit="" className="[&_input]:w-[2.8em]" onChange={set} />;
  return (
    <>
      <p>
        As <Picker label="What of the sound" value={options.audioWhat} choices={[{ value: 'mix', text: 'one file' }, { value: 'rows', text: 'a file for each row, in a zip' }]} onChange={(v) => onChange({ audioWhat: v as AudioOptions['audioWhat'] })} />, hits{' '}
        <Picker label="Version of the sound" value={options.audioVersion} choices={[{ value: 'performed', text: 'as performed' }, { value: 'written', text: 'as written' }]} onChange={(v) => onChange({ audioVersion: v as AudioOptions['audioVersion'] })} />
      </p>
      <p>
        Bars {bar('From bar', options.fromBar, 1, (n) => onChange({ fromBar: n, toBar: Math.max(n, options.toBar) }))} to {bar('To bar', options.toBar, options.fromBar, (n) => onChange({ toBar: n }))}, played{' '}
        <NumberField label="Times" value={options.passes} min={1} max={64} unit={options.passes === 1 ? 'time' : 'times'} className="[&_input]:w-[2.4em]" onChange={(passes) => onChange({ passes })} />
      </p>
      <p>
        What sounds at the end <Picker label="At the end" value={options.ending} choices={choices(ENDINGS, (e) => ENDING_WORDS[e])} onChange={(v) => onChange({ ending: v as Ending })} />
      </p>
      <p>
        WAV at <Picker label="Rate" value={String(options.rate)} choices={choices(RATES, (r) => `${r / 1000} kHz`)} onChange={(v) => onChange({ rate: Number(v) })} />, <Picker label="Bits" value={options.bits} choices={choices(BITS, (b) => BIT_WORDS[b])} onChange={(v) => onChange({ bits: v as Bits })} />
      </p>
      {options.audioWhat === 'rows' && <p className="text-sm text-faint">Rows come without limiter and dry, the room as a file of its own: together they are the mix before it is limited.</p>}
    </>
  );
}

export const audio: ExporterSpec<AudioOptions> = {
  id: 'audio',
  title: 'the sound',
  about: 'as WAV, just as it is heard',
  isAvailable: ({ part }) => part.hits.length > 0,
  initial: ({ part }) => ({ audioWhat: 'mix', audioVersion: 'performed', rate: 48_000, bits: '24', fromBar: 1, toBar: part.bars, ending: 'ring', passes: 1 }),
  Options,
  async run({ part }, { audioWhat, audioVersion, rate, bits, fromBar, toBar, ending, passes }, { onProgress, signal }) {
    const sounds = soundsUsed(part);
    const made = await renderAudio({ part, sounds, samples: await recordingsOf(sounds), rate, bits, from: fromBar - 1, to: toBar, ending, passes, written: audioVersion === 'written', split: audioWhat === 'rows' }, onProgress, signal);
    const name = `${fileNameOf(part.name)}${fromBar > 1 || toBar < part.bars ? `-bars-${fromBar}-${toBar}` : ''}`;
    const said = accountOf(made, part, rate);
    if (audioWhat === 'mix') return { data: made.files[0]?.bytes ?? new Uint8Array(), fileName: `${name}.wav`, type: 'audio/wav', said };
    const { zipSync } = await import('fflate');
    const names = new Set<string>();
    const entries = made.files.map(({ name: row, bytes }): [string, [Uint8Array, { level: 0 }]] => [`${name}-${unique(row === 'room' ? 'room' : fileNameOf(labelOfRow(part, row)), names)}.wav`, [bytes, { level: 0 }]]);
    return { data: zipSync(Object.fromEntries(entries)), fileName: `${name}-rows.zip`, type: 'application/zip', said: [`Wrote ${made.files.length} files of one length.`, ...said.slice(1)] };
  },
};

/** A name that no other file has. */
function unique(name: string, taken: Set<string>): string {
  let next = name;
  for (let n = 2; taken.has(next); n++) next = `${name}-${n}`;
  taken.add(next);
  return next;
}

function accountOf({ account: { silent, early, missing }, seconds, files }: RenderedFiles, part: Part, rate: number): string[] {
  return [
    `Wrote ${seconds.toFixed(2)} s of sound at ${rate / 1000} kHz${files.length > 1 ? `, ${files.length} files` : ''}.`,
    ...(silent.length > 0 ? [`Left out, since they are not heard: ${namesOf(part, silent)}.`] : []),
    ...missing.map(({ row, name }) => `${labelOfRow(part, row)}: ${name} is not here, so the kit plays it.`),
    ...(early > 0 ? [`${early} ${early === 1 ? 'hit is' : 'hits are'} performed before the first bar line: ${early === 1 ? 'it starts' : 'they start'} with it, in a loop at its end.`] : []),
  ];
}
