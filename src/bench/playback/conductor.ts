import type { Part } from '@/core/model/part';
import type { OrderEntry, Section } from '@/core/model/song';
import { barsOf, sectionOf } from '@/core/part/sections';
import { endOfPart } from '@/core/part/part-time';
import { ticksOfBars } from '@/core/commands/settings';
import type { When } from '@/core/playback/player';
import { variesByPass } from '@/core/song/played';
import { createStore } from 'zustand/vanilla';
import { ticks, type Ticks } from '@/core/units';
import type { SoundEngine } from '@/sound/engine';
import type { HitNumbers } from '@/sound/slots';
import { ownSounds } from '@/sounds/own';
import { say } from '@/ui/notify';
import type { BenchState, BenchStore } from '../store/bench-store';
import { inputsOf, programInputs, same } from '../store/inputs';
import { playableOf, secondsOfBars, wantedOf, type ProgramRequest } from './programs';

/** What sounds and what is called, for those who show it. */
export interface Conducted {
  sounding: ProgramRequest | null;
  /** What comes next, once it is asked for. */
  next: ProgramRequest | null;
  /** What sounded to its end last. */
  heard: ProgramRequest | null;
  /** Sections as they were switched since play, for the running order. */
  switched: readonly OrderEntry[];
}

/** At least so many passes, and so many seconds, are known ahead where each is drawn anew. */
const PASSES_AHEAD = 2;
const SECONDS_AHEAD = 2;

const isSameBars = (a: ProgramRequest, b: ProgramRequest): boolean =>
  a.idea === b.idea && a.kind === b.kind && (a.kind !== 'bars' || (b.kind === 'bars' && a.from === b.from && a.to === b.to));

/** The bars before a loop, where there are any: they sound once, then the loop takes over. */
const ledInto = (wanted: ProgramRequest, bars: number): ProgramRequest =>
  bars > 0 && wanted.kind === 'bars' && wanted.from > 0
    ? { ...wanted, from: Math.max(0, wanted.from - bars), to: wanted.from, leadsIn: true }
    : wanted;

/** The section whose bars are played; undefined where they are no section's. */
export const sectionPlayed = (part: Pick<Part, 'sections'>, wanted: ProgramRequest | null): Section | undefined =>
  wanted?.kind === 'bars' && wanted.idea === null
    ? part.sections?.find((s) => barsOf(s).from === wanted.from && barsOf(s).to === wanted.to)
    : undefined;

/**
 * Tells the player what plays and what takes over, as the part and the transport change. A loop that is changed around the playhead changes
 * at once; another one waits for the bar, or as the section that sounds says it may be left.
 */
export class Conductor {
  readonly state = createStore<Conducted>(() => ({ sounding: null, next: null, heard: null, switched: [] }));
  /** What is played under each name. */
  private readonly wanted = new Map<string, ProgramRequest>();
  private names = 0;
  private sounding = '';
  private queued: string[] = [];
  /** A section was called: it waits even where the playhead lies within it. */
  private called = false;
  private waiting = 0;
  /** Something changed that the player has not been told. */
  private isBehind = false;
  /** When what sounds came in, on the audio clock's seconds. */
  private since = 0;

  constructor(
    private readonly store: BenchStore,
    private readonly engine: SoundEngine,
    private readonly slots: HitNumbers,
  ) {}

  /** Follows the store and the player until it is ended. */
  follow(): () => void {
    const stops = [
      this.store.subscribe((state, before) => {
        if (!same(programInputs(state), programInputs(before))) this.ask();
      }),
      // Sounds of the user's own come, go and change beside the part.
      ownSounds.subscribe(() => this.ask()),
      this.engine.subscribe(() => this.hear()),
    ];
    return () => {
      cancelAnimationFrame(this.waiting);
      for (const stop of stops) stop();
    };
  }

  /** One program a frame at most. */
  private ask() {
    if (!this.engine.isPlaying || this.waiting) return;
    this.waiting = requestAnimationFrame(() => {
      this.waiting = 0;
      this.update();
    });
  }

