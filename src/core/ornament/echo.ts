import { ORNAMENT_LIMITS, type Echo } from '../model/ornament';
import { stepOf } from '../time/grid';
import { roundHalfUp } from '../units';
import { keyOfVoice } from '../key-map';
import { isVoiceName } from '../row-names';
import {
  isFlag,
  isGrid,
  optional,
  strokeOf,
  wholeWithin,
  within,
  type Ornamented,
  type OrnamentSpec,
  type OrnamentStroke,
  type Swung,
} from './ornament-spec';

function echoStrokes(part: Ornamented, echo: Echo, main: OrnamentStroke, swung: Swung | null): OrnamentStroke[] {
  const distance = echo.steps * stepOf(echo.grid);
  const voice = echo.voice ?? main.voice;
  const key = voice === main.voice ? main.key : keyOfVoice(part.kitMap, voice);
  const follows = echo.followsSwing === false ? null : swung;
  const strokes = [main];
  for (let k = 1; k <= echo.repeats; k++) {
    const velocity = main.velocity * echo.decay ** k;
    // What would be softer than the softest stroke is not played.
    if (roundHalfUp(velocity) < 1) break;
    strokes.push(strokeOf(main, follows ? follows(k * distance) : main.tick + k * distance, velocity, distance, voice, key));
  }
  return strokes;
}

const L = ORNAMENT_LIMITS;

export const echoSpec: OrnamentSpec<Echo> = {
  kind: 'echo',
  members: {
    steps: wholeWithin(L.steps),
    grid: isGrid,
    repeats: wholeWithin(L.repeats),
    decay: within(L.decay),
    voice: optional(isVoiceName),
    followsSwing: optional(isFlag),
  },
  ready: [{ word: 'echo', ornament: { kind: 'echo', steps: 3, grid: '1/16', repeats: 3, decay: 0.65 } }],
  word: () => 'echo',
  count: (_part, _index, { repeats }) => repeats + 1,
  strokes: (part, _index, echo, main, swung) => echoStrokes(part, echo, main, swung),
};
