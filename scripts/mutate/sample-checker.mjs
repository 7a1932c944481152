// A checker of Stryker's that lets the mutants of the sample run and sets the others aside.
import { readFileSync } from 'node:fs';
import { relative } from 'node:path';
import { PluginKind, declareClassPlugin } from '@stryker-mutator/api/plugin';
import { keyOf } from './sample.mjs';

class SampleChecker {
  async init() {
    this.chosen = new Set(JSON.parse(readFileSync(process.env.MUTATE_SAMPLE, 'utf8')));
  }

  async check(mutants) {
    return Object.fromEntries(
      mutants.map((mutant) => [
        mutant.id,
        this.chosen.has(keyOf(relative(process.env.MUTATE_ROOT, mutant.fileName).replace(/^\.stryker-tmp\/[^/]+\//, ''), mutant))
          ? { status: 'passed' }
          : { status: 'compileError', reason: 'not in the sample' },
      ]),
    );
  }

  async group(mutants) {
    return [mutants.map(({ id }) => id)];
  }
}

export const strykerPlugins = [declareClassPlugin(PluginKind.Checker, 'sample', SampleChecker)];
