import type { Ticks } from '@/core/units';
import type { ScheduledHit } from '@/core/playback/sequencer';
import type { Playback } from '../playback/use-playback';
import type { BenchStore } from '../store/bench-store';
import { xOf } from './geometry/axis';
import { RULER_HEIGHT } from './geometry/rows';
import type { BenchScene } from './geometry/scene';
import type { Rectangle } from './gestures/types';
import { heightOf, type Stem } from './geometry/stems';
import { lastTip } from './last-scene';
import type { Tip } from './tip';
import { drawPaleStem } from './drawing/draw-marks';
import { CANVAS_FONT, type Palette } from './drawing/palette';

/** How long a head nods, in seconds. */
const NOD_SECONDS = 0.14;

/** Of what is told of a hit. */
const TIP_LINE = 18;
const TIP_GAP = 24;

interface Nod {
  id: string;
  /** Audio clock, seconds. */
  at: number;
}

/** A stem that a click or painting would place. */
export interface HoverStem {
  x: number;
  velocity: number;
}

interface Hover {
  row: number;
  stems: readonly HoverStem[];
}

const sameHover = (a: Hover | null, b: Hover | null): boolean =>
  a === b ||
  (a !== null &&
    b !== null &&
    a.row === b.row &&
    a.stems.length === b.stems.length &&
    a.stems.every((s, i) => s.x === b.stems[i]?.x && s.velocity === b.stems[i]?.velocity));

/** The overlay above the stems: playhead, nodding heads, marquee, hovered step, the number beside the pointer. */
export class Overlay {
  private scene: BenchScene | null = null;
  private width = 0;
  private height = 0;
  private marquee: Rectangle | null = null;
  private readout: { text: string; x: number; y: number } | null = null;
  private hover: Hover | null = null;
  private tip: (Tip & { stem: Stem }) | null = null;
  private trace: readonly { x: number; y: number }[] | null = null;
  private nods: Nod[] = [];
  private pending = 0;
  /** Nothing is drawn on the overlay. */
  private clear = false;
  private readonly unlisten: () => void;
  private readonly still = matchMedia('(prefers-reduced-motion: reduce)').matches;
  /** Told of the playhead's tick at every frame while playing. */
  onFrame: (tick: Ticks) => void = () => {};

  constructor(
    private readonly g: CanvasRenderingContext2D,
    public palette: Palette,
    private readonly playback: Playback,
    private readonly store: BenchStore,
  ) {
    this.unlisten = playback.engine.onOnsets((onsets) => this.nod(onsets));
    this.wake();
  }

  dispose() {
    cancelAnimationFrame(this.pending);
    this.unlisten();
  }

  setScene(scene: BenchScene, width: number, height: number) {
    this.scene = scene;
    if (width !== this.width || height !== this.height) this.clear = false;
    this.width = width;
    this.height = height;
    this.wake();
  }

  setMarquee(r: Rectangle | null) {
    this.marquee = r;
    this.wake();
  }

  setReadout(text: string | null, x = 0, y = 0) {
    this.readout = text ? { text, x, y } : null;
    this.wake();
  }

  /** The line that is being drawn over velocities. */
  setTrace(points: readonly { x: number; y: number }[] | null) {
    this.trace = points;
    this.wake();
  }

  setHover(hover: Hover | null) {
    if (sameHover(hover, this.hover)) return;
    this.hover = hover;
    this.wake();
  }

  /** What is told of the hit under the pointer, beside it. */
  setTip(tip: (Tip & { stem: Stem }) | null) {
    if (tip?.stem === this.tip?.stem && tip?.title === this.tip?.title && tip?.lean === this.tip?.lean) return;
    this.tip = tip;
    lastTip.tip = tip;
    this.wake();
  }

  /** Draws at the next frame, and on while something moves. */
  wake() {
    this.pending ||= requestAnimationFrame(() => this.draw());
  }

  private nod(onsets: readonly ScheduledHit[]) {
    if (this.still) return;
    for (const o of onsets) {
      const id = this.playback.hitOfSlot(o.slot);
      if (id) this.nods.push({ id, at: o.frame / this.playback.engine.sampleRate });
    }
    this.wake();
  }

  private draw() {
    this.pending = 0;
    const { g, width, height } = this;
    const tick = this.playback.engine.position();
    // An empty overlay is left alone: handing a canvas over to the screen costs time in every frame of a sweep.
    const empty = tick === null && !this.hover && !this.tip && !this.trace && !this.marquee && !this.readout;
    if (empty && this.clear) return;
    this.clear = empty;
    g.clearRect(0, 0, width, height);
    if (this.scene && tick !== null) {
      this.drawPlayhead(this.scene, tick);
      this.drawNods(this.scene);
      this.onFrame(tick);
    }
    this.drawHover();
    this.drawTip();
    this.drawTrace();
    this.drawMarquee();
    this.drawReadout();
    if (tick !== null) this.wake();
    else this.nods = [];
  }

