import js from '@eslint/js';
import ts from 'typescript-eslint';
import vue from 'eslint-plugin-vue';
import vueParser from 'vue-eslint-parser';
import prettier from 'eslint-config-prettier';
import globals from 'globals';

export default [
  {
    ignores: [
      '**/node_modules/**',
      '**/dist/**',
      '.data/**',
      'packages/demo/data/**',
      'packages/kernel/assembly/layout.ts',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parser: vueParser, parserOptions: { parser: ts.parser } } },
  { languageOptions: { globals: { ...globals.node, ...globals.browser } } },
  {
    rules: {
      'max-lines': ['error', { max: 400, skipBlankLines: true, skipComments: true }],
      eqeqeq: 'error',
      'no-console': 'error',
      'vue/multi-word-component-names': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', ignoreRestSiblings: true }],
      'vue/valid-v-slot': ['error', { allowModifiers: true }],
    },
  },
  { files: ['scripts/**', 'bench/**'], rules: { 'no-console': 'off' } },
  { files: ['**/test/**', 'tests/**'], rules: { '@typescript-eslint/no-unused-expressions': 'off' } },
  {
    // What pictures and simulations depend on is worked out alike in every engine: + - * / and Math.sqrt are, these are not.
    files: ['packages/core/src/**'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...[
          ...['sin', 'cos', 'tan', 'asin', 'acos', 'atan', 'atan2', 'sinh', 'cosh', 'tanh', 'asinh', 'acosh', 'atanh'],
          ...['exp', 'expm1', 'log', 'log2', 'log10', 'log1p', 'pow', 'hypot', 'cbrt'],
        ].map((property) => ({
          object: 'Math',
          property,
          message: 'Engines differ in its last bits: use core/maths.',
        })),
      ],
      'no-restricted-syntax': [
        'error',
        ...['BinaryExpression', 'AssignmentExpression'].map((node) => ({
          selector: `${node}[operator=/^\\*\\*=?$/]`,
          message: 'Engines differ in its last bits: use pow() of core/maths.',
        })),
      ],
    },
  },
  {
    // AssemblyScript: TypeScript's grammar with decorated functions, wasm's own types and no boxing, so that loose equality
    // and classes of plain memory are its idiom.
    files: ['packages/kernel/assembly/**'],
    languageOptions: { parserOptions: { allowInvalidAST: true } },
    rules: {
      eqeqeq: 'off',
      'no-undef': 'off',
      '@typescript-eslint/ban-ts-comment': 'off',
      'no-loss-of-precision': 'off',
      'no-useless-assignment': 'off',
    },
  },
  prettier,
];
