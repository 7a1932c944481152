/** Every shortcut of the Bench in one table: the keys, what they do, how the sheet says it. */
import { counted } from '@/core/counted';
import { specOf } from '@/core/feel/move-spec';
import { MOVES } from '@/core/moves/all';
import { changeBacking } from '@/core/commands/backing';
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
import { deleteSelection, duplicateSelection, invertRow, repeatSelection, shiftSelection } from '../actions/arrange';
import { fillFromCaret, moveCaret, moveCaretBar, moveCaretRow, toggleAtCaret, toggleCaret } from '../actions/caret';
import { copySelection, cutSelection, paste } from '../actions/clipboard';
import { newIdea, stepIdea } from '../ideas/begin';
import { keepVersion } from '../dialogs/keep-version';
import { decideSelection, nextDoubtful } from '../actions/doubtful-hits';
import { clearNudges, nudgeSelection } from '../actions/nudging';
import { openPage } from '../actions/open-page';
import { saySaved } from '../actions/say-saved';
import { leaveSuggestion, lookAtSuggestion, takeSuggestion } from '../actions/suggesting';
import { redo, undo } from '../actions/undo';
import { zoomAtWork } from '../actions/view-control';
import { BENCH_PAGES } from '../pages/all';
import type { Playback } from '../playback/use-playback';
import type { Recording } from '../recording/context';
import { linedPart, performanceOf } from '../store/derived';
import { stemsFacts } from '../store/stems-facts';
import type { BenchStore } from '../store/bench-store';
import type { Tool } from '../store/tools';

export interface Context {
  store: BenchStore;
  playback: Playback;
  recording: Recording;
}

/** A key of the Bench. The sheet and whatever else tells keys are made from these. */
export interface KeySpec {
  /** As pressed, "mod" being Ctrl or Cmd, a blank between two presses: the first is shown. None for what is only found by its words. */
  keys: readonly string[];
  group: 'Hear' | 'Step cursor' | 'Select' | 'Dynamics' | 'Placement' | 'Edit' | 'Pointer and view' | 'Pages' | 'Keep';
  text: string;
  /** Words of the trade that it is searched by, beside those of its text. */
  also?: readonly string[];
  /** What the sheet shows instead of the first keys; null where another line says it. */
  shown?: string | null;
  /** What a press does. A key that is handled where it belongs has none, and stands here for the sheet. */
  run?: (context: Context) => void;
  /** What happens while it is held: called when it goes down, and when it comes up or the window loses the keyboard. */
  hold?: (context: Context, down: boolean) => void;
}

const ZOOM = 1.5;

const tool =
  (to: Tool) =>
  ({ store }: Context) => {
    const { desk, setDesk } = store.getState();
    setDesk({ tool: desk.tool === to ? 'select' : to });
  };

const louder =
  (by: number) =>
  ({ store }: Context) =>
    actOnSelection(store, by > 0 ? 'Play louder' : 'Play softer', (p, ids) => addVelocity(p, ids, by));

/** What tries sounds comes with the first try. */
const stepOpenRow = (store: BenchStore, playback: Playback, by: number): Promise<void> =>
  import('../own-sounds/step-sound').then(({ stepSound }) => stepSound(store, playback, by));

function callSection({ store, playback }: Context, index: number) {
  const { sections } = store.getState().main;
  const section = sections?.[index];
  if (section) playback.conductor.call(section.id);
  else say(sections ? `There is no section ${index + 1}.` : 'There are no sections yet: they are made on the page Order.');
}

