const swc = [
  '<rootDir>/../tools/jest-transform.mjs',
  { jsc: { parser: { syntax: 'typescript', decorators: true }, target: 'es2022' }, module: { type: 'es6' } },
];

/** Plain ES modules everywhere: several libraries have no other form. */
const common = {
  testEnvironment: 'node',
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '^.+\\.ts$': swc },
  moduleNameMapper: {
    '^@bright-slot/core$': '<rootDir>/../core/src/index.ts',
    '^@bright-slot/core/(.*)$': '<rootDir>/../core/src/$1.ts',
  },
};

const units = ['core', 'server', 'web'].map((name) => ({
  ...common,
  displayName: name,
  rootDir: name,
  testMatch: ['<rootDir>/src/**/*.spec.ts'],
}));

export default {
  projects: [
    ...units,
    { ...common, displayName: 'e2e', rootDir: 'e2e', testMatch: ['<rootDir>/src/**/*.spec.ts'], testTimeout: 240_000 },
  ],
  testTimeout: 240_000,
  testSequencer: './tools/jest-sequencer.mjs',
};
