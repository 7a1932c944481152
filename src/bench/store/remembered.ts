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
