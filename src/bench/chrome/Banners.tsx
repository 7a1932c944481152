'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState, type ReactNode } from 'react';
import { counted, plural } from '@/core/plurals';
import { betterOrigin } from '@/core/homes/origin';
import { tempoMapOf } from '@/core/part/part-time';
import { detectAgain, otherLines } from '../actions/detect';
import { openPage } from '../actions/open-page';
import { setOrigin } from '@/core/commands/settings';
import { ticks } from '@/core/units';
import { deletedStore } from '@/storage/deleted-store';
import { partStore } from '@/storage/part-store';
import { Button } from '@/ui/Button';
import { showError } from '@/ui/notify';
import { savePartFile } from '@/ui/save-part-file';
import { useStoreWords } from '@/ui/StoreNotice';
import { useIsPlaying } from '@/ui/use-engine';
import { silenceReason } from '../playback/silence';
import { useSoundStatus, type Playback } from '../playback/use-playback';
import { useRecorded } from '../recording/context';
import { useBench, useBenchStore } from '../store/context';
import { LeftOver, useLeftOver } from './LeftOver';
import { calmPart, fitsNoGridOf, originFindingOf } from '../store/derived';

/**
 * Sentences that need an answer or an eye: saving that failed, silence, the origin offer. They stand on the line above the stems in place
 * of what it says otherwise, so that nothing moves under the pointer; one at a time, the gravest first.
 */
export function useNotice(playback: Playback): ReactNode {
  const trouble = useSaveTrouble();
  const silence = useSilence(playback);
  const origin = useOriginOffer();
  const free = useFreeOffer();
  const lines = useLinesOffer();
  const store = useStoreTrouble();
  const left = useLeftOver();
  const unchosen = left && (
    <Notice name="left-over">
      <p className={sentence}>Two tabs changed this part, and one closed before you chose a version. Its changes are saved.</p>
      <LeftOver left={left} />
    </Notice>
  );
  return trouble ?? store ?? unchosen ?? silence ?? free ?? origin ?? lines;
}

function Notice({ children, tone = 'plain', name }: { children: ReactNode; tone?: 'plain' | 'danger'; name: string }) {
  return (
    <div
      role={tone === 'danger' ? 'alert' : 'status'}
      data-testid={name}
      className={`flex min-w-0 flex-1 items-center gap-2 ${tone === 'danger' ? 'text-danger' : ''}`}
    >
      {children}
    </div>
  );
}

const sentence = 'line-clamp-2 min-w-0 text-sm leading-[18px]';

/** The whole part sits a constant amount off its grid: the lines can move to the hits. */
function useOriginOffer(): ReactNode {
  const part = useBench(calmPart);
  const answered = useBench((s) => s.originAnswered);
  const store = useBenchStore();
  const { getState } = store;
  // While a take is played in or looked over, its own offers speak of this.
  const recording = useRecorded((s) => s.phase !== 'idle');
  const finding = originFindingOf(part);
  const better = answered || recording ? null : betterOrigin(part, finding);
  const share = Math.floor(finding.share * 100);
  if (better === null) return null;
  const ms = tempoMapOf(part).between(ticks(part.origin), better);
  return (
    <Notice name="origin-offer">
      <p className={sentence}>
        {share === 100 ? 'All' : `${share} % of the`} hits sit about{' '}
        <strong>
          {Math.abs(ms).toFixed(0)} ms {ms > 0 ? 'behind' : 'ahead of'}
        </strong>{' '}
        the grid. Move the lines to them? The hits stay where they are.
      </p>
      <Button
        look="strong"
        size="small"
        onClick={() => {
          void detectAgain(store, null, { label: 'Move the grid to the hits', before: (p) => setOrigin(p, better) });
          getState().answerOrigin();
          getState().setView({ scroll: better });
        }}
      >
        Move the lines
      </Button>
      <Button size="small" onClick={() => getState().answerOrigin()}>
        Dismiss
      </Button>
    </Notice>
  );
}

