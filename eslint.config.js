const { defineConfig, globalIgnores } = require('eslint/config');
const expo = require('eslint-config-expo/flat');
const prettier = require('eslint-config-prettier/flat');

const workspaces = ['app', 'server', 'core', 'model', 'formats', 'cli', 'demo', 'e2e', 'bench'];

module.exports = defineConfig([
  globalIgnores([
    '**/dist/**',
    'app/public/**',
    '**/.expo/**',
    '**/expo-env.d.ts',
    '**/test-results/**',
    'data/**',
    // AssemblyScript: its decorators and types are not TypeScript's.
    'core/assembly/*.ts',
    '**/node_modules/**',
  ]),
  ...expo,
  {
    settings: {
      'import/resolver': { typescript: { project: workspaces.map((w) => `${w}/tsconfig.json`), noWarnOnMultipleProjects: true } },
    },
    rules: { '@typescript-eslint/no-redeclare': 'off' },
  },
  {
    // Imports go down only: see docs/architecture.md.
    files: ['core/src/**', 'model/src/**'],
    rules: { 'no-restricted-imports': ['error', { patterns: ['@libretto/*'] }] },
  },
  {
    files: ['formats/src/**', 'server/src/**'],
    ignores: ['**/*.test.ts'],
    rules: { 'no-restricted-imports': ['error', { patterns: ['@libretto/*', '!@libretto/model'] }] },
  },
  {
    files: ['app/src/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          paths: [
            {
              name: '@react-native-async-storage/async-storage',
              importNames: ['default'],
              message: 'On the web that is localStorage with its 5 MB: use createAsyncStorage.',
            },
          ],
        },
      ],
    },
  },
  {
    files: [
      '**/*.mjs',
      '**/*.config.js',
      '**/*.config.cjs',
      'server/**',
      'e2e/**',
      'cli/**',
      'bench/**',
      'demo/**',
      'scripts/**',
    ],
    languageOptions: {
      globals: Object.fromEntries(
        [
          'Buffer',
          'process',
          'URL',
          '__dirname',
          'window',
          'document',
          'navigator',
          'console',
          'performance',
          'fetch',
          'AbortSignal',
          'setTimeout',
          'require',
          'module',
          'NodeJS',
        ].map((g) => [g, 'readonly']),
      ),
    },
  },
  {
    files: ['**/*.test.ts', '**/*.test.tsx', 'app/jest.setup.js'],
    languageOptions: {
      globals: Object.fromEntries(
        ['test', 'expect', 'jest', 'describe', 'beforeAll', 'beforeEach', 'afterAll', 'afterEach', 'it'].map((g) => [
          g,
          'readonly',
        ]),
      ),
    },
  },
  prettier,
]);
