/** What is found by its words alone, having no key: see FindLine. */
import { bake } from '@/core/commands/moves';
import { duplicatesIn, removeHits } from '@/core/commands/hits';
import { setGhost } from '@/core/commands/marks';
import { say } from '@/ui/notify';
import { actOnSelection } from '../actions/act';
import { countAt } from '../actions/count-at';
import { addMoveOf } from '../features/feel/add-move';
import { detectAgain } from '../actions/detect';
import { softenOffBeatHats } from '../actions/soften';
import { openPage } from '../actions/open-page';
import { selectionToOwnRow } from '../actions/row-actions';
import { MOVE_FACES } from '../features/feel/moves/all';
import { addTempoChange } from '@/core/commands/tempo-changes';
import { addRow } from '@/core/commands/rows';
import { labelOfVoice, VOICES } from '@/core/voices';
import { meterMapOf, tempoMapOf } from '@/core/part/part-time';
import type { Dialog } from '../store/ui-state';
import type { KeySpec } from '../shared/key-spec';

const group = 'Pages' as const;
const section = (page: string, name: string, text: string, also: readonly string[]): KeySpec => ({
  keys: [],
  group,
  text,
  also,
  run: ({ store }) => openPage(store, page, name),
});
const dialog = (which: Dialog, text: string, also: readonly string[]): KeySpec => ({
  keys: [],
  group,
  text,
  also,
  run: ({ store }) => store.getState().setUi({ dialog: which }),
});

/** What drums are called besides. */
const ALSO_CALLED: Readonly<Record<string, readonly string[]>> = {
  kick: ['bass drum'],
  rim: ['rimshot', 'sidestick', 'cross stick'],
  'hat-closed': ['hi-hat'],
  'hat-open': ['hi-hat'],
  'hat-pedal': ['hi-hat pedal', 'foot'],
  crash: ['cymbal'],
  splash: ['cymbal'],
  china: ['cymbal'],
  ride: ['cymbal'],
};

/** Where something is that has its place elsewhere. */
const told = (text: string, also: readonly string[], where: string): KeySpec => ({ keys: [], group, text, also, run: () => say(where) });

/** Rows of all drums that a part may have, found by their names. */
const ROWS: readonly KeySpec[] = VOICES.map((voice): KeySpec => {
  const name = labelOfVoice(voice);
  return {
    keys: [],
    group: 'Edit',
    text: `Add the row ${name.toLowerCase()}`,
    also: ['add row', 'new row', 'instrument', 'drum', ...(ALSO_CALLED[voice] ?? [])],
    run({ store }) {
      const { part, run, setFocus } = store.getState();
      if (!part.rows.some((r) => r.voice === voice)) run(`Add the row ${name.toLowerCase()}`, (p) => addRow(p, voice));
      setFocus(voice);
    },
  };
});

