// npm run fit:strokes [-- --kits] [beats]: fits the net that tells what was struck, on beats of our own kits, and writes its weights.
import { join } from 'node:path';
import { bundled, ROOT } from './bundled.mjs';

const { fitStrokes } = await bundled('fit-strokes', 'measure/strokes/command.ts');
fitStrokes(join(ROOT, 'src/core/onsets/stroke-weights.json'), process.argv.slice(2));
