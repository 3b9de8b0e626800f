/** Unit tests: TypeScript through swc to CommonJS, which starts fastest. */
module.exports = {
  roots: ['<rootDir>/packages', '<rootDir>/demo'],
  testMatch: ['**/*.test.ts'],
  transform: {
    '^.+\\.tsx?$': [
      '@swc/jest',
      { module: { type: 'commonjs' }, jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true } } },
    ],
  },
  testEnvironment: 'node',
  globalSetup: '<rootDir>/scripts/jest-global-setup.cjs',
  setupFiles: ['<rootDir>/scripts/jest-setup.cjs'],
  testTimeout: 60000,
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  maxWorkers: 2,
};
