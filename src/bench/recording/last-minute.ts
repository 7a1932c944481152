import type { TakeEvent, Take } from '@/core/model/take';
import { tempoMapOf } from '@/core/part/part-time';
import { foldTake, recordedStrokes } from '@/core/take/fold';
import { seconds, type Seconds } from '@/core/units';
import type { InputEvent } from '@/devices/input';

/** What was played, recording or not: when, on the audio clock, and the start of the playing that it belongs to. */
export interface PlayedEvent {
  at: Seconds;
  startedAt: Seconds | null;
  event: InputEvent;
}

/** A take of what was played lately, in its loop. @param recent at least one of them a note */
export function takeOfRecent(take: Take, recent: readonly PlayedEvent[]): { take: Take; events: TakeEvent[] } {
  const first = recent.find((p) => p.event.kind === 'note') ?? recent[0];
  if (!first) return { take, events: [] };
  const origin = first.startedAt ?? first.at;
  const tempo = tempoMapOf(take);
  const length = tempo.toSeconds(take.end) - tempo.toSeconds(take.start);
  // Whole passes are taken off, so that what was played long after the start is not in pass a hundred.
  const skipped = Math.floor((first.at - origin) / length) * length;
  const events = recent.map(({ at, startedAt, event }): TakeEvent => ({
    at: seconds(at - (startedAt ?? origin) - (startedAt === first.startedAt ? skipped : 0)),
    kind: event.kind,
    key: event.key,
    value: event.value,
  }));
  const passes = recordedStrokes(foldTake(take, events)).reduce((most, s) => Math.max(most, s.pass + 1), 0);
  return { take: { ...take, passes }, events };
}
