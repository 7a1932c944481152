'use client';

import { nanoid } from 'nanoid';
import { useRouter } from 'next/navigation';
import { toast } from 'sonner';
import type { Groove } from '@/core/groove/groove';
import { LearnDialog } from '@/grooves/learn/LearnDialog';
import { grooveStore } from '@/storage/groove-store';
import { showError } from '@/ui/notify';
import { useBench, useBenchStore } from '../store/context';

/** Learns a groove from the part, or from what is selected in it. */
export default function LearnFromBench() {
  const { getState } = useBenchStore();
  const part = useBench((s) => s.part);
  const selected = useBench((s) => s.selection);
  const router = useRouter();
  const close = () => getState().setDesk({ dialog: null });
  const keep = async (groove: Groove) => {
    const [id, now] = [nanoid(12), Date.now()];
    await grooveStore.put({ id, groove, tags: ['learnt'], createdAt: now, updatedAt: now });
    close();
    toast(`${groove.name} is among your grooves.`, { action: { label: 'Look at it', onClick: () => router.push(`/grooves?part=${encodeURIComponent(getState().id)}&groove=${id}`) } });
  };
  return <LearnDialog part={part} selected={selected} onClose={close} onKeep={(groove) => void keep(groove).catch(showError)} />;
}
