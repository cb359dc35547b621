export default {
  rootDir: 'build/test',
  testEnvironment: '<rootDir>/../../test/support/program-environment.mjs',
  transform: {},
  testMatch: ['**/*.test.js'],
  testTimeout: 60_000,
  // A worker of browser tests waits for its browser most of the time: one for each core.
  maxWorkers: '100%',
};
