import { counted } from '@/core/plurals';
import { newHitId } from '@/editing/ids';
import { addHits } from '@/core/commands/hits';
import { labelOfRow } from '@/core/part/rows';
import type { Part } from '@/core/model/part';
import type { VoiceName } from '@/core/row-names';
import { placeText } from '../words/describe';
import type { BenchStore } from '../store/bench-store';
import type { Proposal } from '../store/tools';

/**
 * Suggested ghosts, one by one: heard, taken, left. Each returns false where nothing is suggested, so that its key does what it always
 * does.
 */

type Audition = (voice: VoiceName, velocity: number) => void;

/** The suggestion that is looked at. */
function current(store: BenchStore): { proposal: Proposal; at: number } | null {
  const { proposal } = store.getState().ui;
  return proposal?.owner === 'ghosts' && proposal.hits.length > 0
    ? { proposal, at: Math.min(proposal.at, proposal.hits.length - 1) }
    : null;
}

/** The part as it would be with all suggestions taken: what is heard while they are shown. */
export function withProposal(part: Part, proposal: Proposal | null): Part {
  if (!proposal || proposal.hits.length === 0) return part;
  return addHits(
    part,
    proposal.hits.map((h) => ({ ...h, id: `suggested ${h.voice} ${h.tick}`, ghost: proposal.owner === 'ghosts' })),
  );
}

/** Looks at the next or the one before, and sounds it. */
export function lookAtSuggestion(store: BenchStore, by: number, audition: Audition): boolean {
  const here = current(store);
  if (!here) return false;
  const count = here.proposal.hits.length;
  const at = (here.at + by + count) % count;
  store.getState().setUi({ proposal: { ...here.proposal, at } });
  const hit = here.proposal.hits[at];
  if (hit) audition(hit.voice, hit.velocity);
  return true;
}

/** Takes the one that is looked at; the next takes its place. */
export function takeSuggestion(store: BenchStore): boolean {
  const here = current(store);
  const hit = here?.proposal.hits[here.at];
  if (!here || !hit) return false;
  drop(store, here);
  const { part, run } = store.getState();
  run(`Take a ghost: ${labelOfRow(part, hit.voice)}, ${placeText(part, hit.tick)}`, (p) =>
    addHits(p, [{ ...hit, id: newHitId(), ghost: true }]),
  );
  return true;
}

/** Leaves the one that is looked at. */
export function leaveSuggestion(store: BenchStore): boolean {
  const here = current(store);
  if (!here) return false;
  drop(store, here);
  return true;
}

function drop(store: BenchStore, { proposal, at }: { proposal: Proposal; at: number }) {
  const hits = proposal.hits.filter((_, i) => i !== at);
  store.getState().setUi({ proposal: hits.length > 0 ? { ...proposal, hits, at: Math.min(at, hits.length - 1) } : null });
}

/** Takes all that are left, as one step, and selects them. */
export function takeAllSuggestions(store: BenchStore): boolean {
  const here = current(store);
  if (!here) return false;
  const fresh = here.proposal.hits.map((h) => ({ ...h, id: newHitId(), ghost: true }));
  store.getState().setUi({ proposal: null });
  store.getState().run(
    `Take ${counted(fresh.length, 'ghost')}`,
    (p) => addHits(p, fresh),
    () => fresh.map((h) => h.id),
  );
  return true;
}
