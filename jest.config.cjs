/** Unit tests: TypeScript through swc to CommonJS, which starts fastest. */
module.exports = {
  roots: ['<rootDir>/packages', '<rootDir>/demo'],
  testMatch: ['**/*.test.ts'],
  extensionsToTreatAsEsm: [],
  transform: {
    '^.+\\.tsx?$': [
      '@swc/jest',
      { module: { type: 'commonjs' }, jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true } } },
    ],
  },
  testEnvironment: 'node',
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  maxWorkers: 2,
};
