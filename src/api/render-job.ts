import { writeWav, type Bits } from '@/core/audio/wav';
import type { Part } from '@/core/model/part';
import { planRender, renderPlan, strokeSource, type Ending, type StrokeSource } from '@/core/render/render-part';
import type { VoiceName } from '@/core/row-names';

/** A render as plain data: it crosses to a thread. */
export interface RenderJob {
  part: Part;
  rate: number;
  bits: Bits;
  /** Bars from 0, `to` exclusive. */
  from: number;
  to: number;
  ending: Ending;
  rows?: VoiceName[];
  room: boolean;
  master: boolean;
}

export interface RenderResult {
  bytes: Uint8Array;
  account: { leftOut: string[]; early: number; folds: { row: string; as: string }[] };
}

/** What is heard at the usual volume; without the master it is 1. */
const VOLUME = 0.8;

let strokes: { rate: number; source: StrokeSource } | null = null;

/** Renders a job. Strokes are kept for the next one at the same rate. */
export function runRender({ part, bits, master, ...job }: RenderJob): RenderResult {
  if (strokes?.rate !== job.rate) strokes = { rate: job.rate, source: strokeSource(job.rate) };
  const plan = planRender(part, { ...job, volume: master ? VOLUME : 1, limited: master, strokes: strokes.source });
  const { left, right } = renderPlan(plan);
  return { bytes: writeWav(left, right, { rate: job.rate, bits, loop: job.ending === 'fold', seed: part.feel.seed }), account: { leftOut: plan.account.silent, early: plan.account.early, folds: plan.account.folds } };
}
