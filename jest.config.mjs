/** Unit tests of every package and app; `*.test.ts` beside or under `test/`. */
export default {
  testMatch: ['<rootDir>/packages/**/*.test.ts', '<rootDir>/apps/**/*.test.ts', '<rootDir>/tools/**/*.test.ts'],
  testEnvironment: '<rootDir>/tools/jest-environment.mjs',
  transform: {
    '^.+\\.(t|j|mj)s$': [
      '@swc/jest',
      { jsc: { parser: { syntax: 'typescript' }, target: 'es2022' }, module: { type: 'commonjs' } },
    ],
  },
  transformIgnorePatterns: [
    '/node_modules/(?!(three|@gltf-transform|property-graph|pinia|d3-[a-z-]+|nostics|internmap|@vueuse|tinykeys|nanoid)/)',
  ],
  moduleFileExtensions: ['ts', 'mjs', 'js', 'json', 'node'],
  modulePathIgnorePatterns: ['<rootDir>/.data', '<rootDir>/apps/web/dist'],
  // Looked up in the realm of a test these are slow, which counts where numbers are worked through.
  sandboxInjectedGlobals: ['Math', 'Number', 'Float32Array', 'Float64Array', 'Uint8Array', 'Uint16Array', 'Int32Array'],
  // Only what hangs is ended: how fast something is, `./run bench` tells.
  testTimeout: 300000,
  maxWorkers: 2,
};
