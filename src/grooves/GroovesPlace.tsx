'use client';

import {
  DndContext,
  DragOverlay,
  pointerWithin,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
  type Modifier,
} from '@dnd-kit/core';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useStore } from 'zustand';
import { useStored } from '@/storage/use-stored';
import type { Groove } from '@/core/model/groove';
import { GROOVE_FILE_ENDING, readGrooveFile } from '@/formats/groove-format';
import { kindOfFile } from '@/formats/kind-of-file';
import { bringIn, broughtWords } from '@/storage/bring-in';
import { seedOnFirstVisit } from '@/storage/demo-seed';
import { grooveStore } from '@/storage/groove-store';
import { partStore } from '@/storage/part-store';
import { mayBeHalfDone } from '@/editing/settle';
import { unsavedParts } from '@/editing/unsaved';
import { say, showError } from '@/ui/notify';
import { createGroovesStore, freeName, grooveOf } from './store/grooves-store';
import { GroovesProvider, useGrooves } from './store/context';
import { LearnFlow } from './learn/LearnFlow';
import { useHearing } from './store/use-hearing';
import { usePlaceKeys } from './keys/use-place-keys';
import { useGroovesDiagnostics } from './diagnostics';
import { GrooveDetail } from './components/GrooveDetail';
import { GroovePicture } from './pictures/GroovePicture';
import { GrooveShelf } from './components/GrooveShelf';
import { StandPanel, takeOn, type DropTarget } from './components/StandPanel';
import { SaveTrouble } from './components/SaveTrouble';
import { NEUTRAL, TopLine } from './components/TopLine';

interface Props {
  /** The part to try grooves on. */
  partId?: string | undefined;
  /** The groove to begin with. */
  grooveId?: string | undefined;
}

/** All grooves: seen, heard on a part, learnt, shaped, blended, used, given away. */
export function GroovesPlace({ partId, grooveId }: Props) {
  const [store] = useState(() => createGroovesStore(partStore, grooveStore));
  const hearing = useHearing(store);
  useGroovesDiagnostics(store, hearing);
  const router = useRouter();
  const parts = useStored(() => partStore.list().catch(() => []), []) ?? [];
  const [learning, setLearning] = useState<{ file: File | null } | null>(null);
  const [dragged, setDragged] = useState<string | null>(null);

  useOwnGrooves(store, grooveId);
  useStand(store, partId);
  const standing = useStore(store, (s) => s.stand?.id);
  useEffect(() => (standing ? partStore.follow(standing, (head) => store.getState().hear(head)) : undefined), [store, standing]);
  useEffect(
    () =>
      mayBeHalfDone(() => {
        store.getState().settle();
        return null;
      }),
    [store],
  );
  useEffect(() => {
    document.title = 'Grooves · Nod Sway';
    // Whoever comes here first finds parts to try grooves on as well.
    seedOnFirstVisit().catch(showError);
  }, []);

  const bring = async (file: File) => {
    if (!file.name.toLowerCase().endsWith('.json')) return setLearning({ file });
    try {
      const text = await file.text();
      // Another kind of ours goes where it belongs.
      if (kindOfFile(text) !== 'groove') return say(broughtWords(await bringIn(text, file.name)));
      const groove = readGrooveFile(text);
      store.getState().keep(`Import ${groove.name}`, groove);
      say(`${groove.name} is among your grooves.`);
    } catch (e) {
      showError(e);
    }
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    multiple: false,
    onDrop: ([file]) => file && void bring(file),
  });

  const openPart = (id: string) => router.replace(id === NEUTRAL ? '/grooves' : `/grooves?part=${encodeURIComponent(id)}`);

  usePlaceKeys(store, hearing);

  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 8 } }));
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    setDragged(null);
    const target = over?.data.current as DropTarget | undefined;
    if (!target) return;
    if (store.getState().chosen !== active.id) store.getState().choose(String(active.id));
    if ('row' in target) return takeOn(store, target.row === null ? undefined : [target.row]);
    partStore.load(target.part).then((stored) => {
      store.getState().setStand({ id: target.part, part: stored.part, head: stored.head });
      takeOn(store, undefined);
      openPart(target.part);
    }, showError);
  };

  return (
    <GroovesProvider value={store}>
      <DndContext
        sensors={sensors}
        collisionDetection={pointerWithin}
        onDragStart={({ active }) => setDragged(String(active.id))}
        onDragCancel={() => setDragged(null)}
        onDragEnd={onDragEnd}
      >
        <div {...getRootProps()} className="flex h-dvh min-h-[480px] flex-col overflow-hidden">
          <TopLine hearing={hearing} parts={parts} onPart={openPart} onLearn={() => setLearning({ file: null })} onBring={open} />
          <SaveTrouble />
          <main className="flex min-h-0 flex-1 border-t border-line narrow:flex-col">
            <input {...getInputProps()} aria-label="Groove or MIDI file" data-testid="groove-file" />
            <GrooveShelf hearing={hearing} />
            <div className="flex min-h-0 shrink-0 tight:w-[380px] tight:flex-col tight:overflow-auto tight:border-l tight:border-line low:w-[330px] narrow:h-[46%] narrow:w-full narrow:flex-row narrow:overflow-hidden narrow:border-t narrow:border-l-0">
              <GrooveDetail hearing={hearing} />
              <StandPanel parts={parts} />
            </div>
          </main>
          {isDragActive && (
            <div className="pointer-events-none fixed inset-3 z-30 flex items-center justify-center rounded-xl border-2 border-dashed border-accent bg-ground/85">
              <p className="font-serif text-2xl">
                Let go: {GROOVE_FILE_ENDING} drop a groove to import it; drop MIDI or a recorded loop to extract a groove
              </p>
            </div>
          )}
        </div>
        <DragOverlay dropAnimation={null} modifiers={BESIDE_POINTER}>
          {dragged && <Dragged id={dragged} />}
        </DragOverlay>
        {learning && (
          <LearnFlow
            parts={parts}
            file={learning.file}
            onClose={() => setLearning(null)}
            onKeep={(groove) => {
              store.getState().keep(`Extract ${groove.name}`, { ...groove, name: freeName(store.getState(), groove.name) }, ['learnt']);
              setLearning(null);
            }}
          />
        )}
      </DndContext>
    </GroovesProvider>
  );
}

