/** @type {import('jest').Config} */
export default {
  testEnvironment: 'node',
  // What is still written into the store when a file's tests are over must not meet globals that were made to call themselves.
  testEnvironmentOptions: { globalsCleanup: 'off' },
  // A limit against hanging alone: on a busy machine a test may take twenty times as long as by itself.
  testTimeout: 1_200_000,
  // A test's globals are looked up slowly: those of inner loops are handed to each file.
  sandboxInjectedGlobals: ['Math', 'Float32Array', 'Float64Array', 'Uint8Array', 'Int32Array'],
  roots: ['<rootDir>/src', '<rootDir>/measure', '<rootDir>/tests'],
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  transform: {
    '^.+\\.m?[jt]sx?$': [
      '@swc/jest',
      { jsc: { parser: { syntax: 'typescript', tsx: true }, target: 'es2022', transform: { react: { runtime: 'automatic' } } } },
    ],
  },
  // Packages that come as modules alone are compiled for the tests as well.
  transformIgnorePatterns: ['node_modules/(?!nanoid/|@zip.js/|d3-array/|internmap/)'],
  moduleNameMapper: {
    '^@zip.js/zip.js/(.*)$': '<rootDir>/node_modules/@zip.js/zip.js/$1',
    '^@/(.*)$': '<rootDir>/src/$1',
    '^@tests/(.*)$': '<rootDir>/tests/$1',
  },
};
