/** What keys do that no menu or page does. */
import { counted } from '@/core/plurals';
import { specOf } from '@/core/feel/move-spec';
import { MOVES } from '@/core/moves/all';
import { changeMove } from '@/core/commands/moves';
import { setRow } from '@/core/commands/settings';
import { setLocked } from '@/core/commands/marks';
import { addVelocity, setVelocities } from '@/core/commands/hits';
import { lockTest } from '@/core/part/locks';
import { hitsByRule } from '@/core/selection/rules';
import { GRIDS, isTriplet, type GridName } from '@/core/time/grid';
import { clamp } from '@/core/units';
import { say } from '@/ui/notify';
import { actOnSelection } from '../actions/act';
import { moveCaret, moveCaretRow, toggleAtCaret } from '../actions/caret';
import { nudgeSelection } from '../actions/nudging';
import { lookAtSuggestion, takeSuggestion } from '../actions/suggesting';
import type { Playback } from '../playback/use-playback';
import { linedPart, performanceOf } from '../store/derived';
import type { BenchStore } from '../store/bench-store';
import type { Tool } from '../store/tools';
import type { Context } from '../shared/key-spec';

export const ZOOM = 1.5;

export const tool =
  (to: Tool) =>
  ({ store }: Context) => {
    const { ui, setUi } = store.getState();
    setUi({ tool: ui.tool === to ? 'select' : to });
  };

export const louder =
  (by: number) =>
  ({ store }: Context) =>
    actOnSelection(store, by > 0 ? 'Play louder' : 'Play softer', (p, ids) => addVelocity(p, ids, by));

/** What tries sounds comes with the first try. */
export const stepOpenRow = (store: BenchStore, playback: Playback, by: number): Promise<void> =>
  import('../own-sounds/step-sound').then(({ stepSound }) => stepSound(store, playback, by));

export function callSection({ store, playback }: Context, index: number) {
  const { sections } = store.getState().main;
  const section = sections?.[index];
  if (section) playback.conductor.call(section.id);
  else say(sections ? `There is no section ${index + 1}.` : 'There are no sections yet: they are made on the page Order.');
}

/** Shows the swung grid or the straight one; explains why nothing changes where the part is straight or a swing move is on. */
export function swungGrid({ store }: Context) {
  const { part, view, setView } = store.getState();
  setView({ swungGrid: !view.swungGrid });
  if (!view.swungGrid && linedPart({ part, view: { swungGrid: true } }) === part)
    say(
      part.feel.moves.some((m) => m.kind === 'swing' && m.on !== false)
        ? 'A swing move already swings the grid.'
        : 'The hits as written are straight, so the swung grid looks the same.',
    );
}

/** Nine steps of loudness, and 127 on 0. */
export const LEVELS: Readonly<Record<string, number>> = { 1: 12, 2: 26, 3: 40, 4: 54, 5: 68, 6: 82, 7: 96, 8: 110, 9: 124, 0: 127 };

export function setLevel({ store }: Context, level: number) {
  const { selection, ui, setUi } = store.getState();
  if (selection.size > 0) return actOnSelection(store, `Set to ${level}:`, (p, ids) => setVelocities(p, ids, () => level));
  if (ui.tool === 'hits') {
    setUi({ paint: { ...ui.paint, levels: [level] } });
    return say(`Painted hits get velocity ${level}.`);
  }
  setUi({ velocity: level });
  say(`New hits get velocity ${level}.`);
}

export const STRAIGHT = GRIDS.filter((g) => !isTriplet(g));

/** The next finer or coarser grid of the same family. */
export function changeGrid({ store }: Context, by: number) {
  const { view, setView } = store.getState();
  const plain = view.grid.replace('T', '') as GridName;
  const next = STRAIGHT[clamp(STRAIGHT.indexOf(plain) + by, 0, STRAIGHT.length - 1)] as GridName;
  setGrid(setView, (isTriplet(view.grid) ? `${next}T` : next) as GridName);
}

