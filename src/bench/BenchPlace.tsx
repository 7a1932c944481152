'use client';

import Link from 'next/link';
import { startTransition, useEffect, useState } from 'react';
import { isNamedError, isPassing } from '@/core/errors';
import { partStore, type StoredPart } from '@/storage/part-store';
import { bringRescuesBack, prepareStore } from '@/storage/prepare';
import { Button } from '@/ui/Button';
import { ErrorBoundary, Fault } from '@/ui/ErrorBoundary';
import { showError } from '@/ui/notify';
import { savePartFile } from '@/ui/save-part-file';
import { ShelfLink } from '@/ui/ShelfLink';
import { useStoreWords } from '@/ui/StoreNotice';
import { createBenchStore, heldBench, type BenchStore } from './store/bench-store';
import { benchHistoryOf, leftOfEdits } from './store/surroundings';
import { BenchProvider } from './store/context';
import { Bench } from './Bench';

/** Opens a part from the store and shows the Bench, or says why it cannot. */
export function BenchPlace({ partId }: { partId: string }) {
  const [opened, setOpened] = useState<Opened | null>(null);
  const [error, setError] = useState<Error | null>(null);
  const [attempt, setAttempt] = useState(0);
  const store = opened?.store ?? null;

  useEffect(() => {
    let current = true;
    const open = async () => {
      // What could not be saved is still here.
      const held = heldBench(partId);
      if (held) return setOpened({ store: held, stored: null });
      // A link to a demo part may be the first thing that is ever opened here.
      await (partId.startsWith('demo-') ? prepareStore() : bringRescuesBack());
      const [stored, song] = await Promise.all([partStore.load(partId), partStore.song(partId)]);
      // In slices: a whole Bench made at once would hold the page up.
      if (!current) return;
      startTransition(() => {
        setError(null);
        setOpened({ store: createBenchStore(partId, stored, song !== undefined, partStore), stored });
      });
    };
    open().catch((e: unknown) => {
      if (!isNamedError(e)) console.error(e);
      if (!current) return;
      setError(e instanceof Error ? e : new Error(String(e)));
      if (isPassing(e)) partStore.whenBack(() => current && setAttempt((n) => n + 1));
    });
    return () => {
      current = false;
    };
  }, [partId, attempt]);

  // Going back is possible after a reload too; opening does not wait for it.
  useEffect(() => (opened?.stored ? readHistory(opened.store, opened.stored, partId) : undefined), [opened, partId]);
  useEffect(() => (store ? followStored(store, partId) : undefined), [store, partId]);
  useEffect(() => (store ? keepLoop(store, partId) : undefined), [store, partId]);

  if (error) return <NotOpened error={error} again={() => setAttempt((n) => n + 1)} />;
  if (!store) return <Opening />;
  return (
    <BenchProvider value={store}>
      <ErrorBoundary
        fallback={(error, again) => (
          <Fault error={error} what="The Bench cannot be shown." again={again}>
            <Button onClick={() => void savePartFile(partId, store.getState().part).catch(showError)}>Save a part file</Button>
            <ShelfLink />
          </Fault>
        )}
      >
        <Bench />
      </ErrorBoundary>
    </BenchProvider>
  );
}

function NotOpened({ error, again }: { error: Error; again: () => void }) {
  if (!isNamedError(error))
    return (
      <Fault error={error} what="The part cannot be opened." again={again}>
        <ShelfLink />
      </Fault>
    );
  return (
    <main className="mx-auto max-w-xl px-6 py-24 text-center">
      <h1 className="font-serif text-2xl">{error.message}</h1>
      <p className="mt-2 mb-6 text-faint">{isPassing(error) ? 'The part opens as soon as the storage can be read again.' : error.remedy}</p>
      <Link href="/" className="underline underline-offset-4">
        Back to the Shelf
      </Link>
    </main>
  );
}

/** A Bench, and the part as it was stored; null where the Bench was held and has its history. */
interface Opened {
  store: BenchStore;
  stored: StoredPart | null;
}

/**
 * Reads ideas and the undo history once the Bench is open. If the storage fails, it is read again later: the part stays open.
 * @returns a function that stops it
 */
function readHistory(store: BenchStore, stored: StoredPart, partId: string): () => void {
  let current = true;
  const read = async () => {
    const { adoptHistory, addIdea } = store.getState();
    const ideas = await partStore.ideas(partId);
    const kept = await Promise.all(
      [{ id: partId, ...stored }, ...ideas].map(async (own) => ({ ...own, edits: await partStore.recentEdits(own.id, own.head) })),
    );
    if (!current) return;
    for (const idea of ideas) addIdea(idea);
    // All at once: a second attempt must not add the same history twice.
    for (const { id, part, edits } of kept) adoptHistory(benchHistoryOf(edits), leftOfEdits(edits, part), id);
  };
  const attempt = () =>
    void read().catch((e: unknown) => {
      if (!current) return;
      if (isPassing(e)) partStore.whenBack(() => current && attempt());
      else showError(e);
    });
  attempt();
  return () => {
    current = false;
  };
}

/** So long a loop stands before it is kept: one that is swept is kept once. */
const LOOP_STANDS_MS = 300;

/** Keeps the part's loop as it is set. @returns how to stop */
function keepLoop(store: BenchStore, partId: string): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const keep = () => {
    const { loop, fromBar, toBar } = store.getState().transport;
    timer = undefined;
    partStore.keepLoop(partId, { loop, fromBar, toBar }).catch(() => undefined);
  };
  const stop = store.subscribe(({ transport: now, idea }, { transport: before }) => {
    if (idea !== null || (now.loop === before.loop && now.fromBar === before.fromBar && now.toBar === before.toBar)) return;
    clearTimeout(timer);
    timer = setTimeout(keep, LOOP_STANDS_MS);
  });
  const keepNow = () => {
    if (timer === undefined) return;
    clearTimeout(timer);
    keep();
  };
  window.addEventListener('pagehide', keepNow);
  return () => {
    stop();
    window.removeEventListener('pagehide', keepNow);
    keepNow();
  };
}

/** Hears what other tabs do to the part and its ideas, new ones and those that are thrown away among them. */
function followStored(store: BenchStore, partId: string): () => void {
  const hear = (id: string, head: number | null) => {
    const { idea, recording, bothOf, dropIdea, hear: tell } = store.getState();
    const isNeeded = id === partId || (bothOf(id)?.steps.length ?? 0) > 0 || (recording && idea === id);
    if (head === null && !isNeeded) dropIdea(id);
    else tell(head, id);
  };
  const follow = (id: string) => partStore.follow(id, (head) => hear(id, head));
  const addNew = async (ids: readonly string[]) => {
    const isNew = (id: string) => !store.getState().ideas.some((i) => i.id === id);
    if (ids.some(isNew)) for (const idea of await partStore.ideas(partId)) if (isNew(idea.id)) store.getState().addIdea(idea);
  };
  const stops = new Map([[partId, follow(partId)]]);
  const update = () => {
    for (const { id } of store.getState().ideas) if (!stops.has(id)) stops.set(id, follow(id));
  };
  update();
  const stopIdeas = partStore.followIdeas(partId, (ids) => void addNew(ids).catch((e: unknown) => console.error(e)));
  stops.set('new ideas', stopIdeas);
  stops.set(
    'ideas',
    store.subscribe((s, before) => s.ideas !== before.ideas && update()),
  );
  return () => stops.forEach((stop) => stop());
}

export function Opening() {
  const words = useStoreWords();
  return (
    <main className="px-6 py-24 text-center text-faint" role="status">
      {words ?? 'Opening the part …'}
    </main>
  );
}
