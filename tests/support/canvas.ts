import type { Palette } from '@/bench/stems/drawing/palette';

/** Each colour is its role's name, so that what was drawn can be read. */
export const PALETTE = new Proxy({}, { get: (_, role) => String(role) }) as Palette;

/** A thing that was drawn: how, with what, where. */
export interface Drawn {
  kind: 'rect' | 'dot' | 'ring' | 'line' | 'text' | 'box';
  colour: string;
  alpha: number;
  /** Rectangle and box: x, y, width, height; dot and ring: x, y, radius; line: x and y of each point; text: x and y. */
  at: number[];
  text?: string;
}

/** A drawing surface that keeps what is drawn on it instead of painting. A letter is six pixels wide. */
export function drawnOn(draw: (g: CanvasRenderingContext2D) => void): Drawn[] {
  const drawn: Drawn[] = [];
  let path: Pick<Drawn, 'kind' | 'at'>[] = [];
  const state = { fillStyle: '', strokeStyle: '', globalAlpha: 1, lineWidth: 1, font: '', textAlign: '', textBaseline: '', lineCap: '' };
  const kept: (typeof state)[] = [];
  const rounded = (at: readonly number[]): number[] => at.map((n) => Math.round(n * 100) / 100);
  const put = (kind: Drawn['kind'], colour: string, at: readonly number[], text?: string) =>
    drawn.push({ kind, colour, alpha: state.globalAlpha, at: rounded(at), ...(text === undefined ? {} : { text }) });
  const g = {
    save: () => kept.push({ ...state }),
    restore: () => Object.assign(state, kept.pop()),
    beginPath: () => (path = []),
    closePath: () => {},
    clip: () => {},
    rect: () => {},
    setLineDash: () => {},
    measureText: (text: string) => ({ width: 6 * text.length }),
    moveTo: (x: number, y: number) => path.push({ kind: 'line', at: [x, y] }),
    lineTo: (x: number, y: number) => (path.at(-1) as { at: number[] }).at.push(x, y),
    arc: (x: number, y: number, r: number) => path.push({ kind: 'dot', at: [x, y, r] }),
    roundRect: (x: number, y: number, w: number, h: number) => path.push({ kind: 'box', at: [x, y, w, h] }),
    fillRect: (x: number, y: number, w: number, h: number) => put('rect', state.fillStyle, [x, y, w, h]),
    fillText: (text: string, x: number, y: number) => put('text', state.fillStyle, [x, y], text),
    fill: () => path.forEach(({ kind, at }) => put(kind, state.fillStyle, at)),
    stroke: () => path.forEach(({ kind, at }) => put(kind === 'dot' ? 'ring' : kind, state.strokeStyle, at)),
  };
  draw(
    new Proxy(state, {
      get: (target, name) => (name in g ? g[name as keyof typeof g] : target[name as keyof typeof state]),
    }) as unknown as CanvasRenderingContext2D,
  );
  return drawn;
}

/** Those of a kind, and of a colour where it is named. */
export const of = (drawn: readonly Drawn[], kind: Drawn['kind'], colour?: string): Drawn[] =>
  drawn.filter((d) => d.kind === kind && (colour === undefined || d.colour === colour));
