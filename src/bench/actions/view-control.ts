/** Scrolling, zooming and following: changes of the view alone. */
import { endOfPart, meterMapOf } from '@/core/part/part-time';
import type { Hit, Part } from '@/core/model/part';
import { clamp, ticks, TICKS_PER_QUARTER, type Ticks } from '@/core/units';
import { LEFT_MARGIN, MAX_PIXELS_PER_QUARTER, MIN_PIXELS_PER_QUARTER, axisOf, tickOf, xOf } from '../stems/geometry/axis';
import { layoutRows, mostRowScroll, rowsInView, RULER_HEIGHT } from '../stems/geometry/rows';
import type { BenchStore } from '../store/bench-store';

const FIRST_BARS = 2;
const RIGHT_MARGIN = 24;

/** The first view shows two bars; later sizes keep it. */
export function fitView(store: BenchStore, width: number, height: number) {
  const { view, part, setView, focus } = store.getState();
  if (width === 0) return;
  if (view.pixelsPerQuarter === 0) {
    const end = meterMapOf(part).barOf(Math.min(FIRST_BARS, part.bars)).start;
    setView({ scroll: earliest(part), pixelsPerQuarter: pixelsToShow(end - earliest(part), width) });
  }
  setView({ scrollRows: clamp(store.getState().view.scrollRows, 0, mostRowScroll(rowsInView(part, view.hideEmpty), height, focus)) });
}

const pixelsToShow = (length: number, width: number): number =>
  clamp((width - LEFT_MARGIN - RIGHT_MARGIN) / (length / TICKS_PER_QUARTER), MIN_PIXELS_PER_QUARTER, MAX_PIXELS_PER_QUARTER);

/** The leftmost tick worth seeing: the first bar line, or hits before it. */
const earliest = (part: Part): Ticks => ticks(Math.min(part.origin, part.hits[0]?.tick ?? part.origin));

/** Shows a range of bars, 0-based and without `to`. */
export function showBars(store: BenchStore, from: number, to: number, width: number) {
  const map = meterMapOf(store.getState().part);
  const start = map.barOf(from).start;
  store.getState().setView({ scroll: start, pixelsPerQuarter: pixelsToShow(map.barOf(to).start - start, width) });
}

function scrollLimited(part: Part, scroll: number, pixelsPerQuarter: number, width: number): Ticks {
  const inView = ((width - LEFT_MARGIN - RIGHT_MARGIN) / pixelsPerQuarter) * TICKS_PER_QUARTER;
  return ticks(clamp(scroll, earliest(part), Math.max(earliest(part), endOfPart(part) - inView)));
}

/** Zooms by a factor around a place on the canvas. */
export function zoomAt(store: BenchStore, factor: number, x: number, width: number) {
  const { view, part, setView } = store.getState();
  const tick = tickOf(axisOf(view), x);
  const whole = pixelsToShow(endOfPart(part) - earliest(part), width);
  const pixelsPerQuarter = clamp(view.pixelsPerQuarter * factor, Math.min(whole, view.pixelsPerQuarter), MAX_PIXELS_PER_QUARTER);
  const scroll = tick - ((x - LEFT_MARGIN) / pixelsPerQuarter) * TICKS_PER_QUARTER;
  setView({ pixelsPerQuarter, scroll: scrollLimited(part, scroll, pixelsPerQuarter, width) });
}

export function scrollBy(store: BenchStore, pixels: number, width: number) {
  const { view, part, setView } = store.getState();
  const scroll = view.scroll + (pixels / view.pixelsPerQuarter) * TICKS_PER_QUARTER;
  setView({ scroll: scrollLimited(part, scroll, view.pixelsPerQuarter, width) });
}

export function scrollRowsBy(store: Pick<BenchStore, 'getState'>, pixels: number, height: number) {
  const { part, focus, view, setView } = store.getState();
  const scrollRows = clamp(view.scrollRows + pixels, 0, mostRowScroll(rowsInView(part, view.hideEmpty), height, focus));
  if (scrollRows !== view.scrollRows) setView({ scrollRows });
}

/** Wheel: through time; over rows where they do not fit and the wheel goes up or down; with Ctrl zooms. */
export function wheelView(store: BenchStore, e: WheelEvent, x: number, width: number, height: number) {
  const { part, focus, view, setView } = store.getState();
  if (e.ctrlKey || e.metaKey) return zoomAt(store, Math.exp(-e.deltaY * 0.0022), x, width);
  const most = mostRowScroll(rowsInView(part, view.hideEmpty), height, focus);
  if (most > 0 && !e.shiftKey && e.deltaX === 0) return setView({ scrollRows: clamp(view.scrollRows + e.deltaY, 0, most) });
  scrollBy(store, e.deltaX || e.deltaY, width);
}

/** Zooms by a factor around the selection, else the step cursor, else the middle of the view; the place comes to the middle. */
export function zoomAtWork(store: BenchStore, factor: number, width: number) {
  const { part, selection, ui, view, setView } = store.getState();
  const axis = axisOf(view);
  const selected = part.hits.filter((h) => selection.has(h.id));
  const middle = width / 2;
  const centre =
    selected.length > 0 ? ((selected[0] as Hit).tick + (selected.at(-1) as Hit).tick) / 2 : (ui.step?.tick ?? tickOf(axis, middle));
  setView({ scroll: ticks(centre - ((middle - LEFT_MARGIN) / view.pixelsPerQuarter) * TICKS_PER_QUARTER) });
  zoomAt(store, factor, middle, width);
}

/** Pauses following until playback starts again, so that the view does not move away from what is being edited. */
export function pauseFollowing(store: BenchStore, isPlaying: boolean) {
  const { ui, setUi } = store.getState();
  if (isPlaying && ui.follow === 'on') setUi({ follow: 'paused' });
}

/** Turns the page when the playhead leaves it, where it is followed; never while something is under way. */
export function followPlayhead(store: BenchStore, tick: Ticks, width: number) {
  const { view, part, underway, ui } = store.getState();
  if (underway || ui.follow !== 'on') return;
  const x = xOf(axisOf(view), tick);
  if (x >= 0 && x <= width - RIGHT_MARGIN) return;
  const scroll = scrollLimited(part, meterMapOf(part).barAt(tick).start, view.pixelsPerQuarter, width);
  if (scroll !== view.scroll) store.getState().setView({ scroll });
}

/** Brings a tick into sight, with some room on either side; leaves the view alone where it is in sight. */
export function reveal(store: BenchStore, tick: Ticks, width: number) {
  const { view, part, setView } = store.getState();
  const x = xOf(axisOf(view), tick);
  if (x >= LEFT_MARGIN - 1 && x <= width - RIGHT_MARGIN) return;
  const bar = meterMapOf(part).barAt(tick);
  setView({ scroll: scrollLimited(part, bar.start, view.pixelsPerQuarter, width) });
}

/** Brings the first bar of a range into sight. @param bar 0-based, within the part */
export function revealBar(store: BenchStore, bar: number, width: number) {
  reveal(store, meterMapOf(store.getState().part).barOf(bar).start, width);
}

/** Brings the open row into sight as a whole. */
export function revealRow(store: BenchStore, height: number) {
  const { part, view, focus } = store.getState();
  const rows = rowsInView(part, view.hideEmpty);
  const box = layoutRows(rows, height, focus, view.scrollRows).find((b) => b.voice === focus);
  const hidden = !box ? 0 : box.top < RULER_HEIGHT ? box.top - RULER_HEIGHT : Math.max(0, box.top + box.height - height);
  scrollRowsBy(store, hidden, height);
}
