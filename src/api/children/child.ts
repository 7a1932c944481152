import { writeFile } from 'node:fs/promises';
import { CALLS } from './calls';
import { LONGEST_SENT, type Answered, type Asked } from './messages';

/** A child process that answers one request after the other. Bundled by scripts/build-worklet.mjs. */
async function answered({ call, contentType, body, file }: Asked): Promise<Answered> {
  const request = new Request('http://127.0.0.1/', {
    method: 'POST',
    headers: { 'content-type': contentType },
    body: body as Uint8Array<ArrayBuffer>,
  });
  const response = await CALLS[call](request);
  const bytes = new Uint8Array(await response.arrayBuffer());
  const { status } = response;
  const headers = [...response.headers];
  if (bytes.length <= LONGEST_SENT) return { status, headers, body: bytes };
  await writeFile(file, bytes, { flag: 'wx', mode: 0o600 });
  return { status, headers, body: { bytes: bytes.length } };
}

process.on('message', (asked: Asked) => {
  answered(asked).then(
    (answer) => process.send?.(answer),
    (e: unknown) => {
      // Without an answer there is no going on: whoever waits is told that this process ended.
      console.error(e);
      process.exit(1);
    },
  );
});
// A child does not outlive the server.
process.on('disconnect', () => process.exit(0));
