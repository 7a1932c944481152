// npm run fit:strokes [-- loops]: fits the nets that tell what was struck, on loops of our kits, of plainly made drums and of a general
// soundfont, and writes their weights. Installs the soundfont where it is missing.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { bundled, ROOT } from './bundled.mjs';
import { generalSoundFont } from './general-soundfont.mjs';

const { fitStrokes } = await bundled('fit-strokes', 'measure/strokes/command.ts');
const loops = process.argv.slice(2).find((o) => /^\d+$/.test(o));
const weights = join(ROOT, 'src/core/onsets/stroke-weights.json');
await fitStrokes({
  weights,
  font: generalSoundFont(),
  kept: join(ROOT, 'server/generated/stroke-loops.bin'),
  file: join(ROOT, 'server/generated/fit-strokes.cjs'),
  ...(loops ? { loops: Number(loops) } : {}),
});
execFileSync('npx', ['prettier', '--write', weights], { cwd: ROOT });