  /**
   * Starts what the transport asks for.
   * @param leadBars so many bars before the loop are played first, as far as there are any
   */
  begin(state: BenchState, leadBars = 0): ProgramRequest {
    const wanted = ledInto(wantedOf(state), this.engine.isPlaying ? 0 : leadBars);
    if (!this.engine.isPlaying && state.ui.follow === 'paused') state.setUi({ follow: 'on' });
    // What plays goes on under its name from another place.
    if (this.engine.isPlaying && this.wanted.has(this.sounding)) this.wanted.set(this.sounding, wanted);
    else this.sounding = this.nameOf(wanted);
    this.queued = [];
    this.called = false;
    this.since = this.engine.now;
    this.state.setState({ sounding: wanted, next: null, switched: [] });
    this.give(this.sounding, wanted);
    this.queueNext();
    return wanted;
  }

  /** Calls a section: it takes over when the section may switch. Stopped, it is what Play starts with. */
  call(id: string) {
    const { main, openIdea, setTransport } = this.store.getState();
    const section = sectionOf(main, id);
    if (!section) return;
    const { from, to } = barsOf(section);
    this.called = this.engine.isPlaying;
    openIdea(null);
    setTransport({ loop: true, order: false, fromBar: from, toBar: to });
    if (this.engine.isPlaying) this.ask();
  }

  /** Opens an idea, or the part itself: at once at the same place, or with the bar line. */
  openIdea(idea: string | null, when: 'now' | 'bar') {
    if (this.store.getState().recording) return say('A take is being recorded: end it first.');
    this.called = when === 'bar' && this.engine.isPlaying;
    this.store.getState().openIdea(idea);
  }

  private nameOf(wanted: ProgramRequest): string {
    const name = `p${++this.names}`;
    this.wanted.set(name, wanted);
    return name;
  }

  private give(name: string, wanted: ProgramRequest) {
    const inputs = inputsOf(this.store.getState(), wanted.idea);
    if (!inputs) return;
    const { versions, tickOf } = playableOf(wanted, inputs, this.engine, this.slots);
    this.engine.setPrograms(versions, name, tickOf);
  }

  /** Brings what plays up to date, and decides what takes over. */
  private update() {
    const state = this.store.getState();
    const sounding = this.wanted.get(this.sounding);
    // Until the player has answered, or while something else is played, what is asked for waits.
    this.isBehind = this.engine.playing?.name !== this.sounding;
    if (!sounding || this.isBehind) return;
    const asked = wantedOf(state);
    if (!isSameBars(asked, sounding) && !this.called && this.fitsInPlace(asked, sounding)) {
      this.wanted.set(this.sounding, asked);
      this.state.setState({ sounding: asked });
    }
    // A running order that is gone: its bars play on until something is chosen.
    if (sounding.kind === 'order' && !state.main.order) return;
    this.give(this.sounding, this.wanted.get(this.sounding) as ProgramRequest);
    this.queueNext();
  }

  /** Whether another loop may take the place of the one that sounds at once: the playhead lies within it. */
  private fitsInPlace(asked: ProgramRequest, sounding: ProgramRequest): boolean {
    if (asked.kind === 'order' || sounding.kind === 'order') return false;
    const at = this.engine.position();
    if (at === null) return true;
    const { part } = this.store.getState();
    const range =
      asked.kind === 'bars'
        ? ticksOfBars(part, asked.from, Math.min(asked.to, part.bars))
        : { start: Math.min(part.origin, 0), end: endOfPart(part) };
    return at >= range.start && at < range.end;
  }

  /** Queues what was asked for, or the passes to come where each is drawn anew. */
  private queueNext() {
    const state = this.store.getState();
    const sounding = this.wanted.get(this.sounding) as ProgramRequest;
    const asked = wantedOf(state);
    if (!isSameBars(asked, sounding)) return this.queue([asked], this.whenToLeave(sounding, asked));
    this.called = false;
    this.queue(this.passesAhead(sounding, state.part), 'end');
  }

