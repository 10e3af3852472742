/**
 * Which part of the workspace may import which: docs/architecture.md in rules. Type imports count, and cycles are forbidden
 * everywhere, the kernel included.
 */

/** Which folders of core a folder may import. The order is the data flow: nothing points back up. */
const CORE = {
  // Everything may use core/maths and core/text.
  problem: [],
  maths: [],
  text: [],
  properties: [],
  time: ['problem'],
  geometry: ['problem'],
  finish: ['geometry'],
  light: ['geometry'],
  camera: ['geometry'],
  picture: ['problem'],
  audio: ['problem', 'time'],
  document: ['problem', 'properties', 'time', 'finish', 'audio'],
  contract: ['document', 'interchange'],
  product: ['problem', 'properties', 'document', 'geometry', 'finish', 'light'],
  motion: ['problem', 'properties', 'document', 'time', 'finish', 'geometry'],
  scene: ['problem', 'document', 'product', 'motion', 'geometry', 'finish', 'light', 'camera'],
  staging: [
    'problem',
    'properties',
    'document',
    'finish',
    'interchange',
    'product',
    'motion',
    'scene',
    'geometry',
    'light',
    'camera',
    'picture',
  ],
  simulate: ['problem', 'properties', 'document', 'finish', 'geometry', 'product', 'motion', 'scene', 'time'],
  interchange: ['problem', 'time', 'light', 'geometry', 'finish', 'document', 'product', 'scene'],
  trace: ['problem', 'product', 'scene', 'geometry', 'finish', 'light', 'camera', 'picture', 'interchange'],
  composite: ['problem', 'document', 'motion', 'time', 'properties', 'picture', 'finish', 'geometry', 'light', 'scene'],
  promo: ['problem', 'document', 'motion', 'time', 'picture', 'audio', 'composite'],
};

const coreFolders = Object.entries(CORE).map(([folder, allowed]) => ({
  name: `core/${folder}`,
  comment: `core/${folder} may import only: ${['maths', 'text', ...allowed].join(', ')}.`,
  severity: 'error',
  from: { path: `^packages/core/src/${folder}/` },
  to: {
    path: '^packages/core/src/',
    pathNot: `^packages/core/src/(${[folder, 'maths', 'text', ...allowed].join('|')})/`,
  },
}));

const packages = { core: [], kernel: ['core'], server: ['core', 'kernel'], web: ['core', 'kernel'], demo: ['core'] };
const packageRules = Object.entries(packages).map(([name, allowed]) => ({
  name: `packages/${name}`,
  comment: `packages/${name} may import of the workspace only: ${allowed.join(', ') || 'nothing'}.`,
  severity: 'error',
  from: { path: `^packages/${name}/(src|assembly)/` },
  to: { path: '^(packages|scripts|bench|tests)/', pathNot: `^packages/(${[name, ...allowed].join('|')})/` },
}));

module.exports = {
  forbidden: [
    { name: 'no-cycles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-faces',
      comment: "Import another folder through its face, '../folder/index.ts'.",
      severity: 'error',
      from: { path: '^packages/core/src/([^/]+)/' },
      to: {
        path: '^packages/core/src/([^/]+)/',
        pathNot: ['^packages/core/src/$1/', '^packages/core/src/[^/]+/index\\.ts$'],
      },
    },
    {
      name: 'core-is-pure',
      comment: 'core has no interface, server, host or native code: take what you need as an argument.',
      severity: 'error',
      from: { path: '^packages/core/src/' },
      to: { path: ['node_modules/(vue|three|express|mysql2|sharp)/', '^node:'], dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'core-has-no-node',
      severity: 'error',
      from: { path: '^packages/core/src/' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'frozen-migrations',
      comment: 'A migration step is made of literals: it must not follow what defaults and types are today.',
      severity: 'error',
      from: { path: '^packages/core/src/document/[^/]+/migrations\\.ts$' },
      to: { pathNot: '^packages/core/src/document/migration\\.ts$' },
    },
    {
      name: 'declared-dependencies',
      comment: 'A package that is used must stand in the package.json of the package that uses it.',
      severity: 'error',
      from: { path: '^packages/[^/]+/src/' },
      to: { dependencyTypes: ['npm-no-pkg', 'npm-unknown'] },
    },
    ...coreFolders,
    ...packageRules,
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(node_modules/(?!@tender-orbit)|/dist/|packages/demo/data)' },
    combinedDependencies: false,
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'node', 'default', 'types'],
      extensions: ['.ts', '.vue', '.js', '.mjs', '.json'],
    },
  },
};
