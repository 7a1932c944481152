'use client';

import { counted, plural } from '@/core/plurals';
import { useState, type ReactNode } from 'react';
import { keyInPart } from '@/core/commands/place';
import { anotherRow, giveInstrument, mergeRows, setRowKey, setRowVoice, withKeyFor } from '@/core/commands/rows';
import { setRow } from '@/core/commands/settings';
import { softEnd, softHits } from '@/core/commands/split-rows';
import { keyOfVoice } from '@/core/key-map';
import type { Part } from '@/core/model/part';
import { labelOfRow } from '@/core/part/rows';
import { isOwnRow, voiceOfRow } from '@/core/row-names';
import { labelOfVoice, VOICES } from '@/core/voices';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { doubleRow, toOwnRow } from '../actions/row-actions';
import { useBench, useBenchStore } from '../store/context';
import { rowChoices } from './row-choices';

/** What a row is: its instrument and key; what its hits can become: two rows, a layer, part of another row. */
export function RowDialog({ voice: row, onClose }: { voice: string; onClose: () => void }) {
  const store = useBenchStore();
  const { getState } = store;
  const part = useBench((s) => s.part);
  const label = labelOfRow(part, row);
  const low = label.toLowerCase();
  const hits = part.hits.filter((h) => h.voice === row);
  const keys = [...new Set(hits.map((h) => h.key))].sort((a, b) => a - b);
  const finish = (what: string, command: (p: Part) => Part) => {
    getState().run(what, command);
    onClose();
  };
  const props: LineProps = { part, row, label, low, keys, finish };
  const then = (run: () => void) => () => {
    onClose();
    run();
  };
  return (
    <Modal
      open
      onClose={onClose}
      title={label}
      about={`${counted(hits.length, 'hit')}${keys.length > 0 ? ` on ${plural(keys.length, 'key')} ${keys.join(', ')}` : ''}`}
    >
      <div className="space-y-5">
        <Group title="Instrument and key">
          {isOwnRow(row) ? <LikeLine {...props} /> : <InstrumentLine {...props} />}
          <KeyLine {...props} />
          <MeaningLine {...props} />
        </Group>
        {hits.length > 0 && (
          <Group title="Its hits">
            <SplitLine {...props} onSplit={(upTo) => then(() => toOwnRow(store, softHits(part, row, upTo)))()} />
            <LayerLine {...props} onLayer={(percent) => then(() => doubleRow(store, row, percent))()} />
            <JoinLine {...props} />
          </Group>
        )}
        <p className="text-sm text-faint">Keys are kept in the part’s drum map. One undo brings all back.</p>
      </div>
    </Modal>
  );
}

interface LineProps {
  part: Part;
  row: string;
  label: string;
  low: string;
  /** Keys of its hits. */
  keys: readonly number[];
  finish: (what: string, command: (p: Part) => Part) => void;
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="space-y-3">
      <h3 className="font-serif text-base">{title}</h3>
      {children}
    </section>
  );
}

/** A sentence with its button at the right, and what it means below. */
function Line({ button, about, children }: { button: ReactNode; about?: ReactNode; children: ReactNode }) {
  return (
    <div className="grid grid-cols-[1fr_auto] items-baseline gap-x-3 gap-y-0.5">
      <span>{children}</span>
      {button}
      {about && <p className="col-span-2 text-sm text-faint">{about}</p>}
    </div>
  );
}

/** What an own row sounds like until it has a sound of its own. */
function LikeLine({ part, row, low, finish }: LineProps) {
  const like = part.rows.find((r) => r.voice === row)?.like ?? '';
  return (
    <Line button={null} about="Used for playback here, and in exports that use General MIDI keys only.">
      It sounds like{' '}
      <Picker
        label="What it sounds like"
        value={like}
        placeholder="a wooden tick"
        choices={VOICES.map((v) => ({ value: v, text: labelOfVoice(v) }))}
        onChange={(v) => finish(`Let ${low} sound like ${labelOfVoice(v).toLowerCase()}`, (p) => setRow(p, row, { like: v }))}
      />
    </Line>
  );
}

