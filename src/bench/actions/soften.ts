import { hitsByRule } from '@/core/selection/rules';
import { setQuality } from '@/core/shaping/qualities';
import { familyOfVoice } from '@/core/row-names';
import { say } from '@/ui/notify';
import type { BenchStore } from '../store/bench-store';
import { performanceOf } from '../store/derived';
import { actOnSelection } from './act';

/** Softer off-beats keep this much of their velocity. */
const SOFTER = 0.75;

/** Chooses the off-beats of hats and rides, and takes a quarter of their velocity off. */
export function softenOffBeatHats(store: BenchStore) {
  const { part, select } = store.getState();
  const off = new Set(hitsByRule(part, performanceOf(part), { kind: 'off-beats' }));
  const hats = part.hits.filter((h) => off.has(h.id) && ['hat', 'ride'].includes(familyOfVoice(h.voice) ?? '')).map((h) => h.id);
  if (hats.length === 0) return say('There are no hats on off-beats.');
  select(hats);
  actOnSelection(store, 'Soften', (p, ids) => setQuality(p, ids, 'velocity', (h) => Math.round(h.velocity * SOFTER)));
}
