import type { ComponentType } from 'react';
import type { HitId, Part } from '@/core/model/part';

/** What is taken out: a part as it stands on the Bench. */
export interface ExportSource {
  id: string;
  part: Part;
  /** The imported song is kept beside it. */
  hasSong: boolean;
  /** It is an idea, whose bars begin where they stand in the part: files begin with them. */
  isIdea?: boolean;
  /** Hits that are selected. */
  selection: ReadonlySet<HitId>;
}

/** A file that an export wrote, and what it did, in sentences. */
export interface Exported {
  data: Uint8Array | string;
  fileName: string;
  /** Media type. */
  type: string;
  said: readonly string[];
  /** It would be empty: why. Nothing is written then. */
  empty?: string;
}

/** What long work is told of, and tells. */
export interface Job {
  signal: AbortSignal;
  /** 0 to 1. */
  onProgress: (done: number) => void;
}

/**
 * A way to take a part out. The list of them all is all.ts. `O` are the options that it reads; exporters that name one alike share it,
 * so that a choice stays when another way is chosen.
 */
export interface ExporterSpec<O extends object = Record<string, unknown>> {
  id: string;
  /** After “Export”, and what follows it in the sentence. */
  title: string;
  about: string;
  isAvailable(source: ExportSource): boolean;
  /** What its options are at first. */
  initial(source: ExportSource): O;
  Options?: ComponentType<{ source: ExportSource; options: O; onChange: (change: Partial<O>) => void }>;
  /** Why it cannot be done with these options; null where it can. */
  refusal?(source: ExportSource, options: O): string | null;
  /** It is made at once, so that what it would write, or why it cannot, is known before: its file can be dragged out of the dialog. */
  isQuick?: boolean;
  /** @throws NamedError */
  run(source: ExportSource, options: O, job: Job): Promise<Exported>;
}
