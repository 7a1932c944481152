'use client';

import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import type { GrooveMove } from '@/core/model/feel';
import type { Groove } from '@/core/model/groove';
import { GROOVE_FAMILIES } from '@/core/groove/house-grooves';
import { GroovePicture } from '@/grooves/pictures/GroovePicture';
import { usePlaybackOf } from '../../playback/context';
import { useKeptGrooves } from '../../shared/use-kept-grooves';
import type { Edit } from './edit';

/**
 * Which groove a move plays like: the user's own, then ours by family, as pictures that are heard by a click; closing the list keeps the
 * last.
 */
export function GrooveOfMove({ move, edit }: { move: GrooveMove; edit: Edit }) {
  const playback = usePlaybackOf();
  const kept = useKeptGrooves();
  const families = [
    ...(kept.length > 0 ? [{ name: 'Yours', grooves: kept.map((k) => k.groove) }] : []),
    ...GROOVE_FAMILIES.map((f) => ({ name: f.name, grooves: f.grooves.map((g) => g.groove) })),
  ];
  const isChosen = (groove: Groove): boolean =>
    groove === move.groove || (groove.name === move.groove.name && JSON.stringify(groove) === JSON.stringify(move.groove));
  const hear = (groove: Groove) => {
    edit.sweep({ groove });
    if (!playback.engine.isPlaying) playback.toggle();
  };
  return (
    <Popover.Root onOpenChange={(open) => !open && edit.done()}>
      <Popover.Trigger
        aria-label={`Groove: ${move.groove.name}`}
        className="inline-flex items-center gap-1 rounded border-b border-strong px-1 leading-6 hover:bg-sunk"
      >
        {move.groove.name} <ChevronDown size={13} className="text-faint" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="left"
          align="start"
          sideOffset={14}
          collisionPadding={8}
          aria-label="Grooves"
          className="z-50 max-h-[min(620px,var(--radix-popover-content-available-height))] w-[min(420px,92vw)] overflow-auto rounded-md border border-strong bg-surface p-4 shadow-md"
        >
          <p className="mb-2 text-sm text-faint">Click one to hear the part with it.</p>
          {families.map((family) => (
            <section key={family.name} aria-label={family.name} className="mb-3">
              <h4 className="mb-1 text-sm text-faint">{family.name}</h4>
              <div className="grid grid-cols-2 gap-1.5">
                {family.grooves.map((groove) => (
                  <button
                    key={groove.name}
                    type="button"
                    aria-pressed={isChosen(groove)}
                    onClick={() => hear(groove)}
                    className="rounded-md border border-line px-2 pt-1 pb-0.5 text-left hover:border-strong hover:bg-sunk aria-pressed:border-accent aria-pressed:bg-chosen"
                  >
                    <GroovePicture groove={groove} width={170} height={38} />
                    <span className="block truncate text-sm">{groove.name}</span>
                  </button>
                ))}
              </div>
            </section>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
