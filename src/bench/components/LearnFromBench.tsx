'use client';

import { nanoid } from 'nanoid';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import type { Groove } from '@/core/groove/groove';
import type { HitId, Part } from '@/core/part/part';
import { LearnDialog } from '@/grooves/learn/LearnDialog';
import { grooveStore } from '@/storage/groove-store';
import { showError } from '@/ui/notify';
import { useBench } from '../store/context';

interface Props {
  part: Part;
  /** Learn from these alone. */
  selected?: ReadonlySet<HitId>;
  onClose: () => void;
}

/** Learns a groove on the Bench: from the part, from what is selected in it, or from a take. */
export default function LearnFromBench({ part, selected, onClose }: Props) {
  const partId = useBench((s) => s.id);
  const router = useRouter();
  const keep = async (groove: Groove) => {
    const [id, now] = [nanoid(12), Date.now()];
    await grooveStore.put({ id, groove, tags: ['learnt'], createdAt: now, updatedAt: now });
    onClose();
    toast(`${groove.name} is among your grooves.`, { action: { label: 'Look at it', onClick: () => router.push(`/grooves?part=${encodeURIComponent(partId)}&groove=${id}`) } });
  };
  return <LearnDialog part={part} selected={selected} onClose={onClose} onKeep={(groove) => void keep(groove).catch(showError)} />;
}
