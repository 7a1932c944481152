'use client';

import { useState } from 'react';
import { convertToPlain, countNotPlain, kindsWith, NOT_PLAIN, type NotPlain, type NotPlainCounts } from '@/core/commands/plain-hits';
import type { HitId, Part } from '@/core/model/part';
import { isNamedError } from '@/core/errors';
import { lockTest } from '@/core/part/locks';
import { labelOfRow } from '@/core/part/rows';
import { counted } from '@/core/plurals';
import { newHitId } from '@/editing/ids';
import { Button } from '@/ui/Button';
import { Modal } from '@/ui/Modal';
import { say } from '@/ui/notify';
import { Picker } from '@/ui/Picker';
import { useBench, useBenchStore } from '../../store/context';
import type { BenchState } from '../../store/bench-store';
import { describeHits } from '../../words/describe';

type Where = 'selection' | 'row' | 'part';

/** The hits of a place; undefined for all. */
const idsIn = (
  where: Where,
  { part, selection, focus }: Pick<BenchState, 'part' | 'selection' | 'focus'>,
): ReadonlySet<HitId> | undefined =>
  where === 'part' ? undefined : where === 'selection' ? selection : new Set(part.hits.filter((h) => h.voice === focus).map((h) => h.id));

const LINES: Readonly<Record<NotPlain, { what: (n: number) => string; becomes: string }>> = {
  loops: {
    what: (n) => `The loop length of ${counted(n, 'row')}`,
    becomes: 'Every repeat is written as hits up to the end of its section.',
  },
  passes: {
    what: (n) => counted(n, 'hit that sounds in some passes only', 'hits that sound in some passes only'),
    becomes: 'Hits that sound in pass 1 stay; the others are deleted.',
  },
  probability: {
    what: (n) => counted(n, 'hit with a probability', 'hits with a probability'),
    becomes: 'Hits that sound in pass 1 stay; the others are deleted.',
  },
  ornaments: { what: (n) => counted(n, 'ornament'), becomes: 'Every stroke becomes a hit.' },
  feel: {
    what: (n) => `The feel, with ${counted(n, 'move')}`,
    becomes: 'What you hear is written. This converts everything else as well.',
  },
};

/** Whether anything can be converted. */
const hasMore = (counts: NotPlainCounts): boolean => NOT_PLAIN.some((kind) => counts[kind] > 0);

/** Asks what to convert and where, and converts it in one undo step. */
function ConvertDialog({ start }: { start?: Where }) {
  const { getState } = useBenchStore();
  const part = useBench((s) => s.part);
  const selection = useBench((s) => s.selection);
  const focus = useBench((s) => s.focus);
  const [where, setWhere] = useState<Where>(() => start ?? (hasMore(countNotPlain(part, selection)) ? 'selection' : 'part'));
  const [off, setOff] = useState<ReadonlySet<NotPlain>>(new Set(['feel']));
  const ids = idsIn(where, { part, selection, focus });
  const counts = countNotPlain(part, ids);
  const offered = NOT_PLAIN.filter((kind) => counts[kind] > 0);
  const locked = part.hits.filter(lockTest(part)).length;
  const chosen = kindsWith(new Set(offered.filter((kind) => !off.has(kind) && !(kind === 'feel' && locked > 0))));
  const close = () => getState().setUi({ dialog: null });
  const convert = () => {
    close();
    const now = getState();
    const said = convertIn(now.part, chosen, idsIn(where, now), (done) =>
      now.run(
        `Convert ${whereWords(where, now)} to plain hits`,
        () => done.part,
        () => done.ids,
      ),
    );
    say(said);
  };
  return (
    <Modal open onClose={close} title="Convert to plain hits" about="It sounds the same. One undo brings everything back.">
      <Picker
        label="Where to convert"
        value={where}
        choices={[
          ...(selection.size > 0 ? [{ value: 'selection', text: describeHits(part, selection) }] : []),
          ...(focus ? [{ value: 'row', text: `row ${labelOfRow(part, focus).toLowerCase()}` }] : []),
          { value: 'part', text: 'whole part' },
        ]}
        onChange={(next) => setWhere(next as Where)}
      />
      {offered.length === 0 ? (
        <p className="mt-3">{nothingThere(where, part)}</p>
      ) : (
        <fieldset className="mt-3 space-y-2">
          <legend className="sr-only">What to convert</legend>
          {offered.map((kind) => (
            <Line
              key={kind}
              kind={kind}
              counts={counts}
              checked={chosen.has(kind)}
              // The feel takes the others along.
              disabled={kind === 'feel' ? locked > 0 : chosen.has('feel')}
              note={kind === 'feel' && locked > 0 ? `Unlock ${counted(locked, 'hit')} first: the feel acts on locked hits too.` : undefined}
              onChange={(on) => setOff(on ? new Set([...off].filter((k) => k !== kind)) : new Set([...off, kind]))}
            />
          ))}
        </fieldset>
      )}
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={close}>Cancel</Button>
        <Button look="strong" disabled={chosen.size === 0} onClick={convert}>
          Convert
        </Button>
      </div>
    </Modal>
  );
}

function Line({
  kind,
  counts,
  checked,
  disabled,
  note,
  onChange,
}: {
  kind: NotPlain;
  counts: NotPlainCounts;
  checked: boolean;
  disabled: boolean;
  /** Stands in place of what it becomes. */
  note: string | undefined;
  onChange: (on: boolean) => void;
}) {
  const { what, becomes } = LINES[kind];
  return (
    <label className="flex items-baseline gap-2">
      <input
        type="checkbox"
        className="accent-accent translate-y-0.5"
        checked={checked}
        disabled={disabled}
        onChange={(e) => onChange(e.target.checked)}
      />
      <span>
        {what(counts[kind])}
        <span className="block text-sm text-faint">{note ?? becomes}</span>
      </span>
    </label>
  );
}

const whereWords = (where: Where, { part, selection, focus }: Pick<BenchState, 'part' | 'selection' | 'focus'>): string =>
  where === 'selection' ? describeHits(part, selection) : where === 'row' && focus ? labelOfRow(part, focus).toLowerCase() : 'the part';

const nothingThere = (where: Where, part: Part): string =>
  where === 'part' || countNotPlain(part).feel === 0
    ? 'These are plain hits already: no loop lengths, passes, probabilities or ornaments.'
    : 'These are plain hits already. The feel acts on every row, so it is converted for the whole part only.';

/** Converts, hands what came of it to `keep`, and returns what to say. */
function convertIn(
  part: Part,
  kinds: ReadonlySet<NotPlain>,
  ids: ReadonlySet<HitId> | undefined,
  keep: (done: { part: Part; ids: readonly HitId[] }) => void,
): string {
  try {
    const done = convertToPlain(part, kinds, newHitId, ids);
    if (done.ids.length === 0 && done.removed === 0) return 'Nothing changed: these hits, or others on their row, are locked.';
    keep(done);
    const deleted = done.removed > 0 ? ` Deleted ${counted(done.removed, 'hit')} that did not sound in pass 1.` : '';
    return `Converted to ${counted(done.ids.length, 'plain hit')}.${deleted}`;
  } catch (e) {
    if (!isNamedError(e)) throw e;
    return 'Nothing changed: the part would have more than 160,000 hits. Convert a section or a row at a time.';
  }
}

export const ConvertHits = () => <ConvertDialog />;
/** Opened from a row's menu. */
export const ConvertRow = () => <ConvertDialog start="row" />;
