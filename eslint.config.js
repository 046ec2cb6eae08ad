import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import globals from 'globals';
import ts from 'typescript-eslint';

const nothingAbove = (names, why) => ({
  'no-restricted-imports': ['error', { patterns: [{ group: names, message: why }] }],
});

export default ts.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      'data/**',
      'server/src/db/migrations/**',
      'test-results/**',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/triple-slash-reference': 'off',
      eqeqeq: ['error', 'smart'],
    },
  },
  // Floors stand on each other; an import only ever points down.
  {
    files: ['core/src/**'],
    rules: nothingAbove(
      ['@wunsch/*', 'node:*', 'react', 'zod', 'fastify*'],
      'the core imports nothing of ours, no Node and no interface',
    ),
  },
  {
    files: ['contract/src/**'],
    rules: nothingAbove(
      ['@wunsch/server*', '@wunsch/web*', '@wunsch/demo*', 'node:*', 'react'],
      'the contract stands on the core alone',
    ),
  },
  {
    files: ['server/src/**'],
    rules: nothingAbove(
      ['@wunsch/web*', '@wunsch/demo*', 'react*'],
      'the server knows neither pages nor demo',
    ),
  },
  {
    files: ['standins/src/**'],
    rules: nothingAbove(['@wunsch/server*', '@wunsch/web*'], 'stand-ins use the same doors as real devices'),
  },
  {
    files: ['web/src/**'],
    plugins: { 'react-hooks': hooks },
    languageOptions: { globals: globals.browser },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'warn',
      ...nothingAbove(
        ['@wunsch/server*', '@wunsch/demo*', 'node:*'],
        'pages reach the server only through the contract',
      ),
      'no-restricted-syntax': [
        'error',
        {
          selector: "CallExpression[callee.name='useSWR'][arguments.length<2]",
          message: 'without a fetcher nothing ever comes: useRead reads from the workshop',
        },
      ],
    },
  },
  { files: ['scripts/**', '*.js', '*.cjs', 'bench/**'], languageOptions: { globals: globals.node } },
  { files: ['**/*.test.ts', '**/testing/**'], rules: { '@typescript-eslint/no-explicit-any': 'off' } },
  // Tests of the pages read their sources.
  { files: ['web/src/**/*.test.ts'], rules: { 'no-restricted-imports': 'off' } },
);
