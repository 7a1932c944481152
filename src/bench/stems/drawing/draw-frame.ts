import { meterMapOf } from '@/core/part/part-time';
import { lockTest } from '@/core/part/locks';
import { audibleVoices } from '@/core/playback/program';
import type { BenchScene } from '../geometry/scene';
import { RULER_HEIGHT } from '../geometry/rows';
import type { BenchState } from '../../store/bench-store';
import { drawBand, drawRibbon } from './draw-far';
import { drawGrid } from './draw-grid';
import { drawStems } from './draw-stems';
import { drawSticking } from './draw-sticking';
import { drawRounds } from './draw-rounds';
import { drawOrnaments } from './draw-ornaments';
import { drawBehind, drawCaret, drawProposed, drawPulls } from './draw-marks';
import type { Palette } from './palette';

/** Draws on the stems, after everything else; it may read all and changes nothing. */
export type StemsOverlay = (g: CanvasRenderingContext2D, palette: Palette, scene: BenchScene, state: BenchState) => void;

/** Draws one state of the Bench. */
export function drawFrame(
  g: CanvasRenderingContext2D,
  palette: Palette,
  scene: BenchScene,
  state: BenchState,
  width: number,
  height: number,
  overlays: readonly StemsOverlay[] = [],
) {
  const { part, view, selection } = state;
  drawGrid(g, palette, {
    part,
    lined: scene.lined,
    axis: scene.axis,
    width,
    height,
    grid: view.grid,
    rows: scene.rows,
    focusIndex: scene.rows.findIndex((r) => r.voice === state.focus),
    firstBar: part.hits[0] ? Math.min(0, meterMapOf(part).barAt(part.hits[0].tick).index) : 0,
  });
  const audible = audibleVoices(part);
  const isLocked = lockTest(part);
  const far = { part, performance: scene.performance, selection, axis: scene.axis, width };
  g.save();
  g.beginPath();
  g.rect(0, RULER_HEIGHT - 2, width, height);
  g.clip();
  drawBehind(g, palette, scene);
  scene.rows.forEach((row, r) => {
    if (row.top > height || row.top + row.height < RULER_HEIGHT) return;
    const silent = !audible.has(row.voice);
    g.globalAlpha = silent ? 0.35 : 1;
    if (scene.detail === 'band') drawBand(g, palette, row, far);
    else {
      if (scene.detail === 'ribbon') drawRibbon(g, palette, row, far);
      drawStems(g, palette, scene.stems[r] ?? [], row, {
        part,
        performance: scene.performance,
        selection,
        detail: scene.detail,
        axis: scene.axis,
        silent,
        strays: scene.strays,
        doubtful: scene.doubtful,
        unheard: scene.unheard,
        timbre: row.voice === state.focus,
        isLocked,
      });
      if (state.ui.sticking && state.hands?.part === part && (scene.detail === 'full' || scene.detail === 'small'))
        drawSticking(g, palette, scene.stems[r] ?? [], state.hands.limbs);
      if (scene.detail === 'full' || scene.detail === 'small') drawRounds(g, palette, row, part, scene.axis, width);
    }
    g.globalAlpha = 1;
  });
  drawOrnaments(g, palette, scene.ornaments, { detail: scene.detail, selection });
  drawPulls(g, palette, scene);
  drawProposed(g, palette, scene);
  for (const draw of overlays) {
    g.save();
    draw(g, palette, scene, state);
    g.restore();
  }
  g.restore();
  drawCaret(g, palette, scene, width);
}
