'use client';

import { useRouter } from 'next/navigation';
import type { Groove } from '@/core/model/groove';
import type { HitId, Part } from '@/core/model/part';
import { LearnDialog } from '@/grooves/learn/LearnDialog';
import { grooveStore, keptNow } from '@/storage/groove-store';
import { showError, tell } from '@/ui/notify';
import { useBench } from '../store/context';

interface Props {
  part: Part;
  /** Extract from these alone. */
  selected?: ReadonlySet<HitId>;
  /** It was heard in a recording. */
  fromAudio?: boolean;
  onClose: () => void;
}

/** Learns a groove on the Bench: from the part, from what is selected in it, or from a take. */
export default function LearnFromBench({ part, selected, fromAudio = false, onClose }: Props) {
  const partId = useBench((s) => s.id);
  const router = useRouter();
  const keep = async (groove: Groove) => {
    const kept = keptNow(groove, ['learnt']);
    await grooveStore.put(kept);
    onClose();
    tell(`${groove.name} is among your grooves.`, {
      label: 'Show it',
      onClick: () => router.push(`/grooves?part=${encodeURIComponent(partId)}&groove=${kept.id}`),
    });
  };
  return (
    <LearnDialog
      part={part}
      selected={selected}
      fromAudio={fromAudio}
      onClose={onClose}
      onKeep={(groove) => void keep(groove).catch(showError)}
    />
  );
}
