'use client';

import { counted, plural } from '@/core/plurals';
import { newHitId } from '@/editing/ids';
import { useEffect, useState } from 'react';
import { deleteBars, doublePart, hitsBehind, insertBars, moveBars, repeatBars, setLength } from '@/core/commands/bars';
import { copyBarsOver } from '@/core/commands/excerpt';
import { homesOf } from '@/core/homes/homes';
import type { Part } from '@/core/model/part';
import { hitsInRange, rangeOfBars } from '@/core/homes/ticks-range';
import { labelOfRow } from '@/core/part/rows';
import { songBarsText } from '@/core/smf/song-bars';
import { partStore } from '@/storage/part-store';
import { Button } from '@/ui/Button';
import { NumberField } from '@/ui/NumberField';
import { showError } from '@/ui/notify';
import { Section } from '@/ui/Section';
import { barsOfSongIn } from '@/workers/clients';
import { barsText } from '../../actions/arrange';
import { revealBar } from '../../actions/view-control';
import { placeText } from '../../words/describe';
import { useBench, useBenchStore } from '../../store/context';
import { stemsFacts } from '../../store/stems-facts';
import { calmPart } from '../../store/derived';

const MOST_LISTED = 4;

/** The chosen bars are the loop's: they are marked on the phrase strip. */
export function OrderSection() {
  const store = useBenchStore();
  const part = useBench(calmPart);
  const from = useBench((s) => s.transport.fromBar);
  const to = useBench((s) => s.transport.toBar);
  const [wanted, setWanted] = useState<number | null>(null);
  const [empty, setEmpty] = useState(1);
  const [over, setOver] = useState(Math.min(to + 1, part.bars));
  const chosen = barsText({ from, to });
  const { getState } = store;
  const setLoop = (fromBar: number, toBar: number) => getState().setTransport({ loop: true, fromBar, toBar });

  /** Runs a change of bars; the loop goes where the chosen bars went. */
  const arrange = (label: string, command: (p: Part) => Part, loop?: [number, number]) => {
    const { bars } = getState().part;
    getState().run(label, command);
    if (loop) setLoop(Math.max(0, loop[0]), Math.min(getState().part.bars, loop[1]));
    // Bars at the end that the loop did not move to are shown, too.
    if (getState().part.bars > bars && (!loop || loop[0] === from)) revealBar(store, bars, stemsFacts(store).width);
  };
  const count = to - from;
  const covered = hitsInRange(part, rangeOfBars(part, over - 1, Math.min(part.bars, over - 1 + count))).size;
  const lost = wanted !== null && wanted < part.bars ? hitsBehind(part, wanted) : null;
  const length = (bars: number) => {
    if (bars >= part.bars || hitsBehind(part, bars).size === 0) {
      setWanted(null);
      arrange(`Make the part ${counted(bars, 'bar')} long`, (p) => setLength(p, bars));
    } else setWanted(bars);
  };
  return (
    <Section name="order" title="Length and order" note={`${part.bars} in the part`}>
      <div className="flex flex-wrap items-baseline gap-2 leading-8">
        <NumberField
          label="Length"
          showLabel
          value={wanted ?? part.bars}
          min={1}
          max={999}
          unit="bars"
          className="[&_input]:w-[3em]"
          onChange={length}
        />
        <Button
          size="small"
          onClick={() =>
            arrange('Double the part', (p) => doublePart(p, newHitId), from === 0 && to === part.bars ? [0, 2 * part.bars] : [from, to])
          }
        >
          Double it
        </Button>
      </div>
      {lost && wanted !== null && (
        <div role="alertdialog" aria-label="Hits outside" className="my-2 rounded-md border border-danger p-3" data-testid="outside">
          <p>
            {lost.size} {plural(lost.size, 'hit falls', 'hits fall')} outside {wanted} {plural(wanted, 'bar')}: {listed(part, lost)}. They
            are kept until you confirm.
          </p>
          <div className="mt-2 flex gap-2">
            <Button
              size="small"
              look="danger"
              onClick={() => {
                setWanted(null);
                arrange(`Shorten to ${wanted} bars, without ${counted(lost.size, 'hit')}`, (p) => setLength(p, wanted));
              }}
            >
              Shorten and delete them
            </Button>
            <Button size="small" onClick={() => setWanted(null)}>
              Keep {part.bars} bars
            </Button>
          </div>
        </div>
      )}
      <SongBars />
      <div className="flex flex-wrap items-baseline gap-1 leading-8">
        Chosen: bars{' '}
        <NumberField
          label="First chosen bar"
          value={from + 1}
          min={1}
          max={part.bars}
          unit="to"
          className="[&_input]:w-[2.4em]"
          onChange={(v) => setLoop(v - 1, Math.max(to, v))}
        />
        <NumberField
          label="Last chosen bar"
          value={to}
          min={1}
          max={part.bars}
          unit=""
          className="[&_input]:w-[2.4em]"
          onChange={(v) => setLoop(Math.min(from, v - 1), v)}
        />
      </div>
      <div className="flex flex-wrap gap-1" role="group" aria-label={`With ${chosen}`}>
        <Button size="small" onClick={() => getState().select(hitsInRange(part, rangeOfBars(part, from, to)))}>
          Select
        </Button>
        <Button size="small" onClick={() => arrange(`Repeat ${chosen}`, (p) => repeatBars(p, from, to, newHitId), [to, to + count])}>
          Repeat after
        </Button>
        <Button
          size="small"
          disabled={from === 0}
          onClick={() => arrange(`Move ${chosen} earlier`, (p) => moveBars(p, from, to, from - 1, newHitId), [from - 1, to - 1])}
        >
          Move earlier
        </Button>
        <Button
          size="small"
          disabled={to >= part.bars}
          onClick={() => arrange(`Move ${chosen} later`, (p) => moveBars(p, from, to, from + 1, newHitId), [from + 1, to + 1])}
        >
          Move later
        </Button>
        <Button
          size="small"
          disabled={count >= part.bars}
          onClick={() =>
            arrange(`Delete ${chosen}`, (p) => deleteBars(p, from, to, newHitId), [
              Math.min(from, part.bars - count - 1),
              Math.min(from, part.bars - count - 1) + 1,
            ])
          }
        >
          Delete
        </Button>
      </div>
      <div className="flex flex-wrap items-baseline gap-1 leading-8">
        insert{' '}
        <NumberField label="Empty bars" value={empty} min={1} max={64} unit="empty" className="[&_input]:w-[2.4em]" onChange={setEmpty} />
        <Button
          size="small"
          onClick={() =>
            arrange(`Insert ${empty} empty before bar ${from + 1}`, (p) => insertBars(p, from, empty, newHitId), [from, from + empty])
          }
        >
          Before these
        </Button>
        <Button
          size="small"
          onClick={() => arrange(`Insert ${empty} empty after bar ${to}`, (p) => insertBars(p, to, empty, newHitId), [to, to + empty])}
        >
          After these
        </Button>
      </div>
      <div className="flex flex-wrap items-baseline gap-1 leading-8">
        Paste these over the bars from{' '}
        <NumberField
          label="First bar that is covered"
          value={over}
          min={1}
          max={part.bars}
          unit=""
          className="[&_input]:w-[2.4em]"
          onChange={setOver}
        />
        <Button
          size="small"
          disabled={over === from + 1}
          onClick={() =>
            arrange(`Paste ${chosen} over the bars from ${over}`, (p) => copyBarsOver(p, { from, to }, over - 1, newHitId), [
              over - 1,
              over - 1 + count,
            ])
          }
        >
          Paste over
        </Button>
        {over !== from + 1 && covered > 0 && (
          <span className="text-sm text-faint">
            {covered} {plural(covered, 'hit there goes', 'hits there go')}
          </span>
        )}
      </div>
    </Section>
  );
}

