/** What the page remembers beside its store, by names of ours. */

const OURS = 'nod-sway:';
/** The theme is kept by a package, under a name of its own. */
const THEME = { theirs: 'theme', ours: `${OURS}theme` };

export function remembered(): Record<string, string> {
  const found: Record<string, string> = {};
  try {
    for (const name of Object.keys(localStorage)) if (name.startsWith(OURS)) found[name] = localStorage.getItem(name) ?? '';
    const theme = localStorage.getItem(THEME.theirs);
    if (theme !== null) found[THEME.ours] = theme;
  } catch {
    // Forbidden: nothing is remembered.
  }
  return found;
}

export function remember(values: Readonly<Record<string, string>>): void {
  try {
    for (const [name, value] of Object.entries(values)) localStorage.setItem(name === THEME.ours ? THEME.theirs : name, value);
  } catch {
    // Forbidden, or full: settings stay as they are.
  }
}
