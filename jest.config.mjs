// two projects so that the computation runs in the cheap node environment
const swc = [
  '<rootDir>/tests/transform.mjs',
  {
    jsc: {
      parser: { syntax: 'typescript', tsx: true },
      transform: { react: { runtime: 'automatic' } },
      target: 'es2022',
    },
    module: { type: 'es6' },
  },
];
const common = {
  rootDir: import.meta.dirname,
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  transform: { '^.+\\.tsx?$': swc },
  moduleNameMapper: { '^@/(.*)$': '<rootDir>/$1', '\\.(css|woff2?)$': '<rootDir>/tests/styleStub.mjs' },
  modulePathIgnorePatterns: ['<rootDir>/.next/', '<rootDir>/dist/'],
};
export default {
  // a slow machine is no failure
  testTimeout: 60_000,
  // a worker that has run a hundred files has gigabytes to give back, which half a second may not do
  workerGracefulExitTimeout: 20_000,
  // one less than the cores by default, which is one of two
  maxWorkers: 2,
  projects: [
    {
      ...common,
      displayName: 'computation',
      testEnvironment: 'node',
      testMatch: ['<rootDir>/{core,camera,engine,cli,store,tests,app,ui,stations,gauntlet}/**/*.test.ts'],
    },
    {
      ...common,
      displayName: 'interface',
      testEnvironment: 'jsdom',
      testMatch: ['<rootDir>/{ui,stations,app,gauntlet}/**/*.test.tsx'],
      setupFilesAfterEnv: ['<rootDir>/tests/setupDom.ts'],
      // jsdom's default is ['browser']; never list 'import' here (breaks jest's own requires)
      testEnvironmentOptions: { customExportConditions: ['node', 'node-addons'] },
    },
  ],
};
