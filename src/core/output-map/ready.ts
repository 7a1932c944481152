import { NO_TARGET, type OutputMap } from '../model/output-map';

/** The targets that everybody has. */
export const READY_TARGETS: readonly OutputMap[] = [
  { ...NO_TARGET, name: 'General MIDI', keys: { kind: 'general-midi' } },
  { ...NO_TARGET, name: 'General MIDI, one track per row', keys: { kind: 'general-midi' }, tracks: 'rows' },
  { ...NO_TARGET, name: 'Chromatic from 36', keys: { kind: 'chromatic', from: 36 } },
];
