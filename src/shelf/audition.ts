import { createStore } from 'zustand/vanilla';
import type { Part } from '@/core/model/part';
import type { SoundEngine } from '@/sound/engine';
import { showError } from '@/ui/notify';

/** The part that is heard on the Shelf; null: none. */
export const audition = createStore<{ id: string | null }>(() => ({ id: null }));

/** What sounds comes with the first part that is heard. */
const sound = () => Promise.all([import('@/sound/engine'), import('@/sound/hear-once'), import('@/storage/part-store')]);

let follows = false;
/** What was asked for is on its way, or (`true`) sounds: from then on silence ends it. Null: what is told is of something before. */
let sounds: boolean | null = null;
/** The last wish counts: reading a part takes a moment. */
let wish = 0;

/** Has what plays a part at hand: the user's own sounds, and recordings of its breaks, also those of ours that were never asked for. */
async function atHand({ breaks = [] }: Part): Promise<void> {
  const [{ watchOwnSounds, knownWith }, { recordingStore }] = await Promise.all([
    import('@/sounds/own'),
    import('@/storage/recording-store'),
  ]);
  const samples = [...new Set(breaks.map((b) => b.sample))];
  if (samples.length > 0) await (await import('@/storage/own-recordings')).keepOurs(samples);
  const here = new Set(await recordingStore.ids());
  watchOwnSounds();
  await knownWith(samples.filter((s) => here.has(s)));
}

/** Waits until nothing sounds any more: what is told of the one before is not of the next. */
function silence(engine: SoundEngine): Promise<void> {
  engine.stop();
  return new Promise((done) => {
    const look = () => {
      if (engine.isPlaying) return;
      stop();
      done();
    };
    const stop = engine.subscribe(look);
    look();
  });
}

/** Ends it. */
export async function endAudition(): Promise<void> {
  wish++;
  if (audition.getState().id === null) return;
  audition.setState({ id: null });
  const [{ soundEngine }] = await sound();
  soundEngine().stop();
}

/** Lets a part be heard over and over, in its own tempo and with its own sounds; the one that is heard already is stopped. */
export async function hearPart(id: string): Promise<void> {
  if (audition.getState().id === id) return endAudition();
  const mine = ++wish;
  sounds = null;
  audition.setState({ id });
  try {
    const [{ soundEngine }, { hearBars }, { partStore }] = await sound();
    const engine = soundEngine();
    const { part } = await partStore.load(id);
    await atHand(part);
    await silence(engine);
    if (mine !== wish) return;
    sounds = false;
    if (!follows) {
      follows = true;
      engine.subscribe(() => {
        if (sounds === null) return;
        if (sounds && !engine.isPlaying) audition.setState({ id: null });
        sounds = engine.isPlaying;
      });
    }
    await hearBars(part, 0, part.bars, true);
    if (mine !== wish) engine.stop();
  } catch (e) {
    if (mine === wish) audition.setState({ id: null });
    showError(e);
  }
}
