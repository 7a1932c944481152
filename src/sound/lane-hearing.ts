import type { LaneContent } from '@/core/smf/lanes';
import type { LaneQuestion } from '@/workers/midi-file';

/** The sound comes with the first track that is heard. */
const loaded = () => import('./hear-lane');

const stop = () => loaded().then((m) => m.stopLane());

/** What a question for drum tracks needs to let them be heard. */
export const laneHearing = (question: LaneQuestion, onError: (e: unknown) => void) => ({
  lane: (lane: LaneContent) =>
    loaded()
      .then((m) => m.hearLane(question, lane))
      .catch(onError),
  stop,
});
