// npm run demo:data: records the breaks that come along from their code, writes what is heard in them, and the demo parts as data.
import { build } from 'esbuild';
import { createHash } from 'node:crypto';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';

const out = join(mkdtempSync(join(resolve('node_modules'), '.breaks-')), 'breaks.mjs');
const entry = `export { demoBreaks } from '@/demo/breaks'; export { recordBreak } from '@/demo/record-break';`;
await build({
  stdin: { contents: entry, resolveDir: resolve('.'), loader: 'ts' },
  outfile: out,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  alias: { '@': resolve('src') },
  logLevel: 'warning',
});
const { demoBreaks, recordBreak } = await import(out);
mkdirSync('public/breaks', { recursive: true });
const known = demoBreaks().map(({ id, name, part }) => {
  const { wav, seconds, heard } = recordBreak(part);
  writeFileSync(`public/breaks/${id}.wav`, wav);
  console.log(
    `${name}: ${seconds.toFixed(2)} s, ${heard.at.length} heard, ${heard.readings.map((r) => `${r.bars} x ${r.meter.join('/')} at ${r.bpm.toFixed(2)}`).join(', ')}`,
  );
  return { id, name, sample: createHash('sha256').update(wav).digest('hex'), seconds, heard };
});
writeFileSync('src/demo/recorded-breaks.json', `${JSON.stringify(known)}\n`);

// The demo parts, made from code, with what was just heard.
const parts = join(mkdtempSync(join(resolve('node_modules'), '.breaks-')), 'parts.mjs');
await build({
  stdin: {
    contents: `export { demoCues } from '@/demo/cues'; export { summarize } from '@/storage/summary';`,
    resolveDir: resolve('.'),
    loader: 'ts',
  },
  outfile: parts,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  alias: { '@': resolve('src') },
  logLevel: 'warning',
});
const { demoCues, summarize } = await import(parts);
mkdirSync('public/demo', { recursive: true });
writeFileSync(
  'public/demo/parts.json',
  `${JSON.stringify(demoCues().map(({ song, ...cue }) => ({ ...cue, summary: summarize(cue.part), ...(song ? { song: Buffer.from(song).toString('base64') } : {}) })))}\n`,
);
