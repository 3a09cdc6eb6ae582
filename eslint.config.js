const { defineConfig, globalIgnores } = require('eslint/config');
const expo = require('eslint-config-expo/flat');
const prettier = require('eslint-config-prettier/flat');
const i18next = require('eslint-plugin-i18next');

/** The rooms of app/src, and which others each may use; see docs/architecture.md. */
const rooms = {
  ui: [],
  store: [],
  work: ['store'],
  documents: ['ui', 'store', 'work'],
  capture: ['ui', 'store', 'work'],
  page: ['ui', 'store', 'work'],
  sending: ['ui', 'store', 'work', 'documents'],
  settings: ['ui', 'store', 'work'],
  shell: ['ui', 'store', 'work', 'documents', 'sending', 'settings'],
  app: ['ui', 'store', 'shell', 'documents', 'capture', 'page', 'sending', 'settings'],
};
const walls = Object.entries(rooms).map(([room, uses]) => ({
  target: `./app/src/${room}`,
  from: './app/src',
  except: [room, ...uses].map((name) => `./${name}`),
  message: `${room} may use ${uses.join(', ') || 'no other room'}.`,
}));

const workspaces = ['app', 'server', 'core', 'model', 'formats', 'text', 'cli', 'demo', 'e2e', 'bench'];

module.exports = defineConfig([
  globalIgnores([
    '**/dist/**',
    'app/public/**',
    'app/bundle/built/**',
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
    // What TypeScript tells by itself, and took two thirds of the time here.
    rules: { '@typescript-eslint/no-redeclare': 'off', 'import/namespace': 'off' },
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
    files: ['app/src/**'],
    ignores: ['**/*.test.ts', '**/*.test.tsx', 'app/src/testing/**'],
    rules: { 'import/no-restricted-paths': ['error', { basePath: __dirname, zones: walls }] },
  },
  {
    // Every word that is shown stands in app/src/ui/words.
    files: ['app/src/**/*.tsx'],
    ignores: ['**/*.test.tsx', 'app/src/testing/**'],
    plugins: { i18next },
    rules: {
      'i18next/no-literal-string': [
        'error',
        {
          mode: 'jsx-only',
          'jsx-attributes': {
            include: ['^(aria-label|aria-valuetext|title|detail|label|placeholder|alt|accessibilityLabel|name)$'],
          },
          callees: { exclude: ['^say$', '^sayCode$'] },
          // Ids and keys of the catalogue are not words.
          words: { exclude: ['^[a-z][\\w.-]*$', '^[^\\p{L}]*$'] },
          message: 'words for people stand in the catalogue, app/src/ui/words',
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
