/** Who may import whom: the folders' rules are made from boundaries.cjs. */
const { FOLDERS } = require('./boundaries.cjs');

const TESTS = '\\.test\\.tsx?$';
const inside = (folder) => `^src/${folder}/`;
/** Folders that have rules of their own within another's. */
const nested = (folder) => FOLDERS.filter((f) => f.folder.startsWith(`${folder}/`)).map((f) => inside(f.folder));
/** What an entry of `on` means: a folder without those within it that are listed themselves. */
const allowed = (name) =>
  name.endsWith('/*')
    ? `^src/${name.slice(0, -2)}/`
    : nested(name).length > 0
      ? `^src/${name}/(?!(${nested(name)
          .map((n) => n.slice(`^src/${name}/`.length))
          .join('|')}))`
      : inside(name);

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    ...FOLDERS.map(({ folder, on }) => ({
      name: `rests-on (${folder})`,
      comment: `src/${folder} may import: ${on.join(', ') || 'nothing else'}`,
      severity: 'error',
      from: { path: inside(folder), pathNot: [TESTS, ...nested(folder)] },
      to: { path: '^src/', pathNot: [allowed(folder), ...on.map(allowed)] },
    })),
    {
      name: 'core-is-pure',
      comment: 'src/core knows no interface, storage, sound device or format, and of packages the binary search alone',
      severity: 'error',
      from: { path: '^src/core', pathNot: TESTS },
      to: { pathNot: '^src/core|^node_modules/d3-array/' },
    },
    {
      name: 'features-apart',
      comment: 'a feature of the Bench imports no other feature: what two share lies in bench/shared or lower',
      severity: 'error',
      from: { path: '^src/bench/features/([^/]+)/', pathNot: TESTS },
      to: { path: '^src/bench/features/', pathNot: '^src/bench/features/$1/' },
    },
    {
      name: 'features-by-their-entries',
      comment: 'the list of features imports their public entries alone',
      severity: 'error',
      from: { path: '^src/bench/features/all\\.ts$' },
      to: { path: '^src/bench/features/', pathNot: '^src/bench/features/[^/]+/index\\.tsx$' },
    },
    { name: 'no-tests-in-code', severity: 'error', from: { pathNot: `${TESTS}|^tests/` }, to: { path: `${TESTS}|^tests/` } },
    {
      name: 'no-unlisted-packages',
      severity: 'error',
      from: { pathNot: `${TESTS}|^tests/` },
      to: { dependencyTypes: ['npm-dev', 'npm-no-pkg', 'npm-unknown'], pathNot: 'node_modules/@types' },
    },
    { name: 'no-dead-imports', severity: 'error', from: {}, to: { couldNotResolve: true, pathNot: '\\.css$' } },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'require', 'node', 'default', 'types'] },
  },
};
