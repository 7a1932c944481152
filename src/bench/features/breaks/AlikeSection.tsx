'use client';

import { useMemo } from 'react';
import { useStore } from 'zustand';
import { strokeGroups, type StrokeGroup } from '@/core/breaks/alike';
import { breakOfRow } from '@/core/breaks/rows';
import { heardIn, printsOf, type BreakStroke } from '@/core/breaks/strokes';
import type { Break } from '@/core/model/break';
import type { Part } from '@/core/model/part';
import { counted } from '@/core/plurals';
import { Button } from '@/ui/Button';
import { Picker } from '@/ui/Picker';
import { nameTogether } from '../../breaks/name-together';
import { nameText, namesToChoose, sameName } from '../../breaks/names';
import { listen, onsetDetectorState } from '../../breaks/onset-detector';
import { hearStroke } from '../../breaks/StrokeMarks';
import { UNSURE } from '../../breaks/geometry';
import { usePlaybackOf } from '../../playback/context';
import { useFindings } from '../../shared/use-findings';
import { useBench, useBenchStore } from '../../store/context';
import type { PageFinding } from '../../store/ui-state';
import { placesText } from '../../words/places';

/** Groups listed at most. */
const LISTED = 16;

/** Lists a break's hits in groups by sound and name, to hear and rename. */
export function AlikeSection({ of, strokes }: { of: Break; strokes: readonly BreakStroke[] }) {
  const store = useBenchStore();
  const playback = usePlaybackOf();
  const part = useBench((s) => s.part);
  const marked = useStore(onsetDetectorState, (s) => s.marked);
  const heard = useMemo(() => heardIn(part, of.id), [part, of.id]);
  const countedStrokes = useMemo(() => strokes.filter((s) => !s.belowThreshold), [strokes]);
  const groups = useMemo(() => {
    const prints = printsOf(heard);
    return strokeGroups(countedStrokes, (s) => (s.id.startsWith('n') ? prints?.[Number(s.id.slice(1))] : undefined));
  }, [countedStrokes, heard]);
  useFindings(useMemo(() => uncertainHits(store.getState().part, of, countedStrokes), [store, of, countedStrokes]));
  const wrong = Math.round(countedStrokes.reduce((sum, s) => sum + 1 - s.sure, 0));
  const isMarked = ({ strokes: own }: StrokeGroup<BreakStroke>): boolean =>
    own.length === marked.length && own.every((s) => marked.includes(s.id));
  if (countedStrokes.length === 0) return <p className="text-sm text-faint">No hits found yet.</p>;
  return (
    <div>
      <p className="text-sm">
        {wrong === 0 ? 'The names are probably right.' : `About ${wrong} of ${counted(countedStrokes.length, 'name')} may be wrong.`}{' '}
        <span className="text-faint">
          {heard.prints && 'Rename a group, and others that sound like it follow. '}
          Shift N goes through the uncertain hits one by one.
        </span>
      </p>
      {!heard.prints && <DetectAgain of={of} />}
      <ul className="mt-2 space-y-1">
        {groups.slice(0, LISTED).map((group) => {
          const [first] = group.strokes;
          const count = counted(group.strokes.length, 'hit');
          return (
            <li key={first.id} className="flex items-baseline gap-2">
              <Button
                size="tiny"
                aria-label={`Hear the ${nameText(group)} at ${first.at.toFixed(2)} s`}
                onClick={() => hearStroke(playback, of, first.id)}
              >
                Hear
              </Button>
              <button
                type="button"
                aria-pressed={isMarked(group)}
                title="Mark in the picture"
                className="w-14 shrink-0 text-left underline decoration-dotted underline-offset-4 aria-pressed:text-accent"
                onClick={() => onsetDetectorState.setState({ chosen: null, marked: isMarked(group) ? [] : group.strokes.map((s) => s.id) })}
              >
                {count}
              </button>
              <Picker
                label={`Name of ${count} like the one at ${first.at.toFixed(2)} s`}
                value={nameText(group)}
                choices={namesToChoose(group).map((n) => ({ value: nameText(n), text: nameText(n) }))}
                onChange={(text) => {
                  const name = namesToChoose(group).find((n) => nameText(n) === text);
                  if (name && !sameName(name, group))
                    nameTogether(
                      store,
                      of.id,
                      group.strokes.map((s) => s.id),
                      name,
                    );
                }}
              />
              <span className="ml-auto text-sm text-faint">
                {group.strokes.every((s) => s.sure === 1) ? 'named by you' : `${Math.round(group.sure * 100)} % sure`}
              </span>
            </li>
          );
        })}
      </ul>
      {groups.length > LISTED && <p className="mt-1 text-sm text-faint">and {counted(groups.length - LISTED, 'smaller group')}</p>}
    </div>
  );
}

/** A break that was heard by an earlier version is grouped by name alone. */
function DetectAgain({ of }: { of: Break }) {
  const store = useBenchStore();
  const { listening, sample, outline } = useStore(onsetDetectorState);
  return (
    <p className="mt-1 text-sm">
      An earlier version named these hits.{' '}
      <Button
        size="tiny"
        disabled={listening !== null || sample !== of.sample || !outline}
        title="Names the hits again and groups them by sound. Bars and your own names stay."
        onClick={() => void listen(store, of.id, true)}
      >
        Detect again
      </Button>
    </p>
  );
}

/** Hits that play uncertain strokes in the break's first round. */
function uncertainHits(part: Part, of: Break, strokes: readonly BreakStroke[]): PageFinding[] {
  const hits = part.hits.filter((h) => h.piece !== undefined && breakOfRow(part, h.voice)?.id === of.id);
  return strokes.flatMap((stroke): PageFinding[] => {
    const piece = of.pieces.findIndex((p) => p.id === stroke.id);
    const hit = stroke.sure < UNSURE && piece >= 0 ? hits.find((h) => h.piece === piece) : undefined;
    if (!hit) return [];
    return [
      {
        ids: [hit.id],
        tick: hit.tick,
        text: `${placesText(part, [hit.tick])}: ${nameText(stroke)}, ${Math.round(stroke.sure * 100)} % sure.`,
        show: () => onsetDetectorState.setState({ chosen: stroke.id, marked: [] }),
      },
    ];
  });
}