/** Shows the swung grid or the straight one; explains why nothing changes where the part is straight or a swing move is on. */
function swungGrid({ store }: Context) {
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
const LEVELS: Readonly<Record<string, number>> = { 1: 12, 2: 26, 3: 40, 4: 54, 5: 68, 6: 82, 7: 96, 8: 110, 9: 124, 0: 127 };

function setLevel({ store }: Context, level: number) {
  const { selection, desk, setDesk } = store.getState();
  if (selection.size > 0) return actOnSelection(store, `Set to ${level}:`, (p, ids) => setVelocities(p, ids, () => level));
  if (desk.tool === 'hits') {
    setDesk({ paint: { ...desk.paint, levels: [level] } });
    return say(`Painted hits get velocity ${level}.`);
  }
  setDesk({ velocity: level });
  say(`A click places velocity ${level}.`);
}

const STRAIGHT = GRIDS.filter((g) => !isTriplet(g));

/** The next finer or coarser grid of the same family. */
function changeGrid({ store }: Context, by: number) {
  const { view, setView } = store.getState();
  const plain = view.grid.replace('T', '') as GridName;
  const next = STRAIGHT[clamp(STRAIGHT.indexOf(plain) + by, 0, STRAIGHT.length - 1)] as GridName;
  setGrid(setView, (isTriplet(view.grid) ? `${next}T` : next) as GridName);
}

function setGrid(setView: (change: { grid: GridName }) => void, grid: GridName) {
  setView({ grid });
  say(`The grid for placing is ${grid} now.`);
}

/** Mutes the focused row, or hears it alone. */
const switchRow =
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
function drawAgain({ store }: Context) {
  const { desk, part, run } = store.getState();
  const move = desk.openMove === null ? undefined : part.feel.moves[desk.openMove];
  if (part.feel.moves.length === 0) return say('The feel has no moves yet.');
  if (desk.openMove !== null && move && specOf(MOVES, move.kind).draws) {
    const seed = (move.seed ?? 0) + 1;
    run(`Draw again: seed ${seed}`, (p) => changeMove(p, desk.openMove as number, { seed }));
    return say(`Drawn again: seed ${seed}.`);
  }
  const seed = part.feel.seed + 1;
  run(`Draw the feel again: seed ${seed}`, (p) => ({ ...p, feel: { ...p.feel, seed } }));
  say(`The feel was drawn again: seed ${seed}.`);
}

function lockSelection({ store }: Context) {
  const { part, selection, run } = store.getState();
  if (selection.size === 0) return say('Nothing is selected.');
  const isLocked = lockTest(part);
  const lock = part.hits.some((h) => selection.has(h.id) && !isLocked(h));
  run(`${lock ? 'Lock' : 'Unlock'} ${counted(selection.size, 'hit')}`, (p) => setLocked(p, selection, lock));
}

function selectSamePlace({ store }: Context) {
  const { part, selection, select } = store.getState();
  if (selection.size > 0) select(hitsByRule(part, performanceOf(part), { kind: 'same-place', ids: selection }));
}

function selectRow({ store }: Context) {
  const { part, focus, selection, select } = store.getState();
  const voices = new Set(part.hits.filter((h) => selection.has(h.id)).map((h) => h.voice));
  if (voices.size === 0 && focus) voices.add(focus);
  select(part.hits.filter((h) => voices.has(h.voice)).map((h) => h.id));
}

/**
 * Arrows look at one suggestion after another where ghosts are suggested, move the step cursor where it is shown, and otherwise the
 * selection: up and down its velocity, sideways its place.
 */
const arrow = (lines: number, rows: number, big: boolean) => (c: Context) => {
  if (lines !== 0 && !big && lookAtSuggestion(c.store, lines, c.playback.audition)) return;
  if (c.store.getState().desk.step) return lines !== 0 ? moveCaret(c.store, lines, big) : moveCaretRow(c.store, rows, big);
  if (rows !== 0) return louder(-rows * (big ? 10 : 1))(c);
  nudgeSelection(c.store, lines * (big ? 5 : 1));
};

/** Keeps what is being shaped, takes a suggestion, or else places and takes away. */
function enter({ store, playback }: Context) {
  if (store.getState().underway) return store.getState().settle();
  if (!takeSuggestion(store)) toggleAtCaret(store, playback.audition);
}

function record({ store, recording: { recorder, pads } }: Context) {
  const { phase, input } = recorder.state.getState();
  if (phase === 'counting' || phase === 'recording') return recorder.stop();
  // What is recorded, and from what, is seen on its page; pads are there to be struck.
  store.getState().setDesk({ page: 'takes' });
  if (input.id === pads.id) {
    recorder.set({ padsShown: true });
    say(
      'Recording from the pads below and computer keys: “keys play” makes letters strike them. Another device is chosen under Play from.',
    );
  }
  recorder.start();
}

export const KEYS: readonly KeySpec[] = [
  { keys: ['space'], group: 'Hear', text: 'Play, stop', also: ['playback', 'start', 'pause'], run: ({ playback }) => playback.toggle() },
  { keys: ['m'], group: 'Hear', text: 'Mute the open row', also: ['silence', 'off'], run: switchRow('muted') },
  { keys: ['o'], group: 'Hear', text: 'Solo the open row', also: ['alone', 'only'], run: switchRow('soloed') },
  {
    keys: ['w'],
    group: 'Hear',
    text: 'Hold: hear and see the part as written',
    also: ['compare', 'bypass', 'dry'],
    hold: ({ playback }, down) => playback.holdWritten(down),
  },
  {
    keys: ['q'],
    group: 'Hear',
    text: 'Hear what is compared with: hold it, or tap and it stays',
    hold: ({ playback }, down) => playback.holdOther(down),
  },
  {
    keys: ['y'],
    group: 'Hear',
    text: 'Try the next sound of its kind on the open row',
    also: ['sample', 'kit', 'preset', 'browse sounds', 'audition', 'swap'],
    run: ({ store, playback }) => void stepOpenRow(store, playback, 1),
  },
  { keys: ['b'], group: 'Hear', text: 'Try the sound before', run: ({ store, playback }) => void stepOpenRow(store, playback, -1) },
  ...Array.from({ length: 9 }, (_, i): KeySpec => ({
    keys: [`shift+${i + 1}`],
    group: 'Hear',
    text: 'Call a section: it comes when what sounds may be left',
    also: ['switch', 'scene', 'live'],
    shown: i === 0 ? 'Shift 1 … 9' : null,
    run: (c) => callSection(c, i),
  })),
  {
    keys: ['shift+i'],
    group: 'Hear',
    text: 'Copy the loop to a new idea, and go on there',
    also: ['variation', 'alternative', 'scratch', 'A B', 'copy pattern', 'idea'],
    run: ({ store, playback }) => newIdea(store, playback),
  },
  {
    keys: ['z'],
    group: 'Hear',
    text: 'Next idea, at once; the part itself is among them',
    also: ['switch', 'flip', 'A B'],
    run: ({ store, playback }) => stepIdea(store, playback, 1, 'now'),
  },
  { keys: ['alt+z'], group: 'Hear', text: 'Idea before', run: ({ store, playback }) => stepIdea(store, playback, -1, 'now') },
  {
    keys: ['shift+z'],
    group: 'Hear',
    text: 'Next idea, at the bar line',
    run: ({ store, playback }) => stepIdea(store, playback, 1, 'bar'),
  },
  {
    keys: ['alt+shift+z'],
    group: 'Hear',
    text: 'Idea before, at the bar line',
    run: ({ store, playback }) => stepIdea(store, playback, -1, 'bar'),
  },
  {
    keys: ['shift+r'],
    group: 'Hear',
    text: 'Record over the loop, in its midst too; stop and keep',
    also: ['take', 'overdub', 'punch'],
    run: record,
  },
  {
    keys: ['shift+backspace'],
    group: 'Hear',
    text: 'Drop the last recorded pass',
    also: ['undo take', 'pass'],
    run: ({ recording }) => recording.recorder.dropPass(),
  },
  {
    keys: ['shift+b'],
    group: 'Hear',
    text: 'Hear the recording beside, mute it',
    also: ['backing', 'song'],
    run: ({ store }) =>
      store
        .getState()
        .run(store.getState().part.backing?.muted ? 'Hear the recording beside' : 'Mute the recording beside', (p) =>
          changeBacking(p, { muted: p.backing?.muted !== true }),
        ),
  },
  {
    keys: ['shift+k'],
    group: 'Hear',
    text: 'Click on, off',
    also: ['metronome'],
    run: ({ recording: { recorder } }) => recorder.set({ clickAlways: !recorder.state.getState().clickAlways }),
  },

  {
    keys: ['c'],
    group: 'Step cursor',
    text: 'Show the step cursor, hide it',
    also: ['caret', 'keyboard editing'],
    run: ({ store }) => toggleCaret(store),
  },
  { keys: ['enter'], group: 'Step cursor', text: 'Place a hit there, or delete it', run: enter },
  {
    keys: ['f'],
    group: 'Step cursor',
    text: 'Paint hits from there to the end of the bar or loop',
    run: ({ store }) => fillFromCaret(store),
  },
  { keys: ['right'], group: 'Step cursor', text: 'Next line; without cursor: nudge late', run: arrow(1, 0, false) },
  { keys: ['left'], group: 'Step cursor', text: 'Line before; without cursor: nudge early', run: arrow(-1, 0, false) },
  { keys: ['up'], group: 'Step cursor', text: 'Row above; without cursor: louder', run: arrow(0, -1, false) },
  { keys: ['down'], group: 'Step cursor', text: 'Row below; without cursor: softer', run: arrow(0, 1, false) },
  {
    keys: ['shift+right'],
    group: 'Step cursor',
    text: 'The same, adding to the selection; without cursor in large steps',
    shown: 'Shift ←→↑↓',
    run: arrow(1, 0, true),
  },
  { keys: ['shift+left'], group: 'Step cursor', text: 'as above', shown: null, run: arrow(-1, 0, true) },
  { keys: ['shift+up'], group: 'Step cursor', text: 'as above', shown: null, run: arrow(0, -1, true) },
  { keys: ['shift+down'], group: 'Step cursor', text: 'as above', shown: null, run: arrow(0, 1, true) },
  { keys: ['pagedown'], group: 'Step cursor', text: 'Next bar', run: ({ store }) => moveCaretBar(store, 'next') },
  { keys: ['pageup'], group: 'Step cursor', text: 'Bar before', run: ({ store }) => moveCaretBar(store, 'previous') },
  { keys: ['home'], group: 'Step cursor', text: 'First line of the part', run: ({ store }) => moveCaretBar(store, 'start') },
  { keys: ['end'], group: 'Step cursor', text: 'Last line of the part', run: ({ store }) => moveCaretBar(store, 'end') },

  {
    keys: ['mod+a'],
    group: 'Select',
    text: 'All hits',
    run: ({ store }) => store.getState().select(store.getState().part.hits.map((h) => h.id)),
  },
  { keys: ['a'], group: 'Select', text: 'All hits of these rows', run: selectRow },
  { keys: ['s'], group: 'Select', text: 'Same place in every bar', also: ['select alike'], run: selectSamePlace },

  { keys: ['u'], group: 'Dynamics', text: 'Up: louder by 1', run: louder(1) },
  { keys: ['d'], group: 'Dynamics', text: 'Down: softer by 1', run: louder(-1) },
  { keys: ['shift+u'], group: 'Dynamics', text: 'Louder by 10', run: louder(10) },
  { keys: ['shift+d'], group: 'Dynamics', text: 'Softer by 10', run: louder(-10) },
  ...Object.entries(LEVELS).map(([key, level]): KeySpec => ({
    keys: [key],
    group: 'Dynamics',
    text: 'Velocity of the selection, or of painted hits: 12 to 124, 0 is 127',
    shown: key === '1' ? '1 … 9, 0' : null,
    run: (c) => setLevel(c, level),
  })),

  {
    keys: ['e'],
    group: 'Placement',
    text: 'Early by one nudge',
    also: ['nudge', 'ahead', 'push'],
    run: ({ store }) => nudgeSelection(store, -1),
  },
  {
    keys: ['l'],
    group: 'Placement',
    text: 'Late by one nudge',
    also: ['nudge', 'behind', 'drag'],
    run: ({ store }) => nudgeSelection(store, 1),
  },
  { keys: ['shift+e'], group: 'Placement', text: 'Early by five', run: ({ store }) => nudgeSelection(store, -5) },
  { keys: ['shift+l'], group: 'Placement', text: 'Late by five', run: ({ store }) => nudgeSelection(store, 5) },
  { keys: ['n'], group: 'Placement', text: 'No nudge', also: ['reset timing'], run: ({ store }) => clearNudges(store) },
  {
    keys: ['shift+n'],
    group: 'Placement',
    text: 'Go to the next doubtful hit',
    also: ['unsure', 'ambiguous', 'between two lines'],
    run: ({ store }) => nextDoubtful(store),
  },
  {
    keys: ['shift+a'],
    group: 'Placement',
    text: 'The selection belongs to the earlier line',
    also: ['decide', 'doubtful', 'home'],
    run: ({ store }) => decideSelection(store, 'earlier'),
  },
  {
    keys: ['shift+s'],
    group: 'Placement',
    text: 'The selection belongs to the later line',
    also: ['decide', 'doubtful', 'home'],
    run: ({ store }) => decideSelection(store, 'later'),
  },
  {
    keys: ['shift+w'],
    group: 'Pointer and view',
    text: 'Switch between the swung grid and the straight grid',
    also: ['swung grid', 'swing'],
    run: swungGrid,
  },
  { keys: ['k'], group: 'Placement', text: 'Lock the selection, unlock it', also: ['protect'], run: lockSelection },
  {
    keys: ['j'],
    group: 'Placement',
    text: 'Draw the chance of the open move, or of the whole feel, again',
    also: ['randomize', 'seed', 'reroll', 'dice'],
    run: drawAgain,
  },
  {
    keys: [','],
    group: 'Placement',
    text: 'Shift the selection or open row a step left; it wraps around',
    also: ['rotate'],
    run: ({ store }) => shiftSelection(store, -1),
  },
  { keys: ['.'], group: 'Placement', text: 'Shift a step right', run: ({ store }) => shiftSelection(store, 1) },

  { keys: ['mod+c'], group: 'Edit', text: 'Copy', run: ({ store }) => void copySelection(store) },
  { keys: ['mod+x'], group: 'Edit', text: 'Cut', run: ({ store }) => cutSelection(store) },
  { keys: ['mod+v'], group: 'Edit', text: 'Paste at the step cursor, else under the pointer', run: ({ store }) => paste(store) },
  { keys: ['mod+d'], group: 'Edit', text: 'Duplicate right after', run: ({ store }) => duplicateSelection(store) },
  { keys: ['r'], group: 'Edit', text: 'Repeat into the next bar', run: ({ store }) => repeatSelection(store) },
  {
    keys: ['i'],
    group: 'Edit',
    text: 'Invert the steps of the open row',
    also: ['flip'],
    run: ({ store }) =>
      store.getState().focus ? invertRow(store, store.getState().focus as string) : say('Open a row first: click its name.'),
  },
  {
    keys: ['delete', 'backspace'],
    group: 'Edit',
    text: 'Delete the selection',
    run: ({ store }) => void (leaveSuggestion(store) || deleteSelection(store)),
  },

  {
    keys: ['h'],
    group: 'Pointer and view',
    text: 'Paint hits along a row; again: select',
    also: ['pencil', 'draw', 'brush'],
    run: tool('hits'),
  },
  { keys: ['shift+h'], group: 'Pointer and view', text: 'Paint nothing, which erases', also: ['eraser', 'wipe'], run: tool('nothing') },
  { keys: ['v'], group: 'Pointer and view', text: 'Paint velocities along a line', also: ['ramp', 'crescendo'], run: tool('line') },
  { keys: ['shift+v'], group: 'Pointer and view', text: 'Paint velocities freely', run: tool('free') },
  { keys: ['g'], group: 'Pointer and view', text: 'Finer grid', also: ['resolution'], run: (c) => changeGrid(c, 1) },
  { keys: ['shift+g'], group: 'Pointer and view', text: 'Coarser grid', run: (c) => changeGrid(c, -1) },
  {
    keys: ['t'],
    group: 'Pointer and view',
    text: 'Triplets, and back',
    run: ({ store }) =>
      setGrid(
        store.getState().setView,
        (isTriplet(store.getState().view.grid)
          ? store.getState().view.grid.replace('T', '')
          : `${store.getState().view.grid}T`) as GridName,
      ),
  },
  {
    keys: ['+', '='],
    group: 'Pointer and view',
    text: 'Zoom in on the selection, the step cursor or the middle of the view',
    also: ['magnify'],
    run: ({ store }) => zoomAtWork(store, ZOOM, stemsFacts(store).width),
  },
  { keys: ['-'], group: 'Pointer and view', text: 'Zoom out', run: ({ store }) => zoomAtWork(store, 1 / ZOOM, stemsFacts(store).width) },
  {
    keys: ['shift+f'],
    group: 'Pointer and view',
    text: 'Turn following the playhead on or off',
    also: ['autoscroll', 'scroll', 'catch'],
    run: ({ store }) => store.getState().setDesk({ follow: store.getState().desk.follow === 'on' ? 'off' : 'on' }),
  },
  {
    keys: ['x'],
    group: 'Pointer and view',
    text: 'The table of hits',
    also: ['event list'],
    run: ({ store }) => store.getState().setDesk({ table: !store.getState().desk.table }),
  },
  {
    keys: ['?'],
    group: 'Pointer and view',
    text: 'This sheet',
    also: ['shortcuts', 'keyboard', 'help'],
    run: ({ store }) => store.getState().setDesk({ dialog: 'keys' }),
  },

  { keys: ['escape'], group: 'Pointer and view', text: 'Put back, leave, choose nothing: one thing at a time' },

  {
    keys: ['mod+k'],
    group: 'Pointer and view',
    text: 'Find anything by its words',
    also: ['search', 'command'],
    run: ({ store }) => store.getState().setDesk({ dialog: 'find' }),
  },

  ...BENCH_PAGES.map((page): KeySpec => ({
    keys: [`p ${page.letter}`],
    group: 'Pages',
    text: `Open the page ${page.title}`,
    also: page.also ?? [],
    run: ({ store }) => openPage(store, page.id),
  })),

  {
    keys: ['mod+s'],
    group: 'Keep',
    text: 'Say whether all is saved; it always is by itself',
    also: ['save'],
    run: ({ store }) => saySaved(store),
  },
  {
    keys: ['mod+shift+k'],
    group: 'Keep',
    text: 'Keep a version, under the next number',
    also: ['snapshot'],
    run: ({ store }) => void keepVersion(store),
  },
  {
    keys: ['mod+shift+e'],
    group: 'Keep',
    text: 'Export',
    also: ['MIDI file', 'bounce', 'save as', 'render'],
    run: ({ store }) => store.getState().setDesk({ dialog: 'export' }),
  },
  {
    keys: ['mod+e'],
    group: 'Keep',
    text: 'Repeat the last export, with the part as it is now',
    also: ['bounce again'],
    run: ({ store }) => void import('../dialogs/export/last-export').then((m) => m.exportAgain(store)),
  },
  { keys: ['mod+z'], group: 'Keep', text: 'Undo', run: ({ store }) => undo(store) },
  { keys: ['mod+shift+z', 'mod+y'], group: 'Keep', text: 'Redo', run: ({ store }) => redo(store) },
];

const NAMES: Readonly<Record<string, string>> = { ' ': 'space', ArrowUp: 'up', ArrowDown: 'down', ArrowLeft: 'left', ArrowRight: 'right' };

/** A key alone, as the table writes it. */
export const keyName = (key: string): string => NAMES[key] ?? key.toLowerCase();

/** A key event as the table writes it; Shift counts for letters and named keys alone, since symbols need it on some keyboards. */
export function keysOf(e: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'> & { code?: string }): string {
  // Shift and a digit give a sign on most keyboards: the digit counts. Where digits need Shift they are digits.
  const digit = e.shiftKey && !/^\d$/.test(e.key) ? /^Digit(\d)$/.exec(e.code ?? '')?.[1] : undefined;
  // Where Alt writes another letter, the key counts as it is marked.
  const letter = e.altKey && !/^[a-z]$/i.test(e.key) ? /^Key([A-Z])$/.exec(e.code ?? '')?.[1]?.toLowerCase() : undefined;
  const key = digit ?? letter ?? keyName(e.key);
  const shift = e.shiftKey && (digit !== undefined || key.length > 1 || /[a-z]/.test(key));
  return `${e.ctrlKey || e.metaKey ? 'mod+' : ''}${e.altKey ? 'alt+' : ''}${shift ? 'shift+' : ''}${key}`;
}

/** The press that waits for a letter. */
export const LEADER = 'p';

/** The key that an event is of, among these; `leading` after the press that waits for a letter. */
export const keyOf = (e: KeyboardEvent, specs: readonly KeySpec[], leading = false): KeySpec | undefined => {
  const keys = leading ? `${LEADER} ${keysOf(e)}` : keysOf(e);
  return specs.find((spec) => spec.keys.includes(keys));
};
