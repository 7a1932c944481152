import { mkdtempSync, rmSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { answer, bodyOf, formType } from '../form';
import type { CallName } from '../fields';
import { ChildSlots, type SlotLimits } from './slots';
import { openToRead, Waiting } from './waiting';

/** Short work is refused or answered within seconds; sound may take a minute and a gigabyte. */
export const SLOT_LIMITS = {
  short: { slots: 2, waiting: 64, seconds: 6, heapMegabytes: 256, megabytes: 640 },
  sound: { slots: 2, waiting: 0, seconds: 60, heapMegabytes: 1024, megabytes: 1280 },
} as const satisfies Record<string, SlotLimits>;

interface Pool {
  short: ChildSlots;
  sound: ChildSlots;
  waiting: Waiting;
  folder: string;
}

/** Small answers are not worth counting. */
const NOT_COUNTED = 64 * 1024;

/** Children by the kind of work, and what waits for readers. @param code the bundle that children run */
export function poolOf(
  code: string,
  limits: Readonly<Record<keyof typeof SLOT_LIMITS, SlotLimits>> = SLOT_LIMITS,
  waiting = new Waiting(),
): Pool {
  const folder = mkdtempSync(join(tmpdir(), 'nod-sway-'));
  process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
  return { short: new ChildSlots(code, limits.short), sound: new ChildSlots(code, limits.sound), waiting, folder };
}

/** One for the whole server: each route's bundle has a copy of this file. */
const POOL = Symbol.for('nod-sway/children');
const shared = (): Pool =>
  ((globalThis as { [POOL]?: Pool })[POOL] ??= poolOf(join(process.cwd(), 'server', 'generated', 'api-child.cjs')));

/** Calls whose work takes as long as that on sound, whatever is sent. */
const WITH_SOUND: readonly CallName[] = ['onsets', 'beats', 'render'];
const AUDIO_FIELD = 'name="audio"';

/**
 * Answers a call of the API in a child process: this one only takes the body in and hands the answer out, so that nothing that a request
 * makes can hold or end the server.
 */
export const inChild =
  (call: CallName, known: readonly string[], pool: () => Pool = shared) =>
  (request: Request): Promise<Response> =>
    answer(async () => {
      const contentType = formType(request);
      const { short, sound, waiting, folder } = pool();
      const body = await bodyOf(request, known, waiting);
      const file = join(folder, randomUUID());
      try {
        const withSound = WITH_SOUND.includes(call) || (known.includes('audio') && body.bytes.includes(AUDIO_FIELD));
        waiting.check('memory');
        if (withSound) waiting.check('files');
        const { status, headers, body: answered } = await (withSound ? sound : short).run({ call, contentType, body: body.bytes, file });
        if (answered instanceof Uint8Array)
          return new Response(answered.length <= NOT_COUNTED ? (answered as Uint8Array<ArrayBuffer>) : waiting.ofBytes(answered), {
            status,
            headers: [...headers, ['content-length', String(answered.length)]],
          });
        const handle = await openToRead(file);
        return new Response(waiting.ofFile(handle, answered.bytes), {
          status,
          headers: [...headers, ['content-length', String(answered.bytes)]],
        });
      } finally {
        body.release();
        // An open file stays readable without its name.
        await rm(file, { force: true });
      }
    });
