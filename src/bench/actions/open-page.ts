import type { BenchStore } from '../store/bench-store';

/** Opens a page of the side panel, with a section of it if one is named, and leads the keyboard there. */
export function openPage(store: BenchStore, id: string, section: string | null = null) {
  const { ui, setUi } = store.getState();
  setUi({ page: id, goTo: { page: id, section, n: (ui.goTo?.n ?? 0) + 1 } });
}
