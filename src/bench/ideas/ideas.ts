/** What is done with ideas: bars that are edited by themselves, beside the part. */
import { ideaName, ideaNumber } from '../words/idea-words';
import { newHitId, newIdInPart } from '@/editing/ids';
import { appendAsSection, cameFrom, excerptOf, fromZero, putBars } from '@/core/commands/excerpt';
import { meterMapOf } from '@/core/part/part-time';
import type { Part } from '@/core/model/part';
import { partStore } from '@/storage/part-store';
import { say, showError, tell } from '@/ui/notify';
import type { Playback } from '../playback/use-playback';
import type { BenchStore } from '../store/bench-store';
import type { Idea } from '../store/ui-state';
import { barsText } from '../actions/arrange';

const LETTERS = [...'ABCDEFGHIJKLMNOP'];

/** Letters of ideas that were thrown away and may come back. */
const thrown = new WeakMap<BenchStore, Set<string>>();

/** While a take is recorded its document stays open: says so. */
function isRecording({ getState }: BenchStore): boolean {
  if (getState().recording) say('A take is being recorded: end it first.');
  return getState().recording;
}

/** The bars that are looped, or else the bar where playing starts. */
function chosenBars({ getState }: BenchStore): { from: number; to: number } {
  const { part, transport } = getState();
  if (transport.loop) return { from: transport.fromBar, to: Math.min(transport.toBar, part.bars) };
  const bar = Math.max(0, Math.min(part.bars - 1, meterMapOf(part).barAt(transport.cursor).index));
  return { from: bar, to: bar + 1 };
}

/** Copies the loop to a new idea; playing goes on there with the next bar. */
export async function newIdea(store: BenchStore, { conductor }: Playback): Promise<void> {
  const { getState } = store;
  if (isRecording(store)) return;
  getState().settle();
  const { id, ideas, idea: opened, part } = getState();
  const isFree = (l: string) => !ideas.some((i) => i.letter === l);
  const letter = LETTERS.find((l) => isFree(l) && !thrown.get(store)?.has(l)) ?? LETTERS.find(isFree);
  if (!letter) return say('There are sixteen ideas: delete one first.');
  const { from, to } = chosenBars(store);
  const idea = { partId: id, letter, bars: to - from };
  const copy = excerptOf(part, from, to);
  try {
    const own = await partStore.createIdea(copy, idea);
    getState().addIdea({ ...idea, id: own, part: copy, head: 0 });
    conductor.openIdea(own, 'bar');
    const source = ideas.find((i) => i.id === opened);
    say(
      `Idea ${ideaNumber(letter)}: ${barsText({ from, to })}${source ? ` of ${ideaName(source)}` : ''}, copied. Press Z to step through the ideas and the part.`,
    );
  } catch (error) {
    showError(error);
  }
}

/** Goes to the next idea or the one before; the part itself comes before the first. */
export function stepIdea(store: BenchStore, { conductor }: Playback, by: number, when: 'now' | 'bar'): void {
  const { getState } = store;
  if (isRecording(store)) return;
  const { ideas, idea } = getState();
  if (ideas.length === 0) return say('There are no ideas yet: Shift I copies the loop to one.');
  const places = [null, ...ideas.map((i) => i.id)];
  const next = places[(places.indexOf(idea) + by + places.length) % places.length] ?? null;
  conductor.openIdea(next, when);
  say(next === null ? 'The part itself.' : `Idea ${ideaNumber(ideas.find((i) => i.id === next)?.letter ?? 'A')}.`);
}

/** What an idea has that the part does not take from it. */
function leftOut(part: Part, idea: Part): string {
  const same = (of: (p: Part) => unknown) => JSON.stringify(of(part)) === JSON.stringify(of(idea));
  const names = [
    !same((p) => [p.feel.seed, p.feel.sway, p.feel.moves.map(({ scope: _scope, ...move }) => move)]) && 'feel',
    !same((p) => [p.kit, p.ownKit, p.mix]) && 'sound',
  ].filter(Boolean);
  return names.length > 0 ? ` Its ${names.join(' and ')} stayed with the idea: the part keeps its own.` : '';
}

/** Puts an idea in the place of the bars that it came from. */
export function takeIdea(store: BenchStore, { conductor }: Playback, { letter, bars, part: idea }: Idea): void {
  const { getState } = store;
  if (isRecording(store)) return;
  const range = cameFrom(getState().main, idea, bars);
  conductor.openIdea(null, 'now');
  getState().run(`Use idea ${ideaNumber(letter)} in ${barsText(range)}`, (p) => putBars(p, idea, range, newHitId));
  say(`Idea ${ideaNumber(letter)} is in ${barsText(range)} now.${leftOut(getState().main, idea)}`);
}

/** Brings an idea in behind the last bar, as a section. */
export function ideaToSection(store: BenchStore, { conductor }: Playback, { letter, part: idea }: Idea): void {
  const { getState } = store;
  if (isRecording(store)) return;
  const at = getState().main.bars + 1;
  conductor.openIdea(null, 'now');
  getState().run(`Make a section of idea ${ideaNumber(letter)}`, (p) =>
    appendAsSection(p, idea, { id: newIdInPart(), name: `Idea ${ideaNumber(letter)}`, newId: newHitId }),
  );
  say(`Idea ${ideaNumber(letter)} is a section now, from bar ${at} on.${leftOut(getState().main, idea)}`);
}

/** Has an idea (or the part itself) at hand for comparing; again: not any more. */
export function compareIdea({ getState }: BenchStore, idea: Idea | null): void {
  const { ui, main, setUi } = getState();
  const id = idea?.id ?? 'the part';
  if (ui.other?.id === id) return setUi({ other: null });
  const part = idea?.part ?? main;
  const name = idea ? ideaName(idea) : 'the part itself';
  setUi({ other: { id, name, feel: part.feel, part, equal: true } });
  say(`Comparing with ${name}, at equal loudness: hold Shift Q to hear it.`);
}

/** Opens the pattern book with all hits of an idea chosen. */
export function keepIdeaAsPattern(store: BenchStore, { conductor }: Playback, idea: Idea): void {
  const { getState } = store;
  if (isRecording(store)) return;
  conductor.openIdea(idea.id, 'now');
  getState().select(idea.part.hits.map((h) => h.id));
  getState().setUi({ dialog: 'patterns' });
}

/** Throws an idea away; the message puts it back. */
export async function dropIdea(store: BenchStore, { conductor }: Playback, { id, letter }: Idea): Promise<void> {
  const { getState } = store;
  if (isRecording(store)) return;
  if (getState().idea === id) conductor.openIdea(null, 'now');
  thrown.set(store, new Set([...(thrown.get(store) ?? []), letter]));
  // What waits to be saved is let go of first: it would find nothing to be saved to.
  getState().dropIdea(id);
  const bringBack = async () => {
    const back = (await partStore.ideas(getState().id)).find((i) => i.id === id);
    if (back) getState().addIdea(back);
  };
  try {
    const putBack = await partStore.remove(id);
    tell(`Idea ${ideaNumber(letter)} is deleted.`, { label: 'Undo', onClick: () => void putBack().then(bringBack).catch(showError) });
  } catch (error) {
    showError(error);
    await bringBack();
  }
}

/** Keeps bars as a part of their own on the Shelf. @returns its id */
export function keepAsPart(part: Part, name: string, { from, to }: { from: number; to: number }): Promise<string> {
  return partStore.create({ ...fromZero(excerptOf(part, from, to)), name });
}
