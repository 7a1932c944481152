/** Small choices that outlast the visit; a browser that keeps nothing simply forgets them. */
import { ONTO, type Onto } from '@/core/commands/copy';

const ONTO_NAME = 'nod-sway:onto';

export function rememberedOnto(): Onto {
  try {
    const kept = localStorage.getItem(ONTO_NAME);
    return ONTO.find((o) => o === kept) ?? 'replace';
  } catch {
    return 'replace';
  }
}

export function rememberOnto(onto: Onto): void {
  try {
    localStorage.setItem(ONTO_NAME, onto);
  } catch {
    // Not kept: the choice holds for this visit.
  }
}

const LEGEND_NAME = 'nod-sway:legend';

/** Whether the legend is still to be shown of itself. */
export function isLegendNew(): boolean {
  try {
    return localStorage.getItem(LEGEND_NAME) === null;
  } catch {
    return true;
  }
}

export function rememberLegend(): void {
  try {
    localStorage.setItem(LEGEND_NAME, 'read');
  } catch {
    // Not kept: it is shown again at the next visit.
  }
}

const STEPS_NAME = 'nod-sway:first-steps';
/** Parts whose first steps are remembered, the newest last. */
const MOST_PARTS = 100;

/** A step that a newly opened part offers. */
export interface FirstStep {
  id: string;
  done: boolean;
}

type KeptSteps = readonly [part: string, steps: readonly FirstStep[] | null];

const isStep = (s: unknown): s is FirstStep =>
  typeof s === 'object' && s !== null && typeof (s as FirstStep).id === 'string' && typeof (s as FirstStep).done === 'boolean';
const isKept = (entry: unknown): entry is KeptSteps =>
  Array.isArray(entry) && typeof entry[0] === 'string' && (entry[1] === null || (Array.isArray(entry[1]) && entry[1].every(isStep)));

const allSteps = (): KeptSteps[] => {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(STEPS_NAME) ?? '[]');
    return Array.isArray(kept) ? kept.filter(isKept) : [];
  } catch {
    return [];
  }
};

/** The first steps of a part, or null after they were dismissed. @param fresh whether they are offered where nothing is remembered */
export function rememberedSteps(id: string, fresh: boolean): readonly FirstStep[] | null {
  const kept = allSteps().find(([part]) => part === id);
  return kept ? kept[1] : fresh ? [] : null;
}

export function rememberSteps(id: string, steps: readonly FirstStep[] | null): void {
  try {
    localStorage.setItem(
      STEPS_NAME,
      JSON.stringify([
        ...allSteps()
          .filter(([part]) => part !== id)
          .slice(1 - MOST_PARTS),
        [id, steps],
      ]),
    );
  } catch {
    // Not kept: the choice holds for this visit.
  }
}
