import js from '@eslint/js';
import globals from 'globals';
import tseslint from 'typescript-eslint';
import vue from 'eslint-plugin-vue';

/** Dependencies point one way: web, server, cli → contracts → core; web, server, cli → tracker, synth → core. */
function mayImport(own, allowed) {
  const packages = ['core', 'contracts', 'tracker', 'synth', 'server', 'web', 'cli'];
  const forbidden = packages.filter((name) => name !== own && !allowed.includes(name)).map((name) => `@merry-shadow/${name}/*`);
  return { patterns: [{ group: forbidden, message: `${own} must not depend on this package (docs/architecture.md).` }, { group: ['**/packages/**', '**/apps/**'], message: 'Import packages by name.' }] };
}

const nodeBuiltIns = { group: ['node:*', 'fs', 'path', 'os', 'child_process'], message: 'This code also runs in the browser: no Node.js built-ins.' };
function rule(own, allowed, extra = []) {
  const base = mayImport(own, allowed);
  return { 'no-restricted-imports': ['error', { patterns: [...base.patterns, ...extra] }] };
}
const coreLibraries = { regex: '^(?!\\.|zod$|gl-matrix$)', message: 'core imports nobody but Zod and gl-matrix.' };

export default tseslint.config(
  { ignores: ['**/node_modules/**', '**/dist/**', '.data/**', '**/migrations/**', 'test-results/**', 'playwright-report/**'] },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    languageOptions: { globals: { ...globals.node, ...globals.browser }, parserOptions: { parser: tseslint.parser, extraFileExtensions: ['.vue'] } },
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': 'error',
      'no-console': 'error',
      'no-undef': 'off',
      eqeqeq: 'error',
      // Layout is not linted.
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/first-attribute-linebreak': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/require-default-prop': 'off',
    },
  },
  { files: ['packages/core/src/**/*.ts'], ignores: ['**/*.test.ts', 'packages/core/src/formats/**'], rules: { ...rule('core', [], [nodeBuiltIns, coreLibraries]), 'no-restricted-globals': ['error', 'Date', 'performance', 'window', 'document', 'process'] } },
  { files: ['packages/core/src/formats/**/*.ts'], ignores: ['**/*.test.ts'], rules: rule('core', [], [nodeBuiltIns]) },
  { files: ['packages/core/src/**/*.ts'], ignores: ['**/*.test.ts'], rules: { 'no-restricted-properties': ['error', { object: 'Math', property: 'random', message: 'No randomness without a seed.' }] } },
  { files: ['packages/contracts/src/**/*.ts'], ignores: ['**/*.test.ts'], rules: rule('contracts', ['core'], [nodeBuiltIns]) },
  { files: ['packages/tracker/src/**/*.ts'], ignores: ['packages/tracker/src/node/**', '**/*.test.ts'], rules: rule('tracker', ['core'], [nodeBuiltIns, { group: ['**/node/**'], message: 'The tracker is runtime-neutral; adapters import it, not the other way.' }]) },
  { files: ['packages/tracker/src/node/**/*.ts'], rules: rule('tracker', ['core']) },
  { files: ['packages/synth/src/**/*.ts'], rules: rule('synth', ['core']) },
  { files: ['apps/server/src/**/*.ts'], rules: rule('server', ['core', 'contracts', 'tracker', 'synth']) },
  { files: ['apps/web/src/**/*.{ts,vue}'], rules: rule('web', ['core', 'contracts', 'tracker'], [nodeBuiltIns]) },
  // Within the interface: rooms and panels → the open take → stores, commands, shell.
  { files: ['apps/web/src/{take,stores,commands,shell,api}/**'], rules: rule('web', ['core', 'contracts', 'tracker'], [nodeBuiltIns, { group: ['**/look/**', '**/edit/**', '**/footage/**', '**/record/**', '**/clip/**'], message: 'Panels use the open take, not the other way.' }]) },
  { files: ['apps/web/src/{stores,api}/**'], rules: rule('web', ['core', 'contracts', 'tracker'], [nodeBuiltIns, { group: ['**/look/**', '**/edit/**', '**/take/**', '**/takes/**'], message: 'Stores know no screens.' }]) },
  // What filters and samples knows no operation, and an operation no document of edits.
  { files: ['packages/core/src/signal/**/*.ts'], ignores: ['**/*.test.ts'], rules: rule('core', [], [nodeBuiltIns, coreLibraries, { group: ['**/passes/**', '**/ground/**', '**/solve/**', '**/snags/**', '**/edits/**'], message: 'core/signal lies below these.' }]) },
  { files: ['packages/core/src/{passes,ground,solve,snags,layers,posing,between}/**/*.ts'], ignores: ['**/*.test.ts'], rules: rule('core', [], [nodeBuiltIns, coreLibraries, { group: ['**/edits/**'], message: 'Edits use these, not the other way.' }]) },
  { files: ['apps/cli/src/**/*.ts'], rules: rule('cli', ['core', 'contracts', 'tracker', 'synth']) },
);
