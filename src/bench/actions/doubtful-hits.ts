/** Stepping through uncertain hits, and deciding them. */
import { decideHomes, type Side } from '@/core/commands/marks';
import { doubtfulFlags } from '@/core/perform/doubtful';
import { say } from '@/ui/notify';
import { hitLinesText } from '../words/describe';
import type { BenchStore } from '../store/bench-store';
import { stemsFacts } from '../store/stems-facts';
import { actOnSelection } from './act';
import { reveal } from './view-control';

/** Selects what the open page lists next behind the selection, then from the start again; the next uncertain hit where it lists nothing. */
export function nextFinding(store: BenchStore): void {
  const { part, selection, ui, select } = store.getState();
  if (!ui.findings || ui.findings.length === 0) return nextDoubtful(store);
  const here = ui.findings.findLastIndex(({ ids }) => ids.length === selection.size && ids.every((id) => selection.has(id)));
  const last = part.hits.findLast((h) => selection.has(h.id))?.tick ?? -Infinity;
  const next = here >= 0 ? ui.findings[here + 1] : ui.findings.find(({ tick }) => tick > last);
  const finding = next ?? ui.findings[0];
  if (!finding) return;
  select([...finding.ids]);
  reveal(store, finding.tick, stemsFacts(store).width);
  finding.show?.();
  say(finding.text);
}

/** Selects the next uncertain hit behind the selection, then from the start again. */
export function nextDoubtful(store: BenchStore): void {
  const { part, selection, select } = store.getState();
  const flags = doubtfulFlags(part);
  const last = part.hits.findLastIndex((h) => selection.has(h.id));
  const doubtful = part.hits.flatMap((_, i) => (flags[i] === 1 ? [i] : []));
  const next = doubtful.find((i) => i > last) ?? doubtful[0];
  const hit = next === undefined ? undefined : part.hits[next];
  if (!hit) return say('No hit is uncertain.');
  select([hit.id]);
  reveal(store, hit.tick, stemsFacts(store).width);
  say(hitLinesText(part, hit));
}

/** Decides which of its two lines each selected hit belongs to. */
export const decideSelection = (store: BenchStore, side: Side): void =>
  actOnSelection(store, `Belongs to the ${side} line:`, (p, ids) => decideHomes(p, ids, side));
