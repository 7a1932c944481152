// npm run fit:beats [-- takes]: fits the weights that rank the readings of free takes, on generated takes.
import { join } from 'node:path';
import { bundled, ROOT } from './bundled.mjs';

const { fitBeats } = await bundled('fit-beats', 'measure/beats/fit.ts');
fitBeats(join(ROOT, 'src/core/beats/weights.ts'), Number(process.argv[2] ?? 600));