function InstrumentLine({ part, row, low, keys, finish }: LineProps) {
  const now = voiceOfRow(row);
  const [instrument, setInstrument] = useState(now);
  const voices = VOICES.includes(now) ? VOICES : [now, ...VOICES];
  const name = labelOfVoice(instrument);
  const to = anotherRow(part, instrument);
  const key = keyOfVoice(withKeyFor({ ...part, hits: part.hits.filter((h) => h.voice !== row) }, to), to);
  const change =
    instrument === now
      ? 'It is heard as this and its MIDI key is written.'
      : `It is heard as ${name.toLowerCase()} and written with key ${key}${keys.length > 0 ? ` instead of ${keys.join(', ')}` : ''}.${to !== instrument ? ` The part has a ${name.toLowerCase()} already: this row becomes ${labelOfVoice(to)}.` : ''}`;
  return (
    <Line
      button={
        <Button
          disabled={instrument === now}
          onClick={() => finish(`Play ${low} with ${name.toLowerCase()}`, (p) => giveInstrument(p, row, instrument).part)}
        >
          Change instrument
        </Button>
      }
      about={change}
    >
      Play it with{' '}
      <Picker
        label="Play it with"
        value={instrument}
        choices={voices.map((v) => ({ value: v, text: labelOfVoice(v) }))}
        onChange={setInstrument}
      />
    </Line>
  );
}

function KeyLine({ part, row, low, finish }: LineProps) {
  const [key, setKey] = useState(() => keyInPart(part, row));
  const taken = part.hits.find((h) => h.key === key && h.voice !== row)?.voice;
  return (
    <Line
      button={<Button onClick={() => finish(`Give ${low} key ${key}`, (p) => setRowKey(p, row, key))}>Set the key</Button>}
      about={
        taken ? (
          <span className="text-danger">
            Key {key} plays {labelOfRow(part, taken).toLowerCase()} now: both rows would share it in a file.
          </span>
        ) : (
          'Only the key that is written changes; it is heard as before.'
        )
      }
    >
      Its hits are written with MIDI key{' '}
      <NumberField label="MIDI key" value={key} min={0} max={127} unit="" className="[&_input]:w-[3em]" onChange={setKey} />
    </Line>
  );
}

function MeaningLine({ part, row, low, keys, finish }: LineProps) {
  const [real, setReal] = useState(row);
  const meant = labelOfRow(part, real).toLowerCase();
  return (
    <Line
      button={
        <Button disabled={real === row} onClick={() => finish(`Read ${low} as ${meant}`, (p) => setRowVoice(p, row, real))}>
          Correct the name
        </Button>
      }
      about="For a file that was read wrongly: the key stays, other programs play it as before."
    >
      {keys.length > 1 ? `Keys ${keys.join(', ')} mean` : `Key ${keys[0] ?? keyInPart(part, row)} means`}{' '}
      <Picker label="The key means" value={real} choices={rowChoices(part, row)} onChange={setReal} />
    </Line>
  );
}

function SplitLine({ part, row, onSplit }: LineProps & { onSplit: (upTo: number) => void }) {
  const [upTo, setUpTo] = useState(() => softEnd(part, row));
  const soft = softHits(part, row, upTo).size;
  const all = part.hits.filter((h) => h.voice === row).length;
  return (
    <Line
      button={
        <Button disabled={soft === 0 || soft === all} onClick={() => onSplit(upTo)}>
          Split the row
        </Button>
      }
      about={`${soft} of ${counted(all, 'hit')} will move to a new row; the rest stay in ${labelOfRow(part, row)}.`}
    >
      Hits of velocity up to{' '}
      <NumberField label="Velocity up to" value={upTo} min={1} max={126} unit="" className="[&_input]:w-[3em]" onChange={setUpTo} /> apart
    </Line>
  );
}

function LayerLine({ low, onLayer }: LineProps & { onLayer: (percent: number) => void }) {
  const [percent, setPercent] = useState(70);
  return (
    <Line
      button={<Button onClick={() => onLayer(percent)}>Double it</Button>}
      about={`Copies every hit to a new row. You can change its instrument, mute it and move it independently of ${low}.`}
    >
      A layer at{' '}
      <NumberField
        label="Level of the layer"
        value={percent}
        min={1}
        max={200}
        unit="%"
        className="[&_input]:w-[3.2em]"
        onChange={setPercent}
      />{' '}
      of the velocities
    </Line>
  );
}

function JoinLine({ part, row, low, finish }: LineProps) {
  const others = part.rows.filter((r) => r.voice !== row).map((r) => r.voice);
  const [into, setInto] = useState(others[0] ?? row);
  if (others.length === 0) return null;
  return (
    <Line
      button={
        <Button onClick={() => finish(`Merge ${low} into ${labelOfRow(part, into).toLowerCase()}`, (p) => mergeRows(p, row, into))}>
          Merge
        </Button>
      }
      about="Its hits get that row’s instrument and key."
    >
      Merge it with{' '}
      <Picker label="Merge with" value={into} choices={others.map((v) => ({ value: v, text: labelOfRow(part, v) }))} onChange={setInto} />
    </Line>
  );
}
