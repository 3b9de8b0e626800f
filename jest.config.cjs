/** Unit tests: TypeScript through swc to CommonJS, which starts fastest. */
module.exports = {
  roots: ['<rootDir>/packages', '<rootDir>/demo'],
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  transform: {
    '^.+\\.[jt]sx?$': [
      '@swc/jest',
      {
        module: { type: 'commonjs' },
        jsc: {
          target: 'es2022',
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
        },
      },
    ],
  },
  // Packages that come as ES modules only.
  transformIgnorePatterns: [
    '/node_modules/(?!(earcut|flatbush|flatqueue|polyclip-ts|splaytree-ts|@tanstack/[^/]+|react-resizable-panels)/)',
  ],
  moduleNameMapper: { '^@emotion/sheet$': '<rootDir>/scripts/jest-no-styles.cjs' },
  testEnvironment: 'node',
  globalSetup: '<rootDir>/scripts/jest-global-setup.cjs',
  setupFiles: ['<rootDir>/scripts/jest-setup.cjs'],
  testTimeout: 60000,
  testPathIgnorePatterns: ['/node_modules/', '/dist/'],
  maxWorkers: 2,
};
