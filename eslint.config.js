import js from '@eslint/js';
import ts from 'typescript-eslint';
import vue from 'eslint-plugin-vue';
import vueParser from 'vue-eslint-parser';
import prettier from 'eslint-config-prettier';
import globals from 'globals';

/**
 * Which folders of core a folder may import. The order is the data flow of docs/architecture.md: documents become a
 * tableau, a tableau becomes a packed scene, a packed scene becomes passes. Nothing points back up.
 */
const CORE_MAY_IMPORT = {
  problem: [],
  time: ['problem'],
  geometry: ['problem'],
  finish: ['geometry'],
  light: ['geometry'],
  camera: ['geometry'],
  picture: ['problem'],
  audio: ['problem', 'time'],
  document: ['problem', 'time', 'finish'],
  product: ['problem', 'document', 'geometry', 'finish'],
  motion: ['problem', 'document', 'product', 'time', 'geometry', 'finish', 'light', 'camera'],
  staging: ['problem', 'document', 'product', 'motion', 'geometry', 'light', 'camera'],
  interchange: ['problem', 'time', 'light', 'geometry', 'finish', 'document', 'product', 'motion'],
  trace: ['problem', 'product', 'motion', 'geometry', 'finish', 'light', 'camera', 'picture', 'interchange'],
  promo: ['problem', 'document', 'time', 'picture', 'audio'],
};

const NO_HOST = [
  { group: ['node:*', 'fs', 'path'], message: 'core has no Node built-ins: take what you need as an argument.' },
  { group: ['vue', 'three', 'express', 'mysql2', 'sharp'], message: 'core has no interface, server or native code.' },
  { group: ['@tender-orbit/*'], message: 'core depends on no other package of the workspace.' },
];

const coreRules = Object.entries(CORE_MAY_IMPORT).map(([folder, allowed]) => {
  const forbidden = Object.keys(CORE_MAY_IMPORT).filter((other) => other !== folder && !allowed.includes(other));
  return {
    files: [`packages/core/src/${folder}/**/*.ts`],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            ...NO_HOST,
            {
              group: forbidden.flatMap((other) => [`../${other}`, `../${other}/**`]),
              message: `core/${folder} may import only: ${allowed.join(', ') || 'nothing'}.`,
            },
            {
              regex: '^\\.\\./[a-z]+/(?!index\\.ts$)',
              message: "Import another folder through its face, '../folder/index.ts'.",
            },
          ],
        },
      ],
    },
  };
});

const packageRule = (name, forbidden) => ({
  files: [`packages/${name}/src/**/*.{ts,vue}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: forbidden,
            message: `packages/${name} may import of the workspace only what docs/architecture.md allows.`,
          },
        ],
      },
    ],
  },
});

export default [
  { ignores: ['**/node_modules/**', '**/dist/**', '.data/**', 'packages/demo/data/**', 'packages/kernel/assembly/**'] },
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
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      'vue/valid-v-slot': ['error', { allowModifiers: true }],
    },
  },
  { files: ['scripts/**', 'bench/**'], rules: { 'no-console': 'off' } },
  { files: ['**/test/**', 'tests/**'], rules: { '@typescript-eslint/no-unused-expressions': 'off' } },
  ...coreRules,
  packageRule('web', ['@tender-orbit/server', '@tender-orbit/demo', 'node:*']),
  packageRule('server', ['@tender-orbit/web', '@tender-orbit/demo']),
  packageRule('demo', ['@tender-orbit/web', '@tender-orbit/server']),
  prettier,
];
