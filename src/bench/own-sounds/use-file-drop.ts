'use client';

import { useEffect } from 'react';
import { labelOfRow, soundOfRow } from '@/core/part/rows';
import { isSoundPath } from '@/core/samples/sound-path';
import { say, showError } from '@/ui/notify';
import { gatherDrop } from '@/sounds/gather';
import type { DropRow } from '@/sounds/incoming';
import type { BenchFeature } from '../shared/feature';
import type { BenchStore } from '../store/bench-store';
import { useBenchStore } from '../store/context';

/** The row that lies under the pointer: by its name, or by its stems beside that. */
function rowUnder(e: DragEvent, store: BenchStore): DropRow | null {
  const named = e.target instanceof Element ? e.target.closest<HTMLElement>('[data-row]') : null;
  const beside = [...document.querySelectorAll<HTMLElement>('[data-row-names] [data-row]')].find((el) => {
    const { top, bottom } = el.getBoundingClientRect();
    return e.clientY >= top && e.clientY < bottom;
  });
  const onStems = e.target instanceof Element && e.target.closest('[data-stems]') !== null;
  const row = (named ?? (onStems ? beside : undefined))?.dataset.row;
  const { part } = store.getState();
  return row !== undefined && part.rows.some((r) => r.voice === row)
    ? { row, label: labelOfRow(part, row), voice: soundOfRow(part, row) }
    : null;
}

const isOnName = (e: DragEvent): boolean => e.target instanceof Element && e.target.closest('[data-row]') !== null;

/** A loop comes in under the part, and can still become the row's sound; anything else is that at once. */
async function dropOnStems(store: BenchStore, file: File, target: DropRow): Promise<void> {
  const { isLoop } = await import('@/breaks/bring-break');
  const asSound = async () => (await import('./BenchSounds')).receiveOnBench(store, Promise.resolve([{ path: file.name, file }]), target);
  if (!(await isLoop(file, new AbortController().signal))) return asSound();
  await (
    await import('../breaks/bring')
  ).bringUnder(store, file, { words: `as the sound of ${target.label}`, choose: () => void asSound().catch(showError) });
}

/** Parts and MIDI files are asked about; all else of ours goes where it belongs. */
async function bringNotes({ getState }: BenchStore, file: File): Promise<void> {
  if (/\.json$/i.test(file.name)) {
    // What reads files comes with the first of them.
    const [text, { bringIn, broughtWords }, { kindOfFile }] = await Promise.all([
      file.text(),
      import('@/storage/bring-in'),
      import('@/formats/kind-of-file'),
    ]);
    if (kindOfFile(text) !== 'part') return say(broughtWords(await bringIn(text, file.name)));
  }
  getState().setUi({ dialog: 'dropped', dropped: file });
}

/**
 * A file that is dropped on an open part never leads away from it: sounds play the row or the part, ours go where they belong, parts are
 * asked about.
 */
export function useFileDrop(features: readonly BenchFeature[]): void {
  const store = useBenchStore();
  useEffect(() => {
    const hasFiles = (e: DragEvent) => e.dataTransfer?.types.includes('Files') === true;
    const onOver = (e: DragEvent) => hasFiles(e) && e.preventDefault();
    const onDrop = (e: DragEvent) => {
      if (!hasFiles(e) || !e.dataTransfer) return;
      e.preventDefault();
      const [file] = e.dataTransfer.files;
      const alone = e.dataTransfer.items.length === 1 ? file : undefined;
      if (alone && /\.(midi?|json)$/i.test(alone.name)) return void bringNotes(store, alone).catch(showError);
      if (alone && features.some((f) => f.drop?.(store, alone))) return;
      const target = rowUnder(e, store);
      // A recording beside the rows is a loop for the part; on a row it is that row's sound.
      if (alone && !target && isSoundPath(alone.name))
        return void import('../breaks/bring').then(({ bringUnder }) => bringUnder(store, alone)).catch(showError);
      // On a row's stems it may be either: a loop is told by its strokes.
      if (alone && target && !isOnName(e) && isSoundPath(alone.name)) return void dropOnStems(store, alone, target).catch(showError);
      // A drop's files have to be asked for while it is handled.
      const gathering = gatherDrop(e.dataTransfer);
      import('./BenchSounds').then(({ receiveOnBench }) => receiveOnBench(store, gathering, target)).catch(showError);
    };
    window.addEventListener('dragover', onOver);
    window.addEventListener('drop', onDrop);
    return () => {
      window.removeEventListener('dragover', onOver);
      window.removeEventListener('drop', onDrop);
    };
  }, [store, features]);
}
