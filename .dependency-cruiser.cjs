/** Who may import whom. The arrows run one way: interface -> store of the Bench -> core. */
module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    { name: 'core-is-pure', comment: 'src/core knows no interface, storage, sound device, format or package', severity: 'error', from: { path: '^src/core', pathNot: '\\.test\\.ts$' }, to: { pathNot: '^src/core' } },
    { name: 'formats-on-core', severity: 'error', from: { path: '^src/formats', pathNot: '\\.test\\.ts$' }, to: { path: '^src/(?!core|formats)' } },
    { name: 'storage-below-interface', severity: 'error', from: { path: '^src/storage', pathNot: '\\.test\\.ts$' }, to: { path: '^src/(app|bench|shelf|ui|sound|api)' } },
    { name: 'sound-below-interface', severity: 'error', from: { path: '^src/sound' }, to: { path: '^src/(app|bench|shelf|ui|storage|api)' } },
    { name: 'devices-on-core', severity: 'error', from: { path: '^src/devices', pathNot: '\\.test\\.ts$' }, to: { path: '^src/(?!core|devices)' } },
    { name: 'api-without-browser', severity: 'error', from: { path: '^src/api' }, to: { path: '^src/(app|bench|shelf|ui|storage|sound)' } },
    { name: 'no-tests-in-code', severity: 'error', from: { pathNot: '\\.test\\.tsx?$|^tests/' }, to: { path: '\\.test\\.tsx?$|^tests/' } },
    { name: 'no-unlisted-packages', severity: 'error', from: { pathNot: '\\.test\\.tsx?$|^tests/' }, to: { dependencyTypes: ['npm-dev', 'npm-no-pkg', 'npm-unknown'], pathNot: 'node_modules/@types' } },
    { name: 'no-dead-imports', severity: 'error', from: {}, to: { couldNotResolve: true, pathNot: '\\.css$' } },
  ],
  options: { tsConfig: { fileName: 'tsconfig.json' }, tsPreCompilationDeps: true, doNotFollow: { path: 'node_modules' }, enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'require', 'node', 'default', 'types'] } },
};