/** The dragged picture stands beside the pointer, so that it hides no name under it. */
const BESIDE_POINTER: Modifier[] = [
  ({ activatorEvent, activeNodeRect, transform }) => {
    if (!activeNodeRect || !(activatorEvent instanceof PointerEvent)) return transform;
    return {
      ...transform,
      x: transform.x + activatorEvent.clientX - activeNodeRect.left + 14,
      y: transform.y + activatorEvent.clientY - activeNodeRect.top + 14,
    };
  },
];

/** What is beside the pointer while a card is dragged. */
function Dragged({ id }: { id: string }) {
  const groove = useGrooves((s): Groove | undefined => grooveOf(s, id));
  return groove ? (
    <div className="w-44 rounded-lg border border-accent bg-surface px-2 py-1 opacity-90 shadow-md">
      <GroovePicture groove={groove} width={160} height={40} />
      <span className="font-serif">{groove.name}</span>
    </div>
  ) : null;
}

type Store = ReturnType<typeof createGroovesStore>;

/** Follows the user's grooves in the store, other tabs' too. */
function useOwnGrooves(store: Store, first: string | undefined): void {
  const kept = useStored(() => grooveStore.list().catch(() => null), []);
  const begun = useRef(false);
  useEffect(() => {
    if (!kept) return;
    store.getState().setOwn(kept);
    if (!begun.current && first && kept.some((k) => k.id === first)) store.getState().choose(first);
    begun.current = true;
  }, [store, kept, first]);
}

/** Puts the part of the address on the stand. */
function useStand(store: Store, id: string | undefined): void {
  useEffect(() => {
    let current = true;
    if (!id) return void store.getState().setStand(null);
    if (store.getState().stand?.id === id) return;
    if (unsavedParts.getState().get(id)?.error) return say('That part has edits that are not saved: open it on the Bench first.');
    const load = async () => {
      await seedOnFirstVisit();
      const { part, head } = await partStore.load(id);
      if (current) store.getState().setStand({ id, part, head });
    };
    load().catch((e: unknown) => {
      if (current) showError(e);
    });
    return () => {
      current = false;
    };
  }, [store, id]);
}
