/** The roles of globals.css as the canvas needs them: read once a theme. */
export interface Palette {
  ground: string;
  surface: string;
  sunk: string;
  ink: string;
  faint: string;
  line: string;
  /** Lines of steps and rows. */
  step: string;
  strong: string;
  early: string;
  /** Early, where it is text. */
  earlyText: string;
  late: string;
  lateText: string;
  pale: string;
  accent: string;
  onAccent: string;
}

export function readPalette(element: Element): Palette {
  const style = getComputedStyle(element);
  const role = (name: string): string => style.getPropertyValue(`--${name}`).trim();
  return {
    ground: role('ground'),
    surface: role('surface'),
    sunk: role('sunk'),
    ink: role('ink'),
    faint: role('faint'),
    line: role('line'),
    step: role('step'),
    strong: role('strong'),
    early: role('early'),
    earlyText: role('early-text'),
    late: role('late'),
    lateText: role('late-text'),
    pale: role('pale'),
    accent: role('accent'),
    onAccent: role('on-accent'),
  };
}

export const CANVAS_FONT = "'Source Sans 3 Variable', sans-serif";

/** Calls back whenever the page's theme has changed, so that canvases are drawn anew in its colours. @returns how to stop */
export function onThemeChange(changed: () => void): () => void {
  const observer = new MutationObserver(changed);
  observer.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
  return () => observer.disconnect();
}
