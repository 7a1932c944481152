import type { StoreApi } from 'zustand/vanilla';
import { CLOCK_OF_FREE_TAKES, endOfFreeTake, partOfFreeTake, takesFreeTake } from '@/core/take/free-take';
import { FEWEST_STROKES, type BeatReading } from '@/core/beats/find-beats';
import type { Part } from '@/core/model/part';
import type { TakeEvent, Take } from '@/core/model/take';
import { seconds, type Seconds } from '@/core/units';
import type { InputEvent } from '@/devices/input';
import type { TakeStore } from '@/storage/take-store';
import type { BeatFinder } from '../actions/beat-finder';
import type { BenchStore } from '../store/bench-store';
import { newTake } from './new-take';
import type { RecordingState } from './recording-state';

/** Longer takes are not read. */
const LONGEST_SECONDS = 7200;
/** Offset of all events, so that early device stamps stay positive. */
const LEAD_SECONDS = 1;

interface Ports {
  bench: BenchStore;
  takes: TakeStore;
  state: StoreApi<RecordingState>;
  /** Stops playback and opens the audio device, so that pads sound. */
  silence(): Promise<void>;
  /** The audio clock, in seconds; the practice player plays by it. */
  now(): Seconds;
  nextName(): Promise<string>;
  device(): string;
  finder: BeatFinder;
  onError(e: unknown): void;
  /** Called when the take is in the part. */
  onPlaced(readings: readonly BeatReading[]): void;
}

interface UnderWay {
  take: Take;
  /** Moment of the page's clock, in ms, at which recording began. */
  page: number;
  events: TakeEvent[];
  rows: number;
  kept: number;
  writing: Promise<void>;
}

/**
 * Records without a click: nothing plays, strokes keep their device time stamps, and the beats are found when recording stops. The part
 * must be empty, since its grid is made from the playing.
 */
export class FreeRecording {
  private underWay: UnderWay | null = null;
  private job: AbortController | null = null;
  /** When it began, by the audio clock; null while nothing is recorded so. */
  startedAt: Seconds | null = null;

  constructor(private readonly ports: Ports) {}

  get isOn(): boolean {
    return this.underWay !== null;
  }

  async start(): Promise<void> {
    const { bench, takes, state } = this.ports;
    await this.ports.silence();
    const { part, id } = bench.getState();
    const asIfPlayed = { ...part, ...CLOCK_OF_FREE_TAKES };
    const range = { start: CLOCK_OF_FREE_TAKES.start, end: endOfFreeTake(LONGEST_SECONDS) };
    const made = newTake(asIfPlayed, range, await this.ports.nextName(), this.ports.device(), state.getState());
    const take: Take = { ...made, free: true };
    await takes.begin(id, take);
    this.underWay = { take, page: performance.now(), events: [], rows: 0, kept: 0, writing: Promise.resolve() };
    this.startedAt = this.ports.now();
    bench.setState({ recording: true });
    state.setState({ phase: 'recording', take, pass: 0, strokes: 0 });
  }

  hear({ page, kind, key, value }: InputEvent): void {
    const r = this.underWay;
    if (!r) return;
    r.events.push({ at: seconds((page - r.page) / 1000 + LEAD_SECONDS), kind, key, value });
    if (kind === 'note') this.ports.state.setState({ strokes: this.ports.state.getState().strokes + 1 });
    // At once: a tab that is killed loses no stroke.
    void this.flush(r);
  }

  private flush(r: UnderWay): Promise<void> {
    if (r.events.length > r.kept) this.ports.state.setState({ unkept: true });
    r.writing = r.writing.then(async () => {
      const until = r.events.length;
      if (until === r.kept) return this.ports.state.setState({ unkept: false });
      try {
        await this.ports.takes.append(r.take.id, r.rows, r.events.slice(r.kept, until));
        r.kept = until;
        r.rows++;
        if (r.kept === r.events.length) this.ports.state.setState({ unkept: false });
      } catch (e) {
        this.ports.onError(e);
      }
    });
    return r.writing;
  }

  /** Ends the recording and keeps it. @param find its beats too, which takes a moment */
  async stop(find = true): Promise<void> {
    const r = this.underWay;
    if (!r) return;
    this.underWay = null;
    this.startedAt = null;
    const { bench, takes, state } = this.ports;
    // Synchronous work first: a closing page does not wait.
    const last = r.events.at(-1)?.at ?? 0;
    const take: Take = { ...r.take, end: endOfFreeTake(last), passes: 1, complete: true };
    const placed = r.events.some((e) => e.kind === 'note') ? partOfFreeTake(bench.getState().part, take, r.events) : null;
    if (!find && placed) this.put(placed, take);
    bench.setState({ recording: false });
    state.setState({ phase: 'idle', take: null, ...(find && placed ? { finding: 0 } : {}) });
    await this.flush(r);
    if (r.events.length === 0) return void (await takes.remove(take.id));
    await takes.update(take);
    if (find && placed) await this.count(placed, take);
  }

  cancelFinding(): void {
    this.job?.abort(new DOMException('cancelled', 'AbortError'));
  }

  private async count(placed: Part, take: Take): Promise<void> {
    const { state, finder, onError, onPlaced } = this.ports;
    const job = (this.job = new AbortController());
    let readings: BeatReading[] = [];
    let counted = placed;
    try {
      if (placed.hits.length >= FEWEST_STROKES) {
        readings = await finder.find(placed, (finding) => job.signal.aborted || state.setState({ finding }), job.signal);
        const [first] = readings;
        if (first) counted = await finder.follow(placed, first, job.signal);
      }
    } catch (e) {
      // The take is placed anyway, without a grid.
      if (!job.signal.aborted) onError(e);
    }
    this.job = null;
    state.setState({ finding: null });
    if (this.put(counted, take)) onPlaced(readings);
  }

  /** @returns false if the part is no longer empty */
  private put(of: Part, take: Take): boolean {
    const { bench } = this.ports;
    if (!takesFreeTake(bench.getState().part, null)) return false;
    const { tempo, playerTempo, meter, origin, bars, hits, rows } = of;
    bench.getState().run(`Record ${take.name}`, (p) => ({
      ...p,
      tempo,
      ...(playerTempo ? { playerTempo } : {}),
      meter,
      origin,
      bars,
      hits,
      rows,
    }));
    bench.getState().setTransport({ loop: true, fromBar: 0, toBar: bars });
    bench.getState().setView({ scroll: origin });
    return true;
  }
}
