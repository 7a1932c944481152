/** Commands on how a part sounds: its kit, its rows' settings, master and room. */
import { isOfBreak } from '../model/break';
import { FIRST_KIT, PART_MIX, ROW_SOUND, type KitName, type OwnKitRef, type PartMix, type RowPlays, type RowSound } from '../model/sound';
import type { Part } from '../model/part';
import { clamp } from '../units';
import type { VoiceName } from '../row-names';

/** Plays the part with a built-in kit; all else stays. */
export function setKit(part: Part, kit: KitName): Part {
  const { kit: _was, ownKit: _own, ...rest } = part;
  return kit === FIRST_KIT ? rest : { ...rest, kit };
}

/** Changes a row's settings; what is at rest is not kept. */
export function setRowSound(part: Part, row: VoiceName, change: Partial<RowSound>): Part {
  return {
    ...part,
    rows: part.rows.map((r) => {
      if (r.voice !== row) return r;
      const { sound: was, ...rest } = r;
      // What a row is at rest differs with what plays it.
      const sound = kept(
        { ...was, ...change },
        ROW_SOUND,
        isOfBreak(r.plays) ? ['room', 'tone'] : part.ownKit || (r.plays && 'own' in r.plays) ? ['room', 'loudness'] : ['room'],
      );
      return sound ? { ...rest, sound } : rest;
    }),
  };
}

/** Changes master level and room. The room is kept also where it is the kit's: it was chosen. */
export function setMix(part: Part, change: Partial<PartMix>): Part {
  const { mix: was, ...rest } = part;
  const { room, ...others } = { ...was, ...change };
  const mix = { ...kept(others, PART_MIX, []), ...(room === undefined ? {} : { room: clamp(room, PART_MIX.room.min, PART_MIX.room.max) }) };
  return Object.keys(mix).length > 0 ? { ...rest, mix } : rest;
}

/** Settings within their ranges, without those at rest; nothing where all are. Some count always: kits differ in them. */
function kept<T extends Record<string, number | undefined>>(
  settings: T,
  ranges: Readonly<Record<string, { min: number; max: number; rest: number }>>,
  always: readonly string[],
): T | undefined {
  const own = Object.entries(settings).flatMap(([name, value]) => {
    const range = ranges[name];
    if (value === undefined || !range) return [];
    const limited = clamp(value, range.min, range.max);
    return limited === range.rest && !always.includes(name) ? [] : [[name, limited]];
  });
  return own.length > 0 ? (Object.fromEntries(own) as T) : undefined;
}

/** Lets another kit's sound, or one of the user's own, play a row; the part's kit without one. */
export function setRowPlays(part: Part, row: VoiceName, plays: RowPlays | undefined): Part {
  return {
    ...part,
    rows: part.rows.map((r) => {
      if (r.voice !== row) return r;
      const { plays: _was, ...rest } = r;
      return plays ? { ...rest, plays } : rest;
    }),
  };
}

/** Plays the part with a kit of the user's own, over the built-in one; rows that were given sounds of their own keep them. */
export function setOwnKit(part: Part, ownKit: OwnKitRef | undefined): Part {
  const { ownKit: _was, ...rest } = part;
  return ownKit ? { ...rest, ownKit } : rest;
}
