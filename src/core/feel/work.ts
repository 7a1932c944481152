import type { Homes } from '../homes/homes';
import type { HitColumns } from '../part/columns';
import type { Hit, Part } from '../model/part';
import type { MeterMap } from '../time/meter-map';
import type { TempoMap } from '../time/tempo-map';
import type { TimbreColumns } from './timbre-columns';

/** What performing needs to know of a part. */
export type Performable = Pick<Part, 'hits' | 'tempo' | 'meter' | 'origin' | 'bars' | 'feel'> & { round?: Pass };

/** Which pass is performed, from 1, and by how many ticks it comes after the first: draws differ from pass to pass. */
export interface Pass {
  pass: number;
  shift: number;
}

/** Hits by their index, `to` not included. */
export interface HitRange {
  from: number;
  to: number;
}

/** What moves work on: each reads and writes the columns that those before it left, within the range. */
export interface MoveContext {
  part: Performable;
  hits: readonly Hit[];
  /** As written. */
  written: HitColumns;
  range: HitRange;
  map: MeterMap;
  tempo: TempoMap;
  homes: Homes;
  /** The lines that hits are on so far: their homes, or where a quantize move pulled them to. Copied before it is changed. */
  lines: Float64Array;
  /** Performed ticks. */
  times: Float64Array;
  /** Performed velocities, fractional and limiter idle. */
  loudness: Float64Array;
  /** These lines as the swing moves so far place them. */
  placedHomes: Float64Array;
  /** Pan, pitch and brightness; made where a move first asks for them. */
  timbre: () => TimbreColumns;
}