  /** The cursor touches the ruler and the feet, so that it never hides a lean. */
  private drawPlayhead(scene: BenchScene, tick: Ticks) {
    const x = xOf(scene.axis, tick);
    const { g } = this;
    g.fillStyle = this.palette.accent;
    g.beginPath();
    g.moveTo(x - 5, 20);
    g.lineTo(x + 5, 20);
    g.lineTo(x, 29);
    g.fill();
    g.fillRect(x - 0.75, 27, 1.5, RULER_HEIGHT - 27);
    for (const row of scene.rows) g.fillRect(x - 1, row.baseline - 7, 2, 12);
  }

  private drawNods(scene: BenchScene) {
    const now = this.playback.engine.now;
    this.nods = this.nods.filter((n) => n.at > now - NOD_SECONDS);
    const due = new Map(this.nods.filter((n) => n.at <= now).map((n) => [n.id, n]));
    if (due.size === 0) return;
    const { hits } = this.store.getState().part;
    for (const stems of scene.stems) {
      for (const s of stems) {
        const nod = due.get(hits[s.index]?.id ?? '');
        if (!nod) continue;
        const share = (now - nod.at) / NOD_SECONDS;
        this.g.globalAlpha = 1 - share;
        this.g.strokeStyle = this.palette.accent;
        this.g.lineWidth = 2;
        this.g.beginPath();
        this.g.arc(s.headX, s.headY, 6 + 6 * share, 0, 2 * Math.PI);
        this.g.stroke();
        this.g.globalAlpha = 1;
      }
    }
  }

  /** Pale stems where a click or painting would place hits; what painting would go on to is paler still. */
  private drawHover() {
    const row = this.hover && this.scene?.rows[this.hover.row];
    if (!this.hover || !row || this.marquee) return;
    const { g } = this;
    this.hover.stems.forEach((stem, i) => {
      g.globalAlpha = i === 0 ? 1 : 0.45;
      drawPaleStem(g, this.palette, stem.x, row.baseline, heightOf(row, stem.velocity));
    });
    g.globalAlpha = 1;
  }

  /** Beside the head, where it covers neither the head nor the stem. */
  private drawTip() {
    const { g, tip, palette } = this;
    if (!tip || this.readout) return;
    const lines = [
      { text: tip.title, font: `600 13px ${CANVAS_FONT}`, colour: palette.ink },
      { text: tip.velocity, font: `13px ${CANVAS_FONT}`, colour: palette.ink },
      {
        text: tip.lean,
        font: `13px ${CANVAS_FONT}`,
        colour: tip.side === 'early' ? palette.earlyText : tip.side === 'late' ? palette.lateText : palette.faint,
      },
      ...(tip.sound ? [{ text: tip.sound, font: `13px ${CANVAS_FONT}`, colour: palette.ink }] : []),
    ];
    const wide = Math.max(...lines.map((l) => ((g.font = l.font), g.measureText(l.text).width))) + 20;
    const tall = lines.length * TIP_LINE + 12;
    const right = tip.stem.headX + TIP_GAP;
    const x = right + wide < this.width - 4 ? right : Math.max(4, tip.stem.headX - TIP_GAP - wide);
    const y = Math.min(
      this.height - tall - 4,
      Math.max(RULER_HEIGHT, tip.stem.headY - tall - 6 > RULER_HEIGHT ? tip.stem.headY - tall - 6 : tip.stem.headY + 14),
    );
    g.fillStyle = palette.surface;
    g.strokeStyle = palette.strong;
    g.lineWidth = 1;
    g.beginPath();
    g.roundRect(x, y, wide, tall, 4);
    g.fill();
    g.stroke();
    g.textAlign = 'left';
    g.textBaseline = 'alphabetic';
    lines.forEach((l, i) => {
      g.font = l.font;
      g.fillStyle = l.colour;
      g.fillText(l.text, x + 10, y + 18 + i * TIP_LINE);
    });
  }

  private drawTrace() {
    if (!this.trace) return;
    const { g } = this;
    g.strokeStyle = this.palette.accent;
    g.lineWidth = 1.5;
    g.beginPath();
    for (const p of this.trace) g.lineTo(p.x, p.y);
    g.stroke();
  }

  private drawMarquee() {
    const r = this.marquee;
    if (!r) return;
    const { g } = this;
    g.strokeStyle = this.palette.accent;
    g.lineWidth = 1;
    g.setLineDash([4, 3]);
    g.strokeRect(r.left + 0.5, r.top + 0.5, r.right - r.left, r.bottom - r.top);
    g.setLineDash([]);
  }

  private drawReadout() {
    const r = this.readout;
    if (!r) return;
    const { g } = this;
    g.font = `600 13px ${CANVAS_FONT}`;
    const wide = g.measureText(r.text).width + 14;
    const x = Math.min(r.x + 14, this.width - wide - 4);
    const y = Math.max(4, r.y - 30);
    g.fillStyle = this.palette.ink;
    g.beginPath();
    g.roundRect(x, y, wide, 22, 4);
    g.fill();
    g.fillStyle = this.palette.ground;
    g.textAlign = 'left';
    g.textBaseline = 'middle';
    g.fillText(r.text, x + 7, y + 11.5);
  }
}
