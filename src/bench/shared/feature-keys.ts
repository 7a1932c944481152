/** Keys that features bring: those that open their pages, and their own. */
import { openPage } from '../actions/open-page';
import type { BenchFeature, PageSpec } from './feature';
import type { KeySpec } from './key-spec';

const keyOfPage = ({ id, title, letter, also = [] }: PageSpec): KeySpec => ({
  keys: [`p ${letter}`],
  group: 'Pages',
  text: `Open the page ${title}`,
  also,
  run: ({ store }) => openPage(store, id),
});

/** @example [...KEYS, ...keysOfFeatures(BENCH_FEATURES)] // all shortcuts there are */
export const keysOfFeatures = (features: readonly BenchFeature[]): KeySpec[] => [
  ...features.flatMap((f) => f.pages ?? []).map(keyOfPage),
  ...features.flatMap((f) => f.keys ?? []),
];
