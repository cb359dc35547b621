export default {
  rootDir: 'build/test',
  testEnvironment: 'node',
  transform: {},
  testMatch: ['**/*.test.js'],
  testTimeout: 60_000,
};
