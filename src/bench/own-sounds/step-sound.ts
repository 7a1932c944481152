import { setRowPlays } from '@/core/commands/sound';
import { labelOfRow } from '@/core/part/rows';
import type { VoiceName } from '@/core/row-names';
import type { Transaction } from '@/editing/document';
import type { Part } from '@/core/model/part';
import { say, showError } from '@/ui/notify';
import type { Playback } from '../playback/use-playback';
import type { BenchStore } from '../store/bench-store';
import { candidatesFor, keyOfPlays, type Candidate } from './candidates';

/** Trying sounds on the open row, one after another. */
interface Trying {
  store: BenchStore;
  row: VoiceName;
  list: readonly Candidate[];
  at: number;
  edit: Transaction<Part>;
  /** The press that was last: what an earlier one loads too late is not heard. */
  press: number;
}

let trying: Trying | null = null;

/** So hard a sound is struck where nothing plays. */
const VELOCITY = 100;

/** Tries the next sound of the open row's kind, or the one before: heard at once, kept by Enter, put back by Escape. */
export async function stepSound(store: BenchStore, playback: Playback, by: number): Promise<void> {
  const { part, focus } = store.getState();
  const row = part.rows.find((r) => r.voice === focus);
  if (!row) return say('Open a row first: click its name.');
  if (trying?.store !== store || trying.row !== row.voice || !trying.edit.isOpen) {
    const list = candidatesFor(part, row.voice);
    const at = Math.max(
      0,
      list.findIndex((c) => c.key === keyOfPlays(row.plays)),
    );
    const begun: Trying = {
      store,
      row: row.voice,
      list,
      at,
      press: 0,
      edit: store.getState().open('Try a sound', 'trial', (how) => how === 'kept' && void keep(begun)),
    };
    trying = begun;
  }
  const now = trying;
  now.at = (now.at + by + now.list.length) % now.list.length;
  const press = ++now.press;
  const candidate = now.list[now.at] as Candidate;
  const label = labelOfRow(part, row.voice);
  try {
    const plays = await candidate.load();
    if (press !== now.press || !now.edit.isOpen) return;
    now.edit.preview((p) => setRowPlays(p, now.row, plays), `${label} plays ${candidate.name}`);
    say(`${label}: ${candidate.name}, ${now.at + 1} of ${now.list.length}. Enter keeps it, Escape goes back.`);
    if (!playback.engine.isPlaying) playback.audition(now.row, VELOCITY);
    prepareNear(now, playback);
  } catch (e) {
    showError(e);
  }
}

async function keep({ list, at }: Trying) {
  try {
    await list[at]?.keep();
  } catch (e) {
    showError(e);
  }
}

/** What comes next either way is read before it is asked for. */
function prepareNear({ store, row, list, at }: Trying, { engine }: Playback) {
  for (const by of [1, -1]) {
    const near = list[(at + by + list.length) % list.length];
    void near
      ?.load()
      .then((plays) =>
        engine.prepare({
          ...store.getState().part,
          rows: setRowPlays(store.getState().part, row, plays).rows.filter((r) => r.voice === row),
        }),
      )
      // It is told of when it is its turn.
      .catch(() => {});
  }
}