  private passesAhead(sounding: ProgramRequest, part: Part): ProgramRequest[] {
    if (sounding.kind !== 'bars' || part.everyPass !== 'anew' || !variesByPass(part)) return [];
    const length = secondsOfBars(part, sounding.from, Math.min(sounding.to, part.bars));
    const count = Math.max(PASSES_AHEAD, Math.ceil(SECONDS_AHEAD / length));
    return Array.from({ length: count }, (_, i) => ({ ...sounding, pass: sounding.pass + 1 + i }));
  }

  private whenToLeave(sounding: ProgramRequest, asked: ProgramRequest): When {
    if (sounding.kind === 'bars' && sounding.leadsIn) return 'end';
    if (sounding.idea !== asked.idea) return this.called ? 'bar' : 'anywhere';
    const section = sectionPlayed(this.store.getState().main, sounding);
    return section?.leave ?? 'bar';
  }

  private queue(list: readonly ProgramRequest[], when: When) {
    // What is queued already keeps its name, so that it is brought up to date and not put off.
    const names = list.map(
      (wanted) => this.queued.find((n) => JSON.stringify(this.wanted.get(n)) === JSON.stringify(wanted)) ?? this.nameOf(wanted),
    );
    this.queued = names;
    this.engine.setQueue(
      list.flatMap((wanted, i) => {
        const inputs = inputsOf(this.store.getState(), wanted.idea);
        return inputs ? [{ name: names[i] as string, when, ...playableOf(wanted, inputs, this.engine, this.slots) }] : [];
      }),
    );
    const kept = new Set([this.sounding, ...names]);
    for (const name of this.wanted.keys()) if (!kept.has(name)) this.wanted.delete(name);
    const next = list[0] && !isSameBars(list[0], this.wanted.get(this.sounding) as ProgramRequest) ? list[0] : null;
    if (!same(this.state.getState().next, next)) this.state.setState({ next });
  }

  /** Hears of the player: something took over, or it stopped. */
  private hear() {
    const playing = this.engine.playing;
    if (!playing) {
      if (this.state.getState().sounding !== null && !this.engine.isPlaying && this.wasPlaying) {
        this.note(this.wanted.get(this.sounding));
        this.state.setState({ sounding: null, next: null, heard: this.wanted.get(this.sounding) ?? null });
      }
      this.wasPlaying = false;
      return;
    }
    // What was asked for between Play and the first sound.
    if (!this.wasPlaying) this.ask();
    this.wasPlaying = true;
    const wanted = this.wanted.get(playing.name);
    if (playing.name === this.sounding && this.isBehind) this.ask();
    if (playing.name === this.sounding || !wanted) return;
    const left = this.wanted.get(this.sounding);
    this.note(left);
    this.sounding = playing.name;
    this.queued = this.queued.filter((n) => n !== playing.name);
    this.state.setState({ sounding: wanted, heard: left ?? null });
    this.queueNext();
  }

  private wasPlaying = false;

  /** Remembers how often a section has sounded. */
  private note(left: ProgramRequest | undefined) {
    const now = this.engine.now;
    const { main: part } = this.store.getState();
    const section = left && sectionPlayed(part, left);
    if (section) {
      const { from, to } = barsOf(section);
      const times = Math.max(1, Math.round((now - this.since) / secondsOfBars(part, from, to)));
      const { switched } = this.state.getState();
      const last = switched.at(-1);
      const joined =
        last?.section === section.id
          ? [...switched.slice(0, -1), { section: section.id, times: (last.times ?? 1) + times }]
          : [...switched, { section: section.id, times }];
      this.state.setState({ switched: joined });
    }
    this.since = now;
  }

  /** Where playing starts: the loop's start, the order's, or the cursor. */
  startOf({ part, transport }: BenchState, wanted: ProgramRequest): Ticks {
    if (wanted.kind === 'bars') return ticksOfBars(part, wanted.from, wanted.to).start;
    if (wanted.kind === 'order') return ticks(0);
    return transport.cursor >= endOfPart(part) ? part.origin : transport.cursor;
  }
}
