'use client';

import { Checkbox } from 'radix-ui';
import { Check, Play } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { LaneContent } from '@/core/smf/lanes';
import { Button, IconButton } from '@/ui/Button';
import { Modal } from '@/ui/Modal';

interface Props {
  question: { fileName: string; lanes: LaneContent[] };
  /** What is made of them. */
  make?: string;
  /** Lets a track be heard as drums, or stops it. */
  hear?: { lane: (lane: LaneContent) => unknown; stop: () => unknown };
  onPick: (lanes: LaneContent[]) => void;
  onClose: () => void;
}

const idOf = (lane: LaneContent): string => `${lane.track}.${lane.channel}`;

/** A track whose name says that it is drums. */
const namedForDrums = (lane: LaneContent): boolean =>
  /\b(drum|drums|drumkit|kit|perc|percussion|beat|beats|kick|snare|hat|hats)\b/i.test(lane.trackName);

/** Asks which tracks and channels of a song carry its drums. */
export function LaneDialog({ question, make = 'Create part', hear, onPick, onClose }: Props) {
  const [picked, setPicked] = useState<ReadonlySet<string>>(() => new Set(question.lanes.filter(namedForDrums).map(idOf)));
  const heard = useRef(false);
  const quiet = hear?.stop;
  // What is heard here ends here.
  useEffect(() => () => void (heard.current && quiet?.()), [quiet]);
  const toggle = (id: string) => {
    const next = new Set(picked);
    if (!next.delete(id)) next.add(id);
    setPicked(next);
  };
  return (
    <Modal
      open
      onClose={onClose}
      title="Where are the drums?"
      about={`Nothing in ${question.fileName} is on channel 10. Pick every track that belongs to the drum part${question.lanes.some(namedForDrums) ? '; tracks with drum names are ticked' : ''}.`}
    >
      <table className="w-full text-left">
        <thead className="text-faint">
          <tr>
            <th className="w-8 pb-1" />
            <th className="pb-1 font-normal">Track</th>
            <th className="pb-1 font-normal">Channel</th>
            <th className="pb-1 text-right font-normal">Notes</th>
            <th className="pb-1 pl-4 font-normal">As drums</th>
            {hear && <th className="w-8 pb-1" />}
          </tr>
        </thead>
        <tbody>
          {question.lanes.map((lane) => (
            <tr key={idOf(lane)} className="border-t border-line">
              <td className="py-1.5">
                <Checkbox.Root
                  checked={picked.has(idOf(lane))}
                  onCheckedChange={() => toggle(idOf(lane))}
                  aria-label={`Track ${lane.track + 1}, channel ${lane.channel}, ${lane.notes} notes`}
                  className="flex size-5 items-center justify-center rounded border border-strong data-[state=checked]:bg-accent data-[state=checked]:text-on-accent"
                >
                  <Checkbox.Indicator>
                    <Check size={14} />
                  </Checkbox.Indicator>
                </Checkbox.Root>
              </td>
              <td>
                {lane.track + 1} {lane.trackName}
              </td>
              <td>{lane.channel}</td>
              <td className="text-right">{lane.notes}</td>
              <td className="pl-4 text-faint">{lane.sample}</td>
              {hear && (
                <td>
                  <IconButton
                    label={`Hear track ${lane.track + 1}, channel ${lane.channel}`}
                    size="small"
                    onClick={() => {
                      heard.current = true;
                      void hear.lane(lane);
                    }}
                  >
                    <Play size={14} fill="currentColor" />
                  </IconButton>
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-5 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="strong" disabled={picked.size === 0} onClick={() => onPick(question.lanes.filter((lane) => picked.has(idOf(lane))))}>
          {make}
        </Button>
      </div>
    </Modal>
  );
}
