'use client';

import { GripVertical } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type DragEvent } from 'react';
import { isNamedError } from '@/core/errors';
import type { Part } from '@/core/model/part';
import { summarize } from '@/storage/summary';
import type { Exported, ExporterSpec, ExportSource } from './exporter';

const [WIDTH, HEIGHT] = [460, 64];
/** More bars than these would be a smudge. */
const MOST_BARS = 16;

/** The picture of what is exported is a handle: dragged out of the page it is the file, where the browser allows that. */
export function FilePicture({
  exporter,
  source,
  options,
  onReady,
}: {
  exporter: ExporterSpec;
  source: ExportSource;
  options: Record<string, unknown>;
  onReady: (refusal: string | null) => void;
}) {
  const file = useReadyFile(exporter, source, options, onReady);
  const url = useRef<string | null>(null);
  const onDragStart = (e: DragEvent) => {
    if (!file) return e.preventDefault();
    url.current = URL.createObjectURL(new Blob([file.data as BlobPart], { type: file.type }));
    e.dataTransfer.effectAllowed = 'copy';
    e.dataTransfer.setData('DownloadURL', `${file.type}:${file.fileName}:${url.current}`);
    e.dataTransfer.setData('text/uri-list', url.current);
  };
  const onDragEnd = () => {
    const done = url.current;
    // Whoever took it may still be reading.
    if (done) setTimeout(() => URL.revokeObjectURL(done), 60_000);
  };
  return (
    <div
      draggable={file !== null}
      onDragStart={onDragStart}
      onDragEnd={onDragEnd}
      data-testid="drag-out"
      className="mt-3 flex cursor-grab items-center gap-2 rounded-md border border-line bg-sunk px-2 py-1 active:cursor-grabbing"
      title="Drag the file to another program or a folder"
    >
      <GripVertical size={16} className="shrink-0 text-faint" aria-hidden="true" />
      <Stems part={source.part} />
      <span className="ml-auto min-w-0 truncate text-sm text-faint">{file ? file.fileName : '…'}</span>
    </div>
  );
}

/** The file as it would be written now, made before it is dragged: a drag does not wait. */
function useReadyFile(
  exporter: ExporterSpec,
  source: ExportSource,
  options: Record<string, unknown>,
  onReady: (refusal: string | null) => void,
): Exported | null {
  const tell = useRef(onReady);
  useEffect(() => {
    tell.current = onReady;
  });
  const [file, setFile] = useState<Exported | null>(null);
  const wanted = JSON.stringify(options);
  useEffect(() => {
    let isOver = false;
    exporter
      .run(source, JSON.parse(wanted) as Record<string, unknown>, { signal: new AbortController().signal, onProgress: () => {} })
      .then(
        (made) => {
          if (isOver) return;
          setFile(made.empty === undefined ? made : null);
          tell.current(made.empty ?? null);
        },
        // What cannot be exported says so before it is tried.
        (e: unknown) => {
          if (isOver) return;
          setFile(null);
          tell.current(isNamedError(e) ? `${e.message} ${e.remedy}` : String(e));
        },
      );
    return () => {
      isOver = true;
    };
  }, [exporter, source, wanted]);
  return file;
}

function Stems({ part }: { part: Part }) {
  const { stems, rows } = useMemo(() => summarize(part, Math.min(part.bars, MOST_BARS)), [part]);
  const row = HEIGHT / Math.max(1, rows);
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} className="h-14 w-56 shrink-0" aria-hidden="true">
      {stems.map(([place, r, height, lean], i) => {
        const x = 4 + place * (WIDTH - 8);
        const foot = (r + 1) * row - 1;
        return (
          <line
            key={i}
            x1={x}
            y1={foot}
            x2={x + lean * 6}
            y2={Math.max(1, foot - Math.max(5, height * row * 1.6))}
            className="stroke-ink"
            strokeWidth={2}
          />
        );
      })}
    </svg>
  );
}
