import { createStore } from 'zustand/vanilla';
import { showError } from '@/ui/notify';

/** The part that is heard on the Shelf; null: none. */
export const audition = createStore<{ id: string | null }>(() => ({ id: null }));

/** What sounds comes with the first part that is heard. */
const sound = () => Promise.all([import('@/sound/engine'), import('@/sound/hear-once'), import('@/sounds/own'), import('@/storage/part-store')]);

let follows = false;
/** The last wish counts: reading a part takes a moment. */
let wish = 0;

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
  audition.setState({ id });
  try {
    const [{ soundEngine }, { hearBars }, { watchOwnSounds }, { partStore }] = await sound();
    const engine = soundEngine();
    watchOwnSounds();
    const { part } = await partStore.load(id);
    if (mine !== wish) return;
    await hearBars(part, 0, part.bars, true);
    if (mine !== wish) return void engine.stop();
    if (follows) return;
    follows = true;
    // What else begins to sound, or ends, ends this.
    engine.subscribe(() => !engine.isPlaying && audition.setState({ id: null }));
  } catch (e) {
    if (mine === wish) audition.setState({ id: null });
    showError(e);
  }
}
