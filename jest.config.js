export default {
  rootDir: 'build/test',
  testEnvironment: '<rootDir>/../../test/support/program-environment.mjs',
  transform: {},
  testMatch: ['**/*.test.js'],
  testTimeout: 60_000,
};