/** Offered when the hits fit no grid: the part was probably played without a click. */
function useFreeOffer(): ReactNode {
  const store = useBenchStore();
  const part = useBench(calmPart);
  const answered = useBench((s) => s.originAnswered);
  const isOpen = useBench((s) => s.ui.page === 'tempo');
  const recording = useRecorded((s) => s.phase !== 'idle');
  if (answered || isOpen || recording || !fitsNoGridOf(part)) return null;
  return (
    <Notice name="free-offer">
      <p className={sentence}>This was played freely: its hits fit no grid. Find its tempo? The hits keep their times.</p>
      <Button look="strong" size="small" onClick={() => openPage(store, 'tempo')}>
        Find its tempo
      </Button>
      <Button size="small" onClick={() => store.getState().answerOrigin()}>
        Dismiss
      </Button>
    </Notice>
  );
}

function useSilence(playback: Playback): ReactNode {
  const playing = useIsPlaying(playback.engine);
  const status = useSoundStatus(playback.engine);
  const part = useBench(calmPart);
  const transport = useBench((s) => s.transport);
  const reason = playing || status === 'failed' || status === 'blocked' ? silenceReason(part, transport, status) : null;
  return reason ? (
    <Notice name="silence">
      <p className={sentence}>Nothing sounds. {reason}</p>
    </Notice>
  ) : null;
}

/** Share of the hits that must change lines before this is offered. */
const WORTH_READING = 0.02;

/** Parts from older versions keep the lines found back then. Offered once, if detection now finds different ones. */
function useLinesOffer(): ReactNode {
  const store = useBenchStore();
  const wasOlder = useBench((s) => s.wasOlder);
  const [others, setOthers] = useState<number | null>(null);
  useEffect(() => {
    if (!wasOlder) return;
    const asked = new AbortController();
    otherLines(store, asked.signal).then(
      (n) => asked.signal.aborted || setOthers(n),
      () => {},
    );
    return () => asked.abort(new Error('left'));
  }, [store, wasOlder]);
  if (!wasOlder || others === null || others <= WORTH_READING * store.getState().part.hits.length) return null;
  const answer = () => store.setState({ wasOlder: false });
  return (
    <Notice name="lines-offer">
      <p className={sentence}>
        {counted(others, 'hit')} probably {plural(others, 'belongs', 'belong')} to another grid line. Detecting the lines again moves no
        hits.
      </p>
      <Button
        look="strong"
        size="small"
        onClick={() => {
          answer();
          void detectAgain(store, null);
        }}
      >
        Detect again
      </Button>
      <Button size="small" onClick={answer}>
        Dismiss
      </Button>
    </Notice>
  );
}

/** The store is forbidden or silent: said once, until it is read. */
function useStoreTrouble(): ReactNode {
  const words = useStoreWords();
  const [read, setRead] = useState<string | null>(null);
  if (words === null || words === read) return null;
  return (
    <Notice tone="danger" name="store-notice">
      <p className={sentence}>{words}</p>
      <Button size="small" onClick={() => setRead(words)}>
        OK
      </Button>
    </Notice>
  );
}

function useSaveTrouble(): ReactNode {
  const save = useBench((s) => s.save);
  const { getState } = useBenchStore();
  const router = useRouter();
  if (save.kind !== 'failed') return null;
  /** With all that belongs to it, where it still lies in the drawer; what was not saved follows. */
  const putBack = async () => {
    try {
      const { id } = getState();
      await deletedStore.putBack([id]);
      if (!(await partStore.has(id))) await keepCopy();
    } catch (e) {
      showError(e);
    }
  };
  const keepCopy = async () => {
    try {
      const { part, id } = getState();
      const song = await partStore.song(id);
      const copy = await partStore.create(part, song ? { song } : {});
      getState().letGo();
      router.push(`/bench/${copy}`);
    } catch (e) {
      showError(e);
    }
  };
  const { code, message, remedy } = save.error;
  return (
    <Notice tone="danger" name="save-trouble">
      <p className={sentence}>
        {message} {remedy}
      </p>
      {code === 'changed-elsewhere' ? (
        <Button look="strong" size="small" onClick={() => getState().setUi({ dialog: 'two-tabs' })}>
          See both
        </Button>
      ) : code === 'deleted-elsewhere' ? (
        <>
          <Button look="strong" size="small" onClick={() => void putBack()}>
            Put it back
          </Button>
          <Button size="small" onClick={() => void keepCopy()}>
            Keep it as a new part
          </Button>
        </>
      ) : (
        <Button size="small" onClick={() => getState().retrySave()}>
          Try again
        </Button>
      )}
      <Button size="small" onClick={() => void savePartFile(getState().id, getState().part).catch(showError)}>
        Save a part file
      </Button>
    </Notice>
  );
}
