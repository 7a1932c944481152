'use client';

import { createContext, useContext, useMemo } from 'react';
import type { BenchFeature, PageSpec } from './feature';
import { keysOfFeatures } from './feature-keys';
import type { KeySpec } from './key-spec';

const Features = createContext<readonly BenchFeature[]>([]);

export const FeaturesProvider = Features.Provider;

/** The features that this Bench has. */
export const useFeatures = (): readonly BenchFeature[] => useContext(Features);

/** Their pages, in the order of the features. */
export function usePages(): readonly PageSpec[] {
  const features = useFeatures();
  return useMemo(() => features.flatMap((f) => f.pages ?? []), [features]);
}

/** The Bench's own keys, then those of features. */
export function useAllKeys(own: readonly KeySpec[]): readonly KeySpec[] {
  const features = useFeatures();
  return useMemo(() => [...own, ...keysOfFeatures(features)], [own, features]);
}
