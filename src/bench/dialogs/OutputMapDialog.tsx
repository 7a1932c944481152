'use client';

import { useEffect, useState } from 'react';
import { breakOfRow } from '@/core/breaks/rows';
import { changeOutputMap, setOutputMap, setOutputChannel, setOutputKey, outputMapOf } from '@/core/commands/output-map';
import { NO_TARGET, TARGET, USUAL_NOTE_MS, type OutputMap } from '@/core/model/output-map';
import { labelOfRow } from '@/core/part/rows';
import type { VoiceName } from '@/core/row-names';
import { channelFor, keysOfRows } from '@/core/output-map/leaving';
import { READY_TARGETS } from '@/core/output-map/ready';
import { TARGET_FILE_ENDING, writeOutputMapFile } from '@/formats/output-map-format';
import { outputMapStore } from '@/storage/output-map-store';
import { useStored } from '@/storage/use-stored';
import { Button } from '@/ui/Button';
import type { LibraryItem } from '@/ui/KeptList';
import { LibraryDialog, type LibraryUse } from '@/ui/LibraryDialog';
import { NumberField } from '@/ui/NumberField';
import { Picker } from '@/ui/Picker';
import { useRecording } from '../recording/context';
import { useBench, useBenchStore } from '../store/context';
import { useSweep } from '../store/use-sweep';
import { CurveFields } from './CurveFields';
import { KeySides } from './KeySides';

type Item = OutputMap & LibraryItem;

const narrow = '[&_input]:w-[3em]';
const KEYS_WORDS = { hits: 'the hits’ own', 'general-midi': 'General MIDI', chromatic: 'one after another', rows: 'as listed' } as const;

const aboutOf = ({ keys, channel, tracks }: OutputMap): string =>
  `keys ${KEYS_WORDS[keys.kind]}, channel ${channel}${tracks === 'rows' ? ', one track per row' : ''}`;
const itemOf = (target: OutputMap): Item => ({ ...target, about: aboutOf(target) });
const targetOfItem = ({ about: _, ...target }: Item): OutputMap => target;
const OURS = [NO_TARGET, ...READY_TARGETS].map(itemOf);

/** How a part's strokes leave for another instrument: chosen, learnt by striking, kept for every part. */
export default function TargetDialog() {
  const { getState } = useBenchStore();
  const part = useBench((s) => s.part);
  const target = outputMapOf(part);
  const own = useStored(() => outputMapStore.list().catch(() => []), []) ?? [];
  const uses: readonly LibraryUse<Item>[] = [
    {
      word: 'use',
      label: (name) => `use the output map ${name}`,
      run: (item) => getState().run(`Use the output map ${item.name}`, (p) => setOutputMap(p, targetOfItem(item))),
    },
  ];
  return (
    <LibraryDialog<Item>
      title={`Output map: ${target.name}`}
      about="Which keys, channels and velocities go to another instrument. MIDI out and every MIDI export use it; the written hits do not change."
      what="output map"
      ours={OURS}
      own={own.map(itemOf)}
      uses={uses}
      name={target.name}
      canKeep={part.target !== undefined}
      keep={async (name) => {
        await outputMapStore.save({ ...target, name });
        getState().run(`Name the output map ${name}`, (p) => setOutputMap(p, { ...target, name }));
      }}
      rename={(item, name) => outputMapStore.rename(targetOfItem(item), name)}
      remove={(item) => outputMapStore.remove(targetOfItem(item))}
      file={(item, name) => ({ text: writeOutputMapFile({ ...(item ? targetOfItem(item) : target), name }), ending: TARGET_FILE_ENDING })}
      onClose={() => getState().setUi({ dialog: null })}
    >
      <KeySides side="target" />
      <Settings target={target} />
      <Keys target={target} />
    </LibraryDialog>
  );
}