export function setGrid(setView: (change: { grid: GridName }) => void, grid: GridName) {
  setView({ grid });
  say(`The grid for placing is ${grid} now.`);
}

/** Mutes the focused row, or hears it alone. */
export const switchRow =
  (what: 'muted' | 'soloed') =>
  ({ store }: Context) => {
    const { focus, part, run } = store.getState();
    const row = part.rows.find((r) => r.voice === focus);
    if (!row) return say('Open a row first: click its name.');
    run(row[what] ? 'Hear a row as before' : what === 'muted' ? 'Mute a row' : 'Solo a row', (p) =>
      setRow(p, row.voice, { [what]: !row[what] }),
    );
  };

/** The next seed for the move that is open, or for the feel. */
export function newVariation({ store }: Context) {
  const { ui, part, run } = store.getState();
  const move = ui.openMove === null ? undefined : part.feel.moves[ui.openMove];
  if (part.feel.moves.length === 0) return say('The feel has no moves yet.');
  if (ui.openMove !== null && move && specOf(MOVES, move.kind).draws) {
    const seed = (move.seed ?? 0) + 1;
    run(`New variation: seed ${seed}`, (p) => changeMove(p, ui.openMove as number, { seed }));
    return say(`New variation: seed ${seed}.`);
  }
  const seed = part.feel.seed + 1;
  run(`New variation of the feel: seed ${seed}`, (p) => ({ ...p, feel: { ...p.feel, seed } }));
  say(`New variation of the feel: seed ${seed}.`);
}

export function lockSelection({ store }: Context) {
  const { part, selection, run } = store.getState();
  if (selection.size === 0) return say('Nothing is selected.');
  const isLocked = lockTest(part);
  const lock = part.hits.some((h) => selection.has(h.id) && !isLocked(h));
  run(`${lock ? 'Lock' : 'Unlock'} ${counted(selection.size, 'hit')}`, (p) => setLocked(p, selection, lock));
}

export function selectSamePlace({ store }: Context) {
  const { part, selection, select } = store.getState();
  if (selection.size > 0) select(hitsByRule(part, performanceOf(part), { kind: 'same-place', ids: selection }));
}

export function selectRow({ store }: Context) {
  const { part, focus, selection, select } = store.getState();
  const voices = new Set(part.hits.filter((h) => selection.has(h.id)).map((h) => h.voice));
  if (voices.size === 0 && focus) voices.add(focus);
  select(part.hits.filter((h) => voices.has(h.voice)).map((h) => h.id));
}

/**
 * Arrows look at one suggestion after another where ghosts are suggested, move the step cursor where it is shown, and otherwise the
 * selection: up and down its velocity, sideways its place.
 */
export const arrow = (lines: number, rows: number, big: boolean) => (c: Context) => {
  if (lines !== 0 && !big && lookAtSuggestion(c.store, lines, c.playback.audition)) return;
  if (c.store.getState().ui.step) return lines !== 0 ? moveCaret(c.store, lines, big) : moveCaretRow(c.store, rows, big);
  if (rows !== 0) return louder(-rows * (big ? 10 : 1))(c);
  nudgeSelection(c.store, lines * (big ? 5 : 1));
};

/** Keeps what is being shaped, takes a suggestion, or else places and takes away. */
export function enter({ store, playback }: Context) {
  if (store.getState().underway) return store.getState().settle();
  if (!takeSuggestion(store)) toggleAtCaret(store, playback.audition);
}

export function record({ store, recording: { recorder, pads } }: Context) {
  const { phase, input } = recorder.state.getState();
  if (phase === 'counting' || phase === 'recording') return recorder.stop();
  // What is recorded, and from what, is seen on its page; pads are there to be struck.
  store.getState().setUi({ page: 'takes' });
  if (input.id === pads.id) {
    recorder.set({ padsShown: true });
    say(
      'Recording from the pads below and computer keys: “keys play” makes letters strike them. Another device is chosen under Play from.',
    );
  }
  recorder.start();
}
