import { BENCH_PAGES } from './all';
import type { BenchStore } from '../store/bench-store';

/** Opens a page of the side panel, with a section of it if one is named, and leads the keyboard there. */
export function openPage(store: BenchStore, id: string, section: string | null = null) {
  const { desk, setDesk } = store.getState();
  const open = desk.sections[id] ?? BENCH_PAGES.find((p) => p.id === id)?.open ?? [];
  const sections = section === null || open.includes(section) ? desk.sections : { ...desk.sections, [id]: [...open, section] };
  setDesk({ page: id, sections, goTo: { page: id, section, n: (desk.goTo?.n ?? 0) + 1 } });
}
