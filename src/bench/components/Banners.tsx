'use client';

import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import { betterOrigin } from '@/core/homes/origin';
import { tempoMapOf } from '@/core/part/part-time';
import { setOrigin } from '@/core/part/commands/settings';
import { ticks } from '@/core/units';
import { partStore } from '@/storage/part-store';
import { Button } from '@/ui/Button';
import { showError } from '@/ui/notify';
import { silenceReason } from '../playback/silence';
import { useIsPlaying } from '@/ui/use-engine';
import { useSoundStatus, type Playback } from '../playback/use-playback';
import { useRecorded } from '../recording/context';
import { useBench, useBenchStore } from '../store/context';
import { calmPart, originFindingOf } from '../store/derived';

/** Sentences that need an answer or an eye: the origin offer, silence, saving that failed. */
export function Banners({ onReload, playback }: { onReload: () => void; playback: Playback }) {
  return (
    <>
      <SaveTrouble onReload={onReload} />
      <OriginOffer />
      <Silence playback={playback} />
    </>
  );
}

function Banner({ children, tone = 'plain', name }: { children: ReactNode; tone?: 'plain' | 'danger'; name: string }) {
  return (
    <div role={tone === 'danger' ? 'alert' : 'status'} data-testid={name} className={`flex items-center gap-3 border-t px-4 py-1.5 ${tone === 'danger' ? 'border-danger bg-surface' : 'border-line bg-surface'}`}>
      {children}
    </div>
  );
}

/** The whole part sits a constant amount off its grid: the lines can move to the hits. */
function OriginOffer() {
  const part = useBench(calmPart);
  const answered = useBench((s) => s.originAnswered);
  const { getState } = useBenchStore();
  // While a take is played in or looked over, its own offers speak of this.
  const recording = useRecorded((s) => s.phase !== 'idle');
  const better = answered || recording ? null : betterOrigin(part, originFindingOf(part));
  if (better === null) return null;
  const ms = tempoMapOf(part).between(ticks(part.origin), better);
  return (
    <Banner name="origin-offer">
      <p>
        All hits sit about <strong>{Math.abs(ms).toFixed(0)} ms {ms > 0 ? 'behind' : 'ahead of'}</strong> the grid, evenly throughout. Move the lines to them? The hits stay where they are.
      </p>
      <Button
        look="strong"
        onClick={() => {
          getState().run('Move the grid to the hits', (p) => setOrigin(p, better));
          getState().answerOrigin();
          getState().setView({ scroll: better });
        }}
      >
        Move the lines
      </Button>
      <Button onClick={() => getState().answerOrigin()}>Leave them</Button>
    </Banner>
  );
}

function Silence({ playback }: { playback: Playback }) {
  const playing = useIsPlaying(playback.engine);
  const status = useSoundStatus(playback.engine);
  const part = useBench(calmPart);
  const transport = useBench((s) => s.transport);
  const reason = playing || status === 'failed' || status === 'blocked' ? silenceReason(part, transport, status) : null;
  return reason ? (
    <Banner name="silence">
      <p>Nothing sounds. {reason}</p>
    </Banner>
  ) : null;
}

function SaveTrouble({ onReload }: { onReload: () => void }) {
  const save = useBench((s) => s.save);
  const { getState } = useBenchStore();
  const router = useRouter();
  if (save.kind !== 'failed') return null;
  const keepCopy = async () => {
    try {
      const { part, id } = getState();
      const song = await partStore.song(id);
      const copy = await partStore.create({ ...part, name: `${part.name} (copy)` }, song ? { song } : {});
      router.push(`/bench/${copy}`);
    } catch (e) {
      showError(e);
    }
  };
  return (
    <Banner tone="danger" name="save-trouble">
      <p>
        {save.error.message} {save.error.remedy}
      </p>
      {save.error.code === 'changed-elsewhere' ? (
        <>
          <Button onClick={onReload}>Load that version</Button>
          <Button onClick={() => void keepCopy()}>Keep mine as a copy</Button>
        </>
      ) : (
        <Button onClick={() => getState().retrySave()}>Try again</Button>
      )}
    </Banner>
  );
}
