import { writeFileSync } from 'node:fs';
import { KIT_NAMES } from '@/core/model/sound';
import { DB_OF_LOUD, SECONDS_OF_LATE, type StrokeWeights } from '@/core/onsets/stroke-net';
import { examplesOf, type Example } from './examples';
import { fitNet, scoreNet } from './fit';

const FIRST_SEED = 1000;
const BEATS = 1300;
const STEPS = 60_000;
/** One beat of ten is left out while fitting, to see how well others are heard. */
const isHeldOut = (e: Example): boolean => e.seed % 20 >= 18;

/** Fits the net that tells strokes and writes its weights; `--kits` also tells how well a kit is heard that was left out. */
export function fitStrokes(file: string, options: readonly string[]): void {
  const count = Number(options.find((o) => /^\d+$/.test(o)) ?? BEATS);
  const examples = examplesOf(
    Array.from({ length: count }, (_, i) => FIRST_SEED + i),
    (nth) => {
      if (nth % 100 === 0) console.log(`beat ${nth} of ${count}`);
    },
  );
  console.log(`${examples.length} examples`);
  if (options.includes('--kits'))
    for (const kit of [...KIT_NAMES, 'plain'] as const)
      tell(
        `${kit} left out`,
        fitNet(
          examples.filter((e) => e.kit !== kit),
          STEPS / 4,
        ),
        examples.filter((e) => e.kit === kit),
      );
  const net = fitNet(
    examples.filter((e) => !isHeldOut(e)),
    STEPS,
    (step) => {
      if (step % 10_000 === 0) console.log(`step ${step} of ${STEPS}`);
    },
  );
  const heldOut = examples.filter(isHeldOut);
  tell(
    'beats left out, our kits',
    net,
    heldOut.filter((e) => e.kit !== 'plain'),
  );
  tell(
    'beats left out, plain drums',
    net,
    heldOut.filter((e) => e.kit === 'plain'),
  );
  writeFileSync(file, `${asText(net)}\n`);
}

/** A row a line. */
const asText = ({ unit, hidden, out }: StrokeWeights): string => {
  const rows = (list: readonly (readonly number[])[]): string => list.map((row) => `    [${row.join(',')}]`).join(',\n');
  return `{\n  "unit": ${unit},\n  "hidden": [\n${rows(hidden)}\n  ],\n  "out": [\n${rows(out)}\n  ]\n}`;
};

function tell(what: string, net: StrokeWeights, examples: readonly Example[]): void {
  for (const { sound, f, loud, late } of scoreNet(net, examples)) {
    const [db, ms] = [loud.map((x) => (x * DB_OF_LOUD).toFixed(2)), late.map((x) => (x * SECONDS_OF_LATE * 1000).toFixed(2))];
    console.log(
      `${what}: ${sound} F ${f.toFixed(3)}, loudness within ${db[0]} dB for half and ${db[1]} dB for four fifths, moment within ${ms[0]} and ${ms[1]} ms`,
    );
  }
}