export const MORE: readonly KeySpec[] = [
  ...ROWS,
  ...MOVE_FACES.map((face): KeySpec => ({
    keys: [],
    group: 'Edit',
    text: `Add ${face.word.toLowerCase()}`,
    also: face.also,
    run: ({ store }) => addMoveOf(store, face),
  })),
  dialog('feels', 'Feel presets', ['preset', 'style', 'human', 'humanize']),
  dialog('learn', 'Extract a groove from these hits', ['extract groove', 'groove template']),
  dialog('versions', 'Save a version of the part, compare, restore', ['snapshot', 'as imported', 'revert', 'backup']),
  dialog('add-row', 'Add row', ['new row', 'instrument', 'lane', 'track']),
  dialog('own-row', 'Add a row with your own name', ['new row', 'custom', 'lane', 'track', 'sound']),
  dialog('patterns', 'Pattern book: save these hits or place others', ['pattern', 'clip', 'phrase', 'library', 'loop']),
  dialog('sounds', 'Your own sounds: kits, single sounds, folders', ['sample', 'samples', 'WAV', 'import sounds', 'load kit', 'one shot']),
  {
    keys: [],
    group: 'Edit',
    text: 'Move the selected hits to their own row',
    also: ['split', 'separate', 'lane', 'track', 'layer'],
    run: ({ store }) => selectionToOwnRow(store),
  },
  {
    keys: [],
    group: 'Edit',
    text: 'Double tempo, same sound',
    also: ['double time', 'double tempo', 'half length'],
    run: ({ store }) => countAt(store, 2),
  },
  {
    keys: [],
    group: 'Edit',
    text: 'Halve tempo, same sound',
    also: ['half time', 'halve tempo', 'double length'],
    run: ({ store }) => countAt(store, 0.5),
  },
  dialog('target', 'Choose the output map: keys, channels and velocities for another instrument', [
    'export keys',
    'channel',
    'note map',
    'send out',
    'articulation',
    'output',
    'drum map',
  ]),
  dialog('kit', 'Choose what each MIDI key plays', ['drum map', 'kit map', 'drum map', 'note map', 'General MIDI']),
  {
    keys: [],
    group: 'Edit',
    text: 'Commit feel',
    also: ['bake', 'freeze', 'commit', 'apply'],
    run: ({ store }) => store.getState().run('Commit feel', bake),
  },
  dialog('convert', 'Convert to plain hits …', [
    'flatten',
    'bake',
    'expand',
    'loop length',
    'passes',
    'probability',
    'ornaments',
    'render',
    'consolidate',
  ]),
  {
    keys: [],
    group: 'Dynamics',
    text: 'Soften the off-beat hats',
    also: ['hi-hat', 'accent', 'dynamics'],
    run: ({ store }) => softenOffBeatHats(store),
  },
  {
    keys: [],
    group: 'Dynamics',
    text: 'Make ghosts of the selected hits',
    also: ['ghost notes', 'soft'],
    run: ({ store }) => actOnSelection(store, 'Make ghosts:', (p, ids) => setGhost(p, ids, true)),
  },
  {
    keys: [],
    group: 'Keep',
    text: 'Restore what was undone before a newer change',
    also: ['lost redo', 'history', 'undo tree', 'branch'],
    run({ store }) {
      const last = store.getState().left.at(-1);
      if (!last) return say('There is nothing undone to restore.');
      store.getState().run(`Restore: ${last.label}`, () => last.value());
      say(`Restored: ${last.label}. Earlier ones are in the menu of the part, beside the ideas.`);
    },
  },
  {
    keys: [],
    group: 'Edit',
    text: 'Merge duplicate hits',
    also: ['double notes', 'overlap', 'clean up'],
    run({ store }) {
      const { part, selection, run } = store.getState();
      const duplicates = duplicatesIn(part, selection.size > 0 ? selection : new Set(part.hits.map((h) => h.id)));
      if (duplicates.size === 0) return say('No two hits of a row stand on the same place.');
      run(`Merge ${duplicates.size} duplicates`, (p) => removeHits(p, duplicates));
    },
  },
  section('hits', 'dynamics', 'Shape velocities: compress, randomize, ramp, accent', [
    'velocity',
    'dynamics',
    'compress',
    'expand',
    'randomize',
    'crescendo',
    'scale',
    'limit',
  ]),
  section('hits', 'placement', 'Nudge hits, spread them, assign them to another line', ['timing', 'nudge', 'flam', 'offset']),
  section('placement', 'read', 'Lines and swing as read; uncertain hits', ['grid', 'swing detection', 'ambiguous', 'analysis']),
  {
    keys: [],
    group: 'Timing',
    text: 'Detect grid lines again for the selection or the whole part',
    also: ['read again', 'grid', 'home', 'analyse'],
    run: ({ store }) => void detectAgain(store, store.getState().selection.size > 0 ? store.getState().selection : null),
  },
  section('hits', 'lengths', 'Set how long hits last', ['length', 'duration', 'gate', 'note length', 'legato']),
  section('hits', 'ghosts', 'Suggest ghost notes', ['ghost notes', 'fill in', 'add ghosts']),
  section('hits', 'chance', 'Probability, and passes in which hits sound', [
    'probability',
    'chance',
    'condition',
    'every second time',
    'random',
  ]),
  section('hits', 'ornaments', 'Rolls, flams, drags and echoes', [
    'roll',
    'flam',
    'drag',
    'ruff',
    'delay',
    'retrigger',
    'expand',
    'combine',
  ]),
  section('hits', 'choose', 'Select by rule', ['select off-beats', 'filter', 'random selection', 'every second']),
  section('hits', 'marks', 'Mark ghosts and chokes, lock, merge', ['lock', 'choke', 'merge']),
  section('bars', 'order', 'Length, insert, repeat and move bars', ['bars', 'duplicate bars', 'double', 'shorten']),
  section('bars', 'lines', 'Time signature, pickup, and where the bars start', [
    'time signature',
    'meter',
    'pickup',
    'upbeat',
    'downbeat',
    'offset',
  ]),
  section('bars', 'cells', 'Rhythm cells', ['pattern', 'euclidean', 'four on the floor', 'backbeat']),
  section('bars', 'fills', 'Fills at the end of bars', ['fill', 'break', 'roll', 'tom fill', 'build-up', 'drum fill']),
  section('bars', 'vary', 'Vary bars that repeat', ['variation', 'mutate', 'randomize pattern', 'less repetition']),
  section('takes', 'input', 'Choose what is played on, and its latency', ['MIDI input', 'latency', 'pads', 'velocity curve']),
  section('takes', 'steps', 'Step entry', ['step input', 'step record']),
  section('takes', 'out', 'Send MIDI out to a device', ['MIDI output', 'external', 'sync', 'MIDI clock']),
  section('takes', 'beside', 'Play to a backing track', ['backing', 'song', 'reference', 'rehearse', 'play along']),
  section('takes', 'takes', 'Recorded takes: move them in time, filter out crosstalk', ['crosstalk', 'aftertouch', 'monitor', 'fold']),
  section('sound', 'rows', 'Row sound: level, pan, tuning, decay', [
    'decay',
    'ring',
    'transpose',
    'pitch',
    'mixer',
    'fade',
    'brightness',
    'factory kit',
    'rimshot',
    'sidestick',
    'snare',
    'kick',
    'clap',
  ]),
  section('sound', 'master', 'Master level and limiter', ['master', 'loudness', 'limiter', 'clipped', 'volume', 'meter']),
  told(
    'There is no distortion; a row has level, tuning, decay and brightness',
    ['distortion', 'drive', 'overdrive', 'saturation'],
    'The page Sound has level, pan, tuning and decay for each row.',
  ),
  section('hits', 'ornaments', 'Pedal rolls, buzz rolls and other ornaments', ['ornament', 'buzz roll', 'thin out']),
  section('hits', 'choose', 'Select on-beat hits, off-beat hits, or every second hit', ['on-beat', 'off-beat', 'syncopation']),
  section('hits', 'copies', 'Copy, shift and rotate hits', ['copies', 'rotate', 'offset', 'reverse']),
  section('hits', 'dynamics', 'Histogram of velocities', ['histogram', 'distribution', 'deviation', 'spread', 'standard deviation']),
  section('placement', 'rows', 'Measure lean, spread, swing and velocity of each row', ['analysis', 'measure', 'timing', 'statistics']),
  section('placement', 'blind', 'Compare two versions blind', ['blind test', 'listening test', 'equal loudness']),
  section('placement', 'alike', 'Find similar bars', ['similar bars', 'repeats']),
  section('hands', 'player', 'Set the lead hand: right-handed or left-handed', [
    'left-handed',
    'lefty',
    'sticking',
    'handedness',
    'drummer',
  ]),
  section('order', 'order', 'Running order: arrange the sections of the song', ['arrange', 'intro', 'verse', 'chorus', 'song structure']),
  section('breaks', 'piece', 'Slices of a break: tune, reverse and move them', [
    'slice',
    'chop',
    'sample',
    'reverse',
    'warp',
    'stretch',
    'loop',
  ]),
  section('feel', 'moves', 'Straighten a swung part, or undo the quantize', [
    'straighten',
    'unquantize',
    'deswing',
    'quintuplet',
    'humanise',
  ]),
  told(
    'Loop length of a row (polymeter)',
    ['cycle', 'polymeter', 'row length', 'steps', 'phase'],
    'Open the menu of the row, beside its name, and choose its loop length.',
  ),
  told(
    'Move or copy hits to another row',
    ['move to row', 'copy to row', 'another drum', 'change the drum', 'reassign', 'swap sound'],
    'Select the hits, right-click them, and choose Move to row or Copy to row.',
  ),
  told('Rename a row', ['rename', 'name', 'label'], 'Open the menu of the row, beside its name, and choose Rename.'),
  {
    keys: [],
    group: 'Edit',
    text: 'Change the tempo from bar to bar: put a tempo change at the loop’s start',
    also: ['tempo change', 'ritardando', 'accelerando', 'BPM', 'tempo map'],
    run({ store }) {
      const { part, transport, run } = store.getState();
      const { start } = meterMapOf(part).barOf(transport.fromBar);
      if (transport.fromBar === 0 || part.tempo.some((t) => t.tick === start))
        return say('There is a tempo at this bar already: change it in the top line.');
      run(`Put a tempo change at bar ${transport.fromBar + 1}`, (p) => addTempoChange(p, start, tempoMapOf(p).bpmAt(start)));
    },
  },
  told('Tempo of the part', ['BPM', 'tap tempo', 'speed'], 'Type or drag the tempo in the top line, or tap it there.'),
  dialog('export', 'Export one sound file per row, or a seamless loop', [
    'stems',
    'stem',
    'bounce',
    'seamless loop',
    'consolidate',
    'render',
    'mixdown',
    'batch',
  ]),
  told(
    'Duplicate the part',
    ['duplicate part', 'copy part', 'clone', 'save as'],
    'On the Shelf, right-click the card of the part to duplicate it.',
  ),
  told(
    'Copy hits to the clipboard and paste them',
    ['clipboard', 'copy', 'cut', 'paste'],
    'Copy with Ctrl C, cut with Ctrl X, paste with Ctrl V.',
  ),
  told('Zoom with the wheel', ['zoom', 'magnify', 'scale'], 'Hold Ctrl and turn the wheel to zoom around the pointer.'),
  {
    keys: [],
    group: 'Edit',
    text: 'Pitch bend of hits is written when MIDI is exported',
    also: ['bend', 'pitch bend'],
    run: ({ store }) => store.getState().setUi({ dialog: 'export' }),
  },
];
