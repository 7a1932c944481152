/** Rows and programs as the engine knows them. */
import { soundOfSource } from '@/core/playback/kit-sounds';
import type { Versions } from '@/core/playback/player';
import type { LayerShape, RowSource, Sounded as Played } from '@/core/playback/sources';
import type { Part } from '@/core/model/part';
import type { TempoMap } from '@/core/time/tempo-map';
import type { Ticks } from '@/core/units';
import type { VoiceName } from '@/core/row-names';
import type { NumberedSound } from './protocol';

/** What of a part says how it sounds. */
export type EngineRows = Played & Pick<Part, 'mix'>;

/** Programs under a name, and how their ticks are told. */
export interface Known {
  versions: Versions;
  tempo: TempoMap;
  tickOf: ((tick: Ticks) => Ticks) | undefined;
}

/** A row that the player knows by its number. */
export interface NumberedRow {
  row: VoiceName;
  source: RowSource;
  name: string;
  layers: readonly LayerShape[];
}

/** A row's sound as the audio thread takes it. */
export function numbered({ source, name, layers }: NumberedRow, index: number): NumberedSound {
  const { layers: _none, ...sound } = soundOfSource(source, []);
  return { index, source: name, layers, sound };
}
