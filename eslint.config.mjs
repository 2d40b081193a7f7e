import expo from 'eslint-config-expo/flat.js';
import prettier from 'eslint-config-prettier';

export default [
  {
    ignores: [
      '**/node_modules/**',
      '**/dist/**',
      '**/.expo/**',
      '.cache/**',
      'data*/**',
      'test-results/**',
      'playwright-report/**',
    ],
  },
  ...expo,
  prettier,
  {
    settings: {
      'import/resolver': {
        typescript: { project: ['packages/core/tsconfig.json', 'apps/web/tsconfig.json', 'apps/server/tsconfig.json'] },
      },
    },
  },
  {
    files: ['**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      eqeqeq: ['error', 'always'],
      'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }],
      'max-lines-per-function': ['error', { max: 70, skipBlankLines: true, skipComments: true }],
      'max-params': ['error', 5],
      'no-console': 'off',
    },
  },
  {
    files: ['packages/core/src/**/*.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'navigator',
        'performance',
        'process',
        'Buffer',
        'setTimeout',
        'fetch',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'The core has no chance in it: pass a seed.' },
        { object: 'Date', property: 'now', message: 'The core has no clock: pass the time.' },
      ],
    },
  },
  {
    // A drawing is one long list of lines.
    files: ['apps/server/src/demo/**'],
    rules: { 'max-lines-per-function': 'off' },
  },
  {
    files: ['**/*.test.{ts,tsx}', '**/tests/**', 'e2e/**', 'bench/**'],
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'off',
      'import/no-named-as-default-member': 'off',
      'max-lines': 'off',
      'max-lines-per-function': 'off',
      'max-params': 'off',
    },
  },
];
