/** Every shortcut of the Bench in one table: the keys, what they do, how the sheet says it. */
import { changeBacking } from '@/core/commands/backing';
import { isTriplet, type GridName } from '@/core/time/grid';
import { say } from '@/ui/notify';
import { deleteSelection, duplicateSelection, invertRow, repeatSelection, shiftSelection } from '../actions/arrange';
import { fillFromCaret, moveCaretBar, toggleCaret } from '../actions/caret';
import { copySelection, cutSelection, paste } from '../actions/clipboard';
import { newIdea, stepIdea } from '../ideas/begin';
import { keepVersion } from '../dialogs/keep-version';
import { decideSelection, nextFinding } from '../actions/doubtful-hits';
import { muteSelection } from '../actions/muting';
import { clearNudges, nudgeSelection } from '../actions/nudging';
import { quantizeToGrid } from '../actions/quantize-to-grid';
import { saySaved } from '../actions/say-saved';
import { leaveSuggestion } from '../actions/suggesting';
import { redo, undo } from '../actions/undo';
import { zoomAtWork } from '../actions/view-control';
import { stemsFacts } from '../store/stems-facts';
import {
  ZOOM,
  tool,
  swungGrid,
  LEVELS,
  setLevel,
  changeGrid,
  setGrid,
  switchRow,
  lockSelection,
  selectSamePlace,
  selectRow,
  arrow,
  enter,
  record,
  stepOpenRow,
  callSection,
  newVariation,
  louder,
} from './key-actions';
import type { KeySpec } from '../shared/key-spec';

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
    keys: ['shift+q'],
    group: 'Hear',
    text: 'Hear the comparison: hold the key, or tap to stay on it',
    hold: ({ playback }, down) => playback.holdOther(down),
  },
  {
    keys: ['y'],
    group: 'Hear',
    text: 'Try the next similar sound on the open row',
    also: ['sample', 'kit', 'preset', 'browse sounds', 'audition', 'swap'],
    run: ({ store, playback }) => void stepOpenRow(store, playback, 1),
  },
  { keys: ['b'], group: 'Hear', text: 'Try the previous sound', run: ({ store, playback }) => void stepOpenRow(store, playback, -1) },
  ...Array.from({ length: 9 }, (_, i): KeySpec => ({
    keys: [`shift+${i + 1}`],
    group: 'Hear',
    text: 'Play a section next',
    also: ['switch', 'scene', 'live'],
    shown: i === 0 ? 'Shift 1 … 9' : null,
    run: (c) => callSection(c, i),
  })),
  {
    keys: ['shift+i'],
    group: 'Hear',
    text: 'Copy the loop to a new idea and work there',
    also: ['variation', 'alternative', 'scratch', 'A B', 'copy pattern', 'idea'],
    run: ({ store, playback }) => newIdea(store, playback),
  },
  {
    keys: ['z'],
    group: 'Hear',
    text: 'Next idea, right away (the part is one of them)',
    also: ['switch', 'flip', 'A B'],
    run: ({ store, playback }) => stepIdea(store, playback, 1, 'now'),
  },
  { keys: ['alt+z'], group: 'Hear', text: 'Previous idea', run: ({ store, playback }) => stepIdea(store, playback, -1, 'now') },
  {
    keys: ['shift+z'],
    group: 'Hear',
    text: 'Next idea, at the bar line',
    run: ({ store, playback }) => stepIdea(store, playback, 1, 'bar'),
  },
  {
    keys: ['alt+shift+z'],
    group: 'Hear',
    text: 'Previous idea, at the bar line',
    run: ({ store, playback }) => stepIdea(store, playback, -1, 'bar'),
  },
  {
    keys: ['shift+r'],
    group: 'Hear',
    text: 'Record over the loop or punch in; stop and keep the take',
    also: ['take', 'overdub', 'punch', 'count-in'],
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
    text: 'Turn the backing track on or off',
    also: ['backing', 'song'],
    run: ({ store }) =>
      store
        .getState()
        .run(store.getState().part.backing?.muted ? 'Turn the backing track on' : 'Mute the backing track', (p) =>
          changeBacking(p, { muted: p.backing?.muted !== true }),
        ),
  },
  {
    keys: ['shift+k'],
    group: 'Hear',
    text: 'Turn the click on or off',
    also: ['metronome'],
    run: ({ recording: { recorder } }) => recorder.set({ clickAlways: !recorder.state.getState().clickAlways }),
  },

  {
    keys: ['c'],
    group: 'Step cursor',
    text: 'Show or hide the step cursor',
    also: ['caret', 'keyboard editing'],
    run: ({ store }) => toggleCaret(store),
  },
  { keys: ['enter'], group: 'Step cursor', text: 'Add or delete a hit at the cursor', run: enter },
  {
    keys: ['f'],
    group: 'Step cursor',
    text: 'Paint hits from the cursor to the end of the bar or loop',
    run: ({ store }) => fillFromCaret(store),
  },
  { keys: ['right'], group: 'Step cursor', text: 'Next line; without cursor: nudge late', run: arrow(1, 0, false) },
  { keys: ['left'], group: 'Step cursor', text: 'Previous line; without cursor: nudge early', run: arrow(-1, 0, false) },
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
  { keys: ['pageup'], group: 'Step cursor', text: 'Previous bar', run: ({ store }) => moveCaretBar(store, 'previous') },
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
    group: 'Timing',
    text: 'Nudge earlier',
    also: ['nudge', 'ahead', 'push'],
    run: ({ store }) => nudgeSelection(store, -1),
  },
  {
    keys: ['l'],
    group: 'Timing',
    text: 'Nudge later',
    also: ['nudge', 'behind', 'drag'],
    run: ({ store }) => nudgeSelection(store, 1),
  },
  { keys: ['shift+e'], group: 'Timing', text: 'Nudge five steps earlier', run: ({ store }) => nudgeSelection(store, -5) },
  { keys: ['shift+l'], group: 'Timing', text: 'Nudge five steps later', run: ({ store }) => nudgeSelection(store, 5) },
  { keys: ['n'], group: 'Timing', text: 'Remove the nudge', also: ['reset timing'], run: ({ store }) => clearNudges(store) },
  {
    keys: ['shift+n'],
    group: 'Timing',
    text: 'Go to the next uncertain hit, or the next entry of the open list',
    also: ['unsure', 'ambiguous', 'between two lines', 'conflict', 'clash', 'competing', 'step through'],
    run: ({ store }) => nextFinding(store),
  },
  {
    keys: ['shift+a'],
    group: 'Timing',
    text: 'The selection belongs to the earlier line',
    also: ['decide', 'doubtful', 'home'],
    run: ({ store }) => decideSelection(store, 'earlier'),
  },
  {
    keys: ['shift+s'],
    group: 'Timing',
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
  {
    keys: ['q'],
    group: 'Timing',
    text: 'Quantize now: move the selection, or all hits, onto the shown grid',
    also: ['quantize', 'quantise', 'snap', 'tighten', 'straighten'],
    run: ({ store }) => quantizeToGrid(store),
  },
  { keys: ['k'], group: 'Timing', text: 'Lock or unlock the selection', also: ['protect'], run: lockSelection },
  {
    keys: ['j'],
    group: 'Timing',
    text: 'New variation of the open move, or of all moves',
    also: ['randomize', 'seed', 'reroll', 'dice'],
    run: newVariation,
  },
  {
    keys: [','],
    group: 'Timing',
    text: 'Shift the selection or open row one step left (wraps around)',
    also: ['rotate'],
    run: ({ store }) => shiftSelection(store, -1),
  },
  { keys: ['.'], group: 'Timing', text: 'Shift one step right', run: ({ store }) => shiftSelection(store, 1) },

  {
    keys: ['shift+m'],
    group: 'Edit',
    text: 'Mute or unmute the selected hits',
    also: ['silence', 'off', 'muted hits', 'disable'],
    run: ({ store }) => muteSelection(store),
  },
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
  { keys: ['shift+h'], group: 'Pointer and view', text: 'Erase along a row', also: ['eraser', 'wipe'], run: tool('nothing') },
  { keys: ['v'], group: 'Pointer and view', text: 'Paint velocities along a line', also: ['ramp', 'crescendo'], run: tool('line') },
  { keys: ['shift+v'], group: 'Pointer and view', text: 'Paint velocities freely', run: tool('free') },
  { keys: ['g'], group: 'Pointer and view', text: 'Finer grid', also: ['resolution'], run: (c) => changeGrid(c, 1) },
  { keys: ['shift+g'], group: 'Pointer and view', text: 'Coarser grid', run: (c) => changeGrid(c, -1) },
  {
    keys: ['t'],
    group: 'Pointer and view',
    text: 'Switch between straight and triplet grid',
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
    run: ({ store }) => store.getState().setUi({ follow: store.getState().ui.follow === 'on' ? 'off' : 'on' }),
  },
  {
    keys: ['x'],
    group: 'Pointer and view',
    text: 'The table of hits',
    also: ['event list'],
    run: ({ store }) => store.getState().setUi({ table: !store.getState().ui.table }),
  },
  {
    keys: ['?'],
    group: 'Pointer and view',
    text: 'All keys',
    also: ['shortcuts', 'keyboard', 'help'],
    run: ({ store }) => store.getState().setUi({ dialog: 'keys' }),
  },

  { keys: ['escape'], group: 'Pointer and view', text: 'Cancel, close or deselect, one thing at a time' },

  {
    keys: ['mod+k'],
    group: 'Pointer and view',
    text: 'Find anything by its words',
    also: ['search', 'command'],
    run: ({ store }) => store.getState().setUi({ dialog: 'find' }),
  },

  {
    keys: ['mod+s'],
    group: 'Keep',
    text: 'Show save status (everything saves automatically)',
    also: ['save'],
    run: ({ store }) => saySaved(store),
  },
  {
    keys: ['mod+shift+k'],
    group: 'Keep',
    text: 'Save a version under the next number',
    also: ['snapshot'],
    run: ({ store }) => void keepVersion(store),
  },
  {
    keys: ['mod+shift+e'],
    group: 'Keep',
    text: 'Export',
    also: ['MIDI file', 'bounce', 'save as', 'render'],
    run: ({ store }) => store.getState().setUi({ dialog: 'export' }),
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
