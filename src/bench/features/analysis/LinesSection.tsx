'use client';

import { counted } from '@/core/plurals';
import type { DoubtfulGroup, LinesRead } from '@/core/analysis/lines-read';
import { changeMove } from '@/core/commands/moves';
import { decideHomes, type Side } from '@/core/commands/marks';
import { labelOfRow } from '@/core/part/rows';
import { DEFAULT_MOVES } from '@/core/moves/all';
import { addMove } from '@/core/commands/moves';
import type { Hit } from '@/core/model/part';
import { Button } from '@/ui/Button';
import { detectAgain } from '../../actions/detect';
import { nextDoubtful } from '../../actions/doubtful-hits';
import { openPage } from '../../actions/open-page';
import { reveal } from '../../actions/view-control';
import { useBench, useBenchStore } from '../../store/context';
import { calmPart } from '../../store/derived';
import { stemsFacts } from '../../store/stems-facts';
import { placeText } from '../../words/describe';
import { keyText } from '../../words/key-text';
import { linesText } from './lines-words';

const MOST_LISTED = 8;

/** Which lines the hits were read to belong to, what is doubtful, and how the part swings by itself. */
export function LinesSection({ lines }: { lines: LinesRead }) {
  const store = useBenchStore();
  const part = useBench(calmPart);
  const selected = useBench((s) => s.selection.size);
  return (
    <div className="space-y-2">
      <p className="font-serif text-base leading-6" data-testid="lines-read">
        {linesText(part, lines).join(' ')}
      </p>
      <div className="flex flex-wrap gap-1.5">
        {lines.doubtful.length > 0 && (
          <Button size="small" look="strong" onClick={() => nextDoubtful(store)}>
            Next uncertain hit <span className="opacity-70">{keyText('shift+n')}</span>
          </Button>
        )}
        <Button
          size="small"
          title="Finds the grid line that each hit was meant for. Hits that you decided, placed by hand or locked stay as they are."
          onClick={() => void detectAgain(store, null)}
        >
          Detect again
        </Button>
        {selected > 0 && (
          <Button size="small" onClick={() => void detectAgain(store, store.getState().selection)}>
            Detect {counted(selected, 'selected hit')} again
          </Button>
        )}
        {lines.swings && <SwingAsRead swings={lines.swings} />}
        {lines.swings && <SwungGrid />}
      </div>
      {lines.doubtful.length > 0 && (
        <ul className="space-y-2.5" aria-label="Uncertain hits">
          {lines.doubtful.slice(0, MOST_LISTED).map((group) => (
            <Group key={`${group.voice} ${group.home} ${group.other}`} group={group} />
          ))}
        </ul>
      )}
      {lines.doubtful.length > MOST_LISTED && <p className="text-sm text-faint">and {lines.doubtful.length - MOST_LISTED} more places</p>}
    </div>
  );
}

/** Lines and feet on the stems stand where the part swings. */
function SwungGrid() {
  const { getState } = useBenchStore();
  const shown = useBench((s) => s.view.swungGrid);
  const swung = useBench((s) => calmPart(s).feel.moves.some((m) => m.kind === 'swing' && m.on !== false));
  return (
    <Button
      size="small"
      aria-pressed={shown}
      disabled={swung}
      title={
        swung
          ? 'A swing move already swings the grid'
          : 'Draws the grid with the swing of the hits as written and shows leans from there. Playback and exports stay the same.'
      }
      onClick={() => getState().setView({ swungGrid: !shown })}
    >
      {shown ? 'Show straight grid' : 'Show swung grid'}
    </Button>
  );
}

/** Quantize with the lines as the part swings by itself. */
function SwingAsRead({ swings }: { swings: NonNullable<LinesRead['swings']> }) {
  const store = useBenchStore();
  const percent = Math.round(swings.whole.percent * 10) / 10;
  const grid = swings.division;
  const use = () => {
    const { part, run } = store.getState();
    const at = part.feel.moves.findIndex((m) => m.kind === 'quantize');
    run(`Quantize to ${grid} swung ${percent} %`, (p) =>
      at < 0 ? addMove(p, { ...DEFAULT_MOVES.quantize, grid, swingPercent: percent }) : changeMove(p, at, { grid, swingPercent: percent }),
    );
    openPage(store, 'feel');
    store.getState().setUi({ openMove: at < 0 ? store.getState().part.feel.moves.length - 1 : at });
  };
  return (
    <Button size="small" title="Adds or changes a quantize move with this swing: the timing gets tighter and the swing stays" onClick={use}>
      Quantize with this swing
    </Button>
  );
}

/** Uncertain hits that are alike: shown, and decided together. */
function Group({ group: { voice, hits, home, other } }: { group: DoubtfulGroup }) {
  const store = useBenchStore();
  const part = useBench(calmPart);
  const ids = new Set(hits.map((h) => h.id));
  const many = hits.length > 1;
  const lines: Record<Side, number> = { earlier: Math.min(home, other), later: Math.max(home, other) };
  const place = (tick: number): string => placeText(part, tick).replace(/^bar \d+ · /, '');
  const sure = hits.map((h) => Math.round(h.sure * 100));
  const [least, most] = [Math.min(...sure), Math.max(...sure)];
  const show = () => {
    const first = part.hits.find((h): h is Hit => ids.has(h.id));
    store.getState().select(ids);
    if (first) reveal(store, first.tick, stemsFacts(store).width);
  };
  const decide = (side: Side) =>
    store
      .getState()
      .run(`${many ? `${hits.length} uncertain hits belong` : 'An uncertain hit belongs'} to the ${side} line`, (p) =>
        decideHomes(p, ids, side),
      );
  return (
    <li className="flex flex-wrap items-center gap-1 text-sm">
      <button type="button" className="underline underline-offset-2" onClick={show}>
        {many
          ? `${labelOfRow(part, voice)}, ${hits.length} hits on ${place(home)}`
          : `${labelOfRow(part, voice)}, ${placeText(part, home)}`}
      </button>
      <span className="text-faint">{least === most ? `${least} %` : `${least} to ${most} %`} sure</span>
      {(['earlier', 'later'] as const).map((side) => (
        <Button
          key={side}
          size="tiny"
          aria-label={`${many ? 'all belong' : 'it belongs'} to the ${side} line`}
          onClick={() => decide(side)}
        >
          {many ? 'All on' : 'On'} {place(lines[side])}
          {lines[side] === home && <span className="text-faint"> (as read)</span>}
        </Button>
      ))}
    </li>
  );
}