/** Why the part has fewer bars than the song it came from. */
function SongBars() {
  const { getState } = useBenchStore();
  const id = useBench((s) => s.id);
  const hasSong = useBench((s) => s.hasSong && s.idea === null);
  const bars = useBench((s) => s.part.bars);
  const [song, setSong] = useState(0);
  useEffect(() => {
    let isOver = false;
    const read = async () => {
      const bytes = hasSong ? await partStore.song(id) : undefined;
      const found = bytes ? await barsOfSongIn(bytes, getState().part.source?.lanes ?? []) : 0;
      if (!isOver) setSong(found);
    };
    read().catch(showError);
    return () => {
      isOver = true;
    };
  }, [id, hasSong, getState]);
  return song > bars ? <p className="text-sm text-faint">{songBarsText(bars, song)}</p> : null;
}

/** Some hits by voice and place. */
function listed(part: Part, ids: ReadonlySet<string>): string {
  const homes = homesOf(part);
  const names = part.hits.flatMap((h, i) =>
    ids.has(h.id) ? [`${labelOfRow(part, h.voice).toLowerCase()} at ${placeText(part, homes.ticks[i] as number)}`] : [],
  );
  return `${names.slice(0, MOST_LISTED).join(', ')}${names.length > MOST_LISTED ? ' and others' : ''}`;
}
