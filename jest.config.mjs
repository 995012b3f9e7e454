/** Units are bundled by `tools/units.mjs` and run in bare Node, two processes, without Jest's sandbox. */
const units = ['core', 'server', 'web'].map((name) => ({
  displayName: name,
  rootDir: `.cache/units/${name}`,
  testMatch: ['<rootDir>/src/**/*.spec.js'],
  runner: 'jest-light-runner/child-process',
  transform: {},
  setupFiles: name === 'web' ? ['<rootDir>/../../../tools/unit-setup.mjs'] : [],
}));

/** The real browser: Jest's own runner, since every case has a limit there. */
const browser = {
  displayName: 'e2e',
  rootDir: 'e2e',
  testMatch: ['<rootDir>/src/**/*.spec.ts'],
  testEnvironment: 'node',
  extensionsToTreatAsEsm: ['.ts'],
  transform: {
    '^.+\\.ts$': [
      '<rootDir>/../tools/jest-transform.mjs',
      { jsc: { parser: { syntax: 'typescript', decorators: true }, target: 'es2022' }, module: { type: 'es6' } },
    ],
  },
  moduleNameMapper: {
    '^@bright-slot/core$': '<rootDir>/../core/src/index.ts',
    '^@bright-slot/core/(.*)$': '<rootDir>/../core/src/$1.ts',
  },
  testTimeout: 240_000,
};

export default {
  projects: [...units, browser],
  testTimeout: 240_000,
  testSequencer: './tools/jest-sequencer.mjs',
};
