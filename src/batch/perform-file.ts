import { counted } from '@/core/plurals';
import { playOnKit } from '@/core/commands/rows';
import { putGroove } from '@/core/commands/grooves';
import { NamedError } from '@/core/errors';
import type { KitMap } from '@/core/key-map';
import { MOST_WORK, workOf } from '@/core/limits';
import type { Feel, Move } from '@/core/model/feel';
import { isIdle } from '@/core/feel/move-spec';
import { withHomesRead } from '@/core/reading/read-into';
import { withHomesOf2 } from '@/formats/part-2';
import type { Groove } from '@/core/model/groove';
import type { Part } from '@/core/model/part';
import { tempoMapOf } from '@/core/part/part-time';
import { weightOf } from '@/core/moves/all';
import { performPart } from '@/core/perform/perform';
import { exportPart } from '@/core/smf/export-part';
import { exportSong } from '@/core/smf/export-song';
import { importPart } from '@/core/smf/import-part';
import { drumLanes, listLanes, notesByChannel } from '@/core/smf/lanes';
import type { SmfFile } from '@/core/smf/read';
import { ticks } from '@/core/units';

/** What to apply to a file: one of these, or nothing. */
export type Given =
  | { kind: 'feel'; feel: Feel; /** Format that it came in; the newest without it. */ version?: number }
  | { kind: 'groove'; groove: Groove; lean: number; level: number }
  | { kind: 'drum map'; kit: KitMap };

/**
 * How it is written: drums only, or with the other tracks of the file; ticks a quarter by default as {@link exportPart} finds them.
 */
export interface Writing {
  song?: boolean;
  ppq?: number;
  /** The running order unrolled. */
  order?: boolean;
}

/**
 * The drum part of a file.
 * @param channels 1 to 16; by default those that carry drums
 * @throws NamedError no-notes, no-drum-notes
 */
export function partOfFile(file: SmfFile, name: string, channels?: readonly number[]): Part {
  const all = listLanes(file);
  const lanes = drumLanes(file, all, channels ? [...channels] : undefined);
  if (lanes.length === 0)
    throw all.length === 0
      ? new NamedError('no-notes', { notesByChannel: {} })
      : new NamedError('no-drum-notes', { notesByChannel: notesByChannel(all) });
  return importPart(file, { name, lanes, unread: true }).part;
}

/** Moves that need homes. */
const BY_HOME: ReadonlySet<Move['kind']> = new Set(['swing', 'groove', 'humanize', 'apart', 'hands']);

/** Whether a feel does something that depends on which line a hit belongs to. */
const needsHomes = (feel: Feel): boolean =>
  !isIdle(feel) && feel.moves.some((m) => m.on !== false && (BY_HOME.has(m.kind) || m.scope?.bars !== undefined));

/** Larger parts are read beat by beat: read together they would take too long. */
const MOST_READ_TOGETHER = 60_000;

/**
 * A part that comes from a file with its homes read.
 * @param feelVersion the format of the feel that it is for: feels before feel@3 get the homes that part@2 fitted
 */
export function withHomesFor(part: Part, feelVersion = Infinity): Part {
  return feelVersion < 3 || part.hits.length > MOST_READ_TOGETHER ? withHomesOf2(part) : withHomesRead(part);
}

/**
 * A part of a file with a feel, with its homes read if the feel needs them.
 * @param version the feel's format, as for {@link withHomesFor}
 */
export const withFeelGiven = (part: Part, feel: Feel, version?: number): Part => ({
  ...(needsHomes(feel) ? withHomesFor(part, version) : part),
  feel,
});

/** A part of a file with what is given to it. */
export function withGiven(part: Part, given: Given): Part {
  if (given.kind === 'feel') return withFeelGiven(part, given.feel, given.version);
  if (given.kind === 'groove') return withHomesFor(putGroove(part, given.groove, given).part);
  return playOnKit(part, given.kit);
}

/**
 * Writes a part as a MIDI file: the same bytes for the API, the shell and the browser.
 * @param file where it came from, for its other tracks
 * @param hits how many are written, where passes make them more
 * @throws NamedError too-much-work, meter-changed, bad-resolution
 */
export function writePart(part: Part, file: SmfFile | null, { song, ppq, order }: Writing, hits = part.hits.length): Uint8Array {
  // Each move looks at each hit: what would take too long is refused before it starts.
  if (workOf(hits, weightOf(part.feel)) > MOST_WORK)
    throw new NamedError('too-much-work', { hits, moves: part.feel.moves.length, most: MOST_WORK });
  return (song && file ? exportSong(part, file, { ppq }) : exportPart(part, { ppq, order })).bytes;
}

/** What was done to a part. */
export interface Account {
  hits: number;
  /** Hits whose time changed by at least a twentieth of a millisecond, by how much on average and at most. */
  moved: number;
  meanMs: number;
  mostMs: number;
  /** Hits whose velocity changed. */
  levelled: number;
  /** Hits that another key plays. */
  rekeyed: number;
}

const HEARD_MS = 0.05;

/** Tells what the given does to the hits of a part. */
export function accountOf(before: Part, after: Part): Account {
  const time = tempoMapOf(before);
  const { ticks: times, velocities } = performPart(after);
  const account: Account = { hits: before.hits.length, moved: 0, meanMs: 0, mostMs: 0, levelled: 0, rekeyed: 0 };
  const written = new Map(before.hits.map((h) => [h.id, h]));
  let sum = 0;
  after.hits.forEach((hit, i) => {
    const was = written.get(hit.id);
    if (!was) return;
    const ms = Math.abs(time.between(was.tick, ticks(times[i] as number)));
    if (ms >= HEARD_MS) {
      account.moved++;
      sum += ms;
      account.mostMs = Math.max(account.mostMs, ms);
    }
    if (velocities[i] !== was.velocity) account.levelled++;
    if (hit.key !== was.key) account.rekeyed++;
  });
  account.meanMs = account.moved > 0 ? sum / account.moved : 0;
  return account;
}

/** @example accountWords(account) // '148 hits: 36 moved, 7.8 ms on average, 11.0 at most; 20 louder or softer' */
export function accountWords({ hits, moved, meanMs, mostMs, levelled, rekeyed }: Account): string {
  const done = [
    moved > 0 && `${moved} moved, ${meanMs.toFixed(1)} ms on average, ${mostMs.toFixed(1)} at most`,
    levelled > 0 && `${levelled} louder or softer`,
    rekeyed > 0 && `${rekeyed} on other keys`,
  ].filter(Boolean);
  return `${counted(hits, 'hit')}: ${done.length > 0 ? done.join('; ') : 'nothing changes'}`;
}
