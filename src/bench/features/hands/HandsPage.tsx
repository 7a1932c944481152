'use client';

import { counted } from '@/core/plurals';
import dynamic from 'next/dynamic';
import { useEffect, useState } from 'react';
import { BEYOND, type HandsOfPart } from '@/core/analysis/hands-of-part';
import { breakRowTest } from '@/core/breaks/rows';
import { setRow } from '@/core/commands/settings';
import { labelOfRow } from '@/core/part/rows';
import { firstMove } from '@/core/feel/move-spec';
import { addMove } from '@/core/commands/moves';
import { handsMove } from '@/core/moves/hands';
import { HOUSE_GROOVES } from '@/core/groove/house-grooves';
import { Button } from '@/ui/Button';
import { Section, Sections } from '@/ui/Section';
import { openPage } from '../../actions/open-page';
import { useBench, useBenchStore } from '../../store/context';
import { followHands } from '../../store/follow-hands';
import { Conflicts } from './Conflicts';
import { Player } from './Player';
import { Strikers } from './Strikers';

const KitFromAbove = dynamic(() => import('./KitFromAbove'), { ssr: false });

const NONE: readonly never[] = [];

/** Who plays what, what nobody can play, and whether the part is played by two hands. */
export function HandsPage() {
  const store = useBenchStore();
  useEffect(() => followHands(store), [store]);
  const hands = useBench((s) => s.hands);
  const shown = useBench((s) => s.ui.sticking);
  // What the page shows goes from the stems with it, unless it is asked to stay.
  const playsByHands = useBench((s) => s.part.feel.moves.some((m) => m.kind === 'hands'));
  const add = () => {
    const { part, transport, run, setUi } = store.getState();
    run('Play like a drummer', (p) =>
      addMove(p, firstMove(handsMove, part, { loopBars: transport.toBar - transport.fromBar, groove: HOUSE_GROOVES[0]! })),
    );
    setUi({ openMove: part.feel.moves.length });
    openPage(store, 'feel');
  };
  return (
    <div className="space-y-4">
      <Summary hands={hands} />
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={shown} onChange={(e) => store.getState().setUi({ sticking: e.target.checked })} />
        show hands and feet under the hits
      </label>
      <Button size="small" disabled={playsByHands} onClick={add}>
        {playsByHands ? 'Played by two hands' : 'Play like a drummer'}
      </Button>
      {hands && hands.conflicts.length > 0 && <Conflicts conflicts={hands.conflicts} />}
      <Sections>
        <Section name="player" title="Whose hands" note="kept for every part">
          <Player />
        </Section>
        <Section name="kit" title="Drum positions" note="kept for every part">
          <KitFromAbove />
        </Section>
        <Section name="strikers" title="Who plays what" note="kept for every part">
          <Strikers />
        </Section>
        <Section name="machines" title="Rows that a machine plays">
          <Machines />
        </Section>
      </Sections>
    </div>
  );
}

function Summary({ hands }: { hands: HandsOfPart | null }) {
  const hits = useBench((s) => s.part.hits.length);
  if (!hands) return <p role="status">Working out the hands …</p>;
  if (hits === 0) return <p className="text-faint">No hits yet.</p>;
  const count = (n: number): number => hands.limbs.reduce((sum, l) => sum + Number(l === n), 0);
  const [right, left, beyond] = [count(1), count(2), count(BEYOND)];
  return (
    <div>
      <p className="font-serif text-base" role="status" data-testid="playable">
        {beyond === 0
          ? 'A drummer could play all of it.'
          : `${counted(hands.conflicts.length, 'moment is', 'moments are')} beyond two hands and two feet.`}
      </p>
      <p className="text-sm text-faint">
        Right hand {right}, left hand {left}, right foot {count(3)}, left foot {count(4)} strokes, by least effort.
      </p>
    </div>
  );
}

function Machines() {
  const { getState } = useBenchStore();
  const rows = useBench((s) => s.part.rows) ?? NONE;
  const part = useBench((s) => s.part);
  const [recorded] = useState(() => breakRowTest(part));
  return (
    <div>
      <p className="text-sm text-faint">
        They need no hands, like a programmed shaker or a second clap. Slices of a break are never played by hand.
      </p>
      <ul className="mt-1">
        {rows
          .filter((r) => !recorded(r.voice))
          .map((row) => {
            const label = labelOfRow(part, row.voice);
            return (
              <li key={row.voice}>
                <label className="flex items-center gap-2">
                  <input
                    type="checkbox"
                    checked={row.machine === true}
                    onChange={(e) =>
                      getState().run(
                        e.target.checked ? `A machine plays ${label.toLowerCase()}` : `A hand plays ${label.toLowerCase()}`,
                        (p) => setRow(p, row.voice, { machine: e.target.checked }),
                      )
                    }
                  />
                  {label}
                </label>
              </li>
            );
          })}
      </ul>
    </div>
  );
}