function Settings({ target }: { target: OutputMap }) {
  const { getState } = useBenchStore();
  const sweep = useSweep();
  const sweepBy = (change: Partial<OutputMap>) => sweep.show('Change the output map', (p) => changeOutputMap(p, change));
  const change = (next: Partial<OutputMap>) => getState().run('Change the output map', (p) => changeOutputMap(p, next));
  const { keys, noteMs } = target;
  const choose = (kind: string) => {
    if (kind === 'rows')
      getState().run('List the output map’s keys', (p) => changeOutputMap(p, { keys: { kind, rows: keysOfRows(p, outputMapOf(p)) } }));
    else if (kind === 'chromatic') change({ keys: { kind, from: 36 } });
    else if (kind === 'hits' || kind === 'general-midi') change({ keys: { kind } });
  };
  return (
    <div className="flex flex-wrap items-baseline gap-x-3 leading-8">
      <span>
        keys{' '}
        <Picker
          label="Keys of the output map"
          value={keys.kind}
          choices={Object.entries(KEYS_WORDS).map(([value, text]) => ({ value, text }))}
          onChange={choose}
        />
      </span>
      {keys.kind === 'chromatic' && (
        <NumberField
          label="First key"
          value={keys.from}
          min={TARGET.from.min}
          max={TARGET.from.max}
          unit="and up, from the lowest row"
          default={36}
          className={narrow}
          onChange={(from) => sweepBy({ keys: { kind: 'chromatic', from } })}
          onDone={sweep.done}
        />
      )}
      <NumberField
        label="Channel"
        value={target.channel}
        min={TARGET.channel.min}
        max={TARGET.channel.max}
        unit="channel"
        default={10}
        className={narrow}
        onChange={(channel) => sweepBy({ channel })}
        onDone={sweep.done}
      />
      <NumberField
        label="Offset"
        value={target.offsetMs}
        min={TARGET.offsetMs.min}
        max={TARGET.offsetMs.max}
        digits={1}
        unit={target.offsetMs < 0 ? 'ms earlier' : 'ms later'}
        default={0}
        className={narrow}
        onChange={(offsetMs) => sweepBy({ offsetMs })}
        onDone={sweep.done}
      />
      <CurveFields curve={target.curve} what="sent" onChange={(curve) => sweepBy({ curve })} onDone={sweep.done} />
      <span>
        notes last{' '}
        <Picker
          label="Length of notes"
          value={noteMs === null ? 'written' : 'fixed'}
          choices={[
            { value: 'written', text: 'as written' },
            { value: 'fixed', text: 'always the same' },
          ]}
          onChange={(v) => change({ noteMs: v === 'fixed' ? USUAL_NOTE_MS : null })}
        />
      </span>
      {noteMs !== null && (
        <NumberField
          label="Every note"
          value={noteMs}
          min={TARGET.noteMs.min}
          max={TARGET.noteMs.max}
          unit="ms"
          default={USUAL_NOTE_MS}
          className={narrow}
          onChange={(ms) => sweepBy({ noteMs: ms })}
          onDone={sweep.done}
        />
      )}
      <span>
        hat openness and position{' '}
        <Picker
          label="Hat openness and position"
          value={target.articulation ?? 'controllers'}
          choices={[
            { value: 'controllers', text: 'as controllers 4 and 16' },
            { value: 'keys', text: 'as keys: closed, half open, open' },
          ]}
          onChange={(v) => change({ articulation: v as NonNullable<OutputMap['articulation']> })}
        />
      </span>
      <span>
        in{' '}
        <Picker
          label="Tracks"
          value={target.tracks}
          choices={[
            { value: 'one', text: 'one track' },
            { value: 'rows', text: 'one track per row' },
          ]}
          onChange={(v) => change({ tracks: v as OutputMap['tracks'] })}
        />
      </span>
    </div>
  );
}

/** Each row with its key and channel: typed, or learnt by striking the receiver's pads one after another. */
function Keys({ target }: { target: OutputMap }) {
  const part = useBench((s) => s.part);
  const keys = keysOfRows(part, target);
  const rows = part.rows.map((r) => r.voice).filter((voice) => !breakOfRow(part, voice));
  const sweep = useSweep();
  const [learning, learn] = useLearning(rows);
  return (
    <>
      <p className="mt-2 flex flex-wrap items-baseline gap-2">
        {learning === null ? (
          <Button size="small" disabled={rows.length === 0} onClick={() => learn(0)}>
            Learn by striking
          </Button>
        ) : (
          <>
            <span role="status">Strike {labelOfRow(part, rows[learning] as string).toLowerCase()} …</span>
            <Button size="small" onClick={() => learn(learning + 1)}>
              Skip
            </Button>
            <Button size="small" onClick={() => learn(null)}>
              Enough
            </Button>
          </>
        )}
      </p>
      <div className="mt-1 max-h-56 overflow-auto" tabIndex={0} aria-label="Keys of the output map by row">
        <table className="w-full">
          <thead className="text-left text-sm text-faint">
            <tr>
              <th className="font-normal">Row</th>
              <th className="font-normal">plays key</th>
              <th className="font-normal">on channel</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row, i) => (
              <tr key={row} className={`border-t border-line ${i === learning ? 'bg-sunk' : ''}`}>
                <td className="py-1">{labelOfRow(part, row)}</td>
                <td>
                  <NumberField
                    label={`Key of ${labelOfRow(part, row).toLowerCase()}`}
                    value={keys[row] ?? 0}
                    min={0}
                    max={127}
                    unit=""
                    className={narrow}
                    onChange={(key) => sweep.show(`${labelOfRow(part, row)} plays key ${key}`, (p) => setOutputKey(p, row, key))}
                    onDone={sweep.done}
                  />
                </td>
                <td>
                  <NumberField
                    label={`Channel of ${labelOfRow(part, row).toLowerCase()}`}
                    value={channelFor(target, row)}
                    min={1}
                    max={16}
                    unit=""
                    default={target.channel}
                    className={narrow}
                    onChange={(n) =>
                      sweep.show(`${labelOfRow(part, row)} plays on channel ${n}`, (p) =>
                        setOutputChannel(p, row, n === outputMapOf(p).channel ? null : n),
                      )
                    }
                    onDone={sweep.done}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

/** Which row is asked for now; each strike names its key and asks for the next. */
function useLearning(rows: readonly VoiceName[]): [number | null, (next: number | null) => void] {
  const { recorder } = useRecording();
  const { getState } = useBenchStore();
  const [at, setAt] = useState<number | null>(null);
  const row = at === null ? undefined : rows[at];
  useEffect(() => {
    if (at === null || row === undefined) return;
    recorder.learnPad((key) => {
      getState().run(`${labelOfRow(getState().part, row)} plays key ${key}`, (p) => setOutputKey(p, row, key));
      setAt(at + 1 < rows.length ? at + 1 : null);
    });
    return () => recorder.learnPad(null);
  }, [at, row, rows.length, recorder, getState]);
  return [row === undefined ? null : at, (next) => setAt(next !== null && next < rows.length ? next : null)];
}
