import { hitsFeature } from './hits';
import { barsFeature } from './bars';
import { feelFeature } from './feel';
import { soundFeature } from './sound';
import { breaksFeature } from './breaks';
import { orderFeature } from './order';
import { analysisFeature } from './analysis';
import { handsFeature } from './hands';
import { takesFeature } from './takes';
import { tempoFeature } from './tempo';
import { libraryDialogsFeature } from './library-dialogs';
import type { BenchFeature } from '../shared/feature';

/** The selection on one page, bars and meter on the next, then feel and sound, then sections, then recording. */
export const BENCH_FEATURES: readonly BenchFeature[] = [
  hitsFeature,
  barsFeature,
  feelFeature,
  soundFeature,
  breaksFeature,
  orderFeature,
  analysisFeature,
  handsFeature,
  takesFeature,
  tempoFeature,
  libraryDialogsFeature,
];
