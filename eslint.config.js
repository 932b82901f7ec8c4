import js from '@eslint/js';
import ts from 'typescript-eslint';
import { rooms } from './scripts/rooms.mjs';

export default ts.config(
  { ignores: ['**/dist/**', '**/node_modules/**', '**/.next/**', 'web/next-env.d.ts', 'web/public/**'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    plugins: { house: { rules: { rooms } } },
    languageOptions: {
      globals: { console: 'readonly', process: 'readonly', performance: 'readonly', Buffer: 'readonly' },
    },
    rules: {
      'house/rooms': 'error',
      'no-undef': 'off',
      'no-control-regex': 'off',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
);
