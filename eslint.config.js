import jsdoc from 'eslint-plugin-jsdoc';
import reactHooks from 'eslint-plugin-react-hooks';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  {
    ignores: [
      '.cache',
      '**/dist/**',
      '**/node_modules/**',
      '**/test-results/**',
      'core/src/measure/figure-grammar.*',
    ],
  },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      eqeqeq: 'error',
      'no-console': ['error', { allow: ['error'] }],
      'prefer-const': ['error', { destructuring: 'all' }],
    },
  },
  {
    // What a room gives to others can be understood without reading the rest of its file.
    files: ['{core,app,server}/src/**/*.{ts,tsx}'],
    plugins: { jsdoc },
    rules: {
      'jsdoc/require-jsdoc': [
        'error',
        {
          publicOnly: true,
          require: { FunctionDeclaration: true, ClassDeclaration: true, ArrowFunctionExpression: true },
        },
      ],
      'jsdoc/require-description': ['error', { contexts: ['any'] }],
    },
  },
  {
    // Longer ones are taken apart; what draws a part of the page is mostly markup.
    files: ['{core,app,server}/src/**/*.ts'],
    rules: { 'max-lines-per-function': ['error', { max: 70, skipBlankLines: true, skipComments: true }] },
  },
  {
    files: ['app/src/**/*.tsx'],
    rules: { 'max-lines-per-function': ['error', { max: 80, skipBlankLines: true, skipComments: true }] },
  },
  {
    files: ['app/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    // The core is figures and geometry alone: it runs in workers, on the server and in tests.
    files: ['core/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            'react',
            'react-*',
            'react/*',
            'three',
            'three/*',
            '@react-three/*',
            '@nematos/app*',
            '**/app/**',
          ],
        },
      ],
      'no-restricted-globals': ['error', 'window', 'document', 'navigator', 'localStorage', 'HTMLElement'],
    },
  },
  {
    files: ['core/test/**/*.ts', 'server/test/**/*.ts'],
    rules: { '@typescript-eslint/no-unused-expressions': 'off' },
  },
  { files: ['scripts/**', 'e2e/**', 'bench/**'], rules: { 'no-console': 'off' } },
);
