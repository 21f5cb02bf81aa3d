const folders = ['core', 'intake', 'voices', 'takes', 'reading', 'press', 'store', 'services', 'shared', 'cli']

const common = {
  testEnvironment: 'node',
  extensionsToTreatAsEsm: ['.ts'],
  transform: { '^.+\\.ts$': ['@swc/jest', { jsc: { target: 'es2023', parser: { syntax: 'typescript' }, experimental: { keepImportAttributes: true } }, module: { type: 'es6' } }] },
  moduleNameMapper: {
    ...Object.fromEntries(folders.map(name => [`^#${name}/(.*)$`, `<rootDir>/${name}/$1`])),
    '^~/(.*)$': '<rootDir>/app/$1',
  },
  // Packages that ship modules only are used as they are.
  transformIgnorePatterns: ['/node_modules/'],
}

export default {
  projects: [
    { ...common, displayName: 'unit', testMatch: ['<rootDir>/tests/unit/**/*.test.ts'] },
    { ...common, displayName: 'store', testMatch: ['<rootDir>/tests/store/**/*.test.ts'], globalSetup: '<rootDir>/tests/store/start-postgres.mjs', globalTeardown: '<rootDir>/tests/store/stop-postgres.mjs' },
  ],
  testTimeout: 60_000,
  maxWorkers: '100%',
}
