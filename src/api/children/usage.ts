import { readFileSync } from 'node:fs';
import { availableParallelism, loadavg } from 'node:os';

/** What a process has used since it began. */
export interface Usage {
  cpuSeconds: number;
  megabytes: number;
}

/** Jiffies a second in /proc: fixed for what programs see (proc(5), sysconf(_SC_CLK_TCK)). */
const JIFFIES = 100;

/** What a process has used; null where the system does not tell. */
export function usageOf(pid: number): Usage | null {
  try {
    // The name stands in parentheses and may hold anything: fields are counted behind it. utime and stime are the 14th and 15th of all.
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ');
    const resident = /^VmRSS:\s+(\d+) kB/m.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1];
    return { cpuSeconds: (Number(fields[11]) + Number(fields[12])) / JIFFIES, megabytes: Number(resident ?? 0) / 1024 };
  } catch {
    return null;
  }
}

/** How much longer work takes beside what else the machine does: 1 to 4. */
export const slowdown = (load = loadavg()[0] ?? 0, cores = availableParallelism()): number =>
  Math.min(MOST_SLOWDOWN, Math.max(1, load / cores));
export const MOST_SLOWDOWN = 4;
