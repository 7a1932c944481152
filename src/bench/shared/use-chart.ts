import { Chart, type ChartConfiguration, type ChartType } from 'chart.js';
import { useEffect, useRef, type RefObject } from 'react';
import { CANVAS_FONT, onThemeChange, readPalette, type Palette } from '../stems/drawing/palette';

/**
 * A chart on a canvas, still and deaf: it is painted whenever `paint` is another one, and when the theme changes.
 * @param config of an empty chart, made once @param paint its data and colours
 */
export function useChart<T extends ChartType>(
  canvas: RefObject<HTMLCanvasElement | null>,
  config: () => ChartConfiguration<T>,
  paint: (chart: Chart<T>, palette: Palette) => void,
): RefObject<Chart<T> | null> {
  const chart = useRef<Chart<T> | null>(null);
  const made = useRef(config);
  useEffect(() => {
    if (!canvas.current) return;
    const c = new Chart<T>(canvas.current, made.current());
    chart.current = c;
    return () => {
      chart.current = null;
      c.destroy();
    };
  }, [canvas]);
  useEffect(() => {
    const draw = () => {
      const c = chart.current;
      if (!c) return;
      const palette = readPalette(c.canvas);
      for (const axis of Object.values((c.options as { scales?: Record<string, Axis> } | undefined)?.scales ?? {})) dress(axis, palette);
      paint(c, palette);
      c.update();
    };
    draw();
    return onThemeChange(draw);
  }, [paint]);
  return chart;
}

interface Axis {
  ticks?: object;
  grid?: object;
  border?: object;
}

function dress(axis: Axis, palette: Palette) {
  if (axis.ticks) Object.assign(axis.ticks, { color: palette.faint, font: { family: CANVAS_FONT } });
  if (axis.grid) Object.assign(axis.grid, { color: palette.line });
  if (axis.border) Object.assign(axis.border, { color: palette.strong });
}

/** What every chart of ours has. */
export const STILL = { animation: false, maintainAspectRatio: false, events: [] } as const satisfies ChartConfiguration['options'];
