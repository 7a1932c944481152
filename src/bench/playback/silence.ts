import { audibleVoices } from '@/core/playback/program';
import { ticksOfBars } from '@/core/commands/settings';
import { homesOf, homeTest } from '@/core/homes/homes';
import type { Part } from '@/core/model/part';
import type { SoundStatus } from '@/sound/engine';
import type { Transport } from '../store/view';

/** At and below this a hit is hardly audible beside others. */
const HARDLY_AUDIBLE = 6;

/** Why nothing is heard, in a sentence with what to do; null where something sounds. */
export function silenceReason(part: Part, transport: Transport, status: SoundStatus): string | null {
  if (status === 'blocked') return 'The browser is blocking sound: click Play again.';
  if (status === 'failed') return 'The sound device could not be opened. Check that the computer has an output, then press Play again.';
  if (part.hits.length === 0) return 'There are no hits yet: click an empty step to place one.';
  const range = transport.loop ? ticksOfBars(part, transport.fromBar, transport.toBar) : null;
  const homes = homesOf(part);
  const within = range ? homeTest(part, range.start, range.end) : () => true;
  const inRange = part.hits.filter((_, i) => within(homes.ticks[i] as number));
  if (inRange.length === 0) return 'The loop has no hits: choose other bars.';
  const audible = audibleVoices(part);
  const heard = inRange.filter((h) => audible.has(h.voice));
  if (heard.length === 0)
    return part.rows.some((r) => r.soloed) ? 'The soloed rows have no hits here.' : 'Every row with hits here is muted.';
  if ((part.mix?.level ?? 0) <= -60) return 'The master level is at the bottom: raise it on the page Sound.';
  const level = new Map(part.rows.map((r) => [r.voice, r.sound?.level ?? 0]));
  if (heard.every((h) => (level.get(h.voice) ?? 0) <= -60))
    return 'The level of every row that is heard here is at the bottom: raise it on the page Sound.';
  if (heard.every((h) => h.velocity <= HARDLY_AUDIBLE)) return 'All hits here are too soft to be heard: raise their velocities.';
  return null;
}
