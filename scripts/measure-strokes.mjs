// npm run measure:strokes: how well strokes are named on drums that were left out of the fit, and in how many actions they are corrected.
// Needs the weights that `npm run fit:strokes` leaves in server/generated.
import { join } from 'node:path';
import { bundled, ROOT } from './bundled.mjs';
import { generalSoundFont } from './general-soundfont.mjs';

const { measureStrokes } = await bundled('measure-strokes', 'measure/strokes/outside.ts');
const kept = join(ROOT, 'server/generated/stroke-loops.bin');
measureStrokes(
  generalSoundFont(),
  { font: `${kept}.without-font.json`, ours: `${kept}.without-ours.json` },
  join(ROOT, 'src/core/onsets/stroke-weights.json'),
);
