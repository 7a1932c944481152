import { writeWav, type Bits } from '@/core/audio/wav';
import type { Part } from '@/core/model/part';
import { USUAL_VOLUME } from '@/core/playback/mixer';
import { planRender, renderPlan, strokeSource, type RenderRange, type StrokeSource } from '@/core/render/render-part';
import type { VoiceName } from '@/core/row-names';

/** What is rendered, and how. */
export interface RenderJob extends RenderRange {
  part: Part;
  bits: Bits;
  rows?: VoiceName[];
  room: boolean;
  order: boolean;
  master: boolean;
}

export interface RenderResult {
  bytes: Uint8Array;
  account: {
    leftOut: string[];
    early: number;
    folds: { row: string; as: string }[];
    missing: { row: string; name: string }[];
    missingKit?: string;
  };
}

let strokes: { rate: number; source: StrokeSource } | null = null;

/** Renders a job. Strokes are kept for the next one at the same rate. */
export function runRender({ part, bits, master, ...job }: RenderJob): RenderResult {
  if (strokes?.rate !== job.rate) strokes = { rate: job.rate, source: strokeSource(job.rate) };
  const plan = planRender(part, { ...job, volume: master ? USUAL_VOLUME : 1, limited: master, strokes: strokes.source });
  const { left, right } = renderPlan(plan);
  return {
    bytes: writeWav(left, right, { rate: job.rate, bits, loop: job.ending === 'fold', seed: part.feel.seed }),
    account: {
      leftOut: plan.account.silent,
      early: plan.account.early,
      folds: plan.account.folds,
      missing: plan.account.missing,
      ...(part.ownKit ? { missingKit: part.ownKit.name } : {}),
    },
  };
}
