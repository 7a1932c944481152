import { isMainThread, parentPort, Worker, workerData } from 'node:worker_threads';
import type { NetLayer } from '@/core/onsets/stroke-net';
import { loopMaker, type LoopExamples } from './examples';
import { packed, unpacked, type PackedLoops } from './kept-examples';
import { fitFirst } from './passes';
import { readSoundFont } from './soundfont';

/** Work that goes on beside other work of its kind, in threads that run this same file. */

type Job =
  { kind: 'loops'; font: string; seeds: readonly number[]; natural: boolean } | { kind: 'first'; loops: PackedLoops; steps: number };

function done(job: Job): PackedLoops | NetLayer[] {
  if (job.kind === 'first') return fitFirst(unpacked(job.loops), job.steps);
  const make = loopMaker(readSoundFont(job.font), { natural: job.natural });
  return packed(job.seeds.flatMap((seed) => make(seed) ?? []));
}

/** What threads do when they are started with a job. */
export function serveJobs(): void {
  if (isMainThread || !(workerData as { job?: Job } | null)?.job) return;
  parentPort?.postMessage(done((workerData as { job: Job }).job));
}

const inThread = <T>(file: string, job: Job): Promise<T> =>
  new Promise((resolve, reject) => {
    const worker = new Worker(file, { workerData: { job } });
    worker.once('message', (answer: T) => resolve(answer));
    worker.once('error', reject);
  });

/** What loops are made of. */
export interface LoopOrder {
  font: string;
  seeds: readonly number[];
  /** Drums and levels as their sets have them, and nothing happens to the loops. */
  natural: boolean;
}

/** Makes loops in as many threads as are wanted; each thread takes every n-th. @param file what threads run */
export async function loopsInThreads(file: string, { font, seeds, natural }: LoopOrder, threads: number): Promise<LoopExamples[]> {
  const all = await Promise.all(
    Array.from({ length: threads }, (_, t) =>
      inThread<PackedLoops>(file, { kind: 'loops', font, natural, seeds: seeds.filter((_seed, i) => i % threads === t) }),
    ),
  );
  return all.flatMap(unpacked).sort((a, b) => a.seed - b.seed);
}

export const firstInThread = (file: string, loops: readonly LoopExamples[], steps: number): Promise<NetLayer[]> =>
  inThread(file, { kind: 'first', loops: packed(loops), steps });
