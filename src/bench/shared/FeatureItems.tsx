'use client';

import { DropdownMenu } from 'radix-ui';
import { MENU_ITEM } from '@/ui/PointMenu';
import type { BenchFeature } from './feature';
import { useBench, useBenchStore } from '../store/context';
import { useFeatures } from './features';

interface Props {
  menu: keyof NonNullable<BenchFeature['menus']>;
  row?: string;
  bar?: number;
}

/** The entries that features bring to a menu. */
export function FeatureItems({ menu, ...clicked }: Props) {
  const store = useBenchStore();
  const part = useBench((s) => s.part);
  const entries = useFeatures().flatMap((f) => f.menus?.[menu] ?? []);
  return entries
    .filter(({ isOffered }) => isOffered?.(part) ?? true)
    .map(({ text, run }) => (
      <DropdownMenu.Item key={text} className={MENU_ITEM} onSelect={() => run(store, clicked)}>
        {text}
      </DropdownMenu.Item>
    ));
}
