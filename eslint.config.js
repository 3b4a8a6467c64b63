import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';

/** Folders of core in the order of the data: each may use those before it, none after it. */
const CORE_ORDER = [
  'geometry',
  'picture',
  'colour',
  'trace',
  'artwork',
  'pieces',
  'stitches',
  'sequence',
  'sewn-look',
  'cross',
  'photo',
  'recipe',
  'forecast',
  'findings',
  'formats',
];

/** What core must never touch: it runs in browsers, workers and Node alike. */
const PLATFORM = [
  'node:*',
  'fs',
  'path',
  'crypto',
  'buffer',
  'stream',
  'worker_threads',
  'sharp',
  'express',
  '@angular/*',
  'rxjs',
  'rxjs/*',
];

const coreRules = CORE_ORDER.map((folder, i) => ({
  files: [`core/src/${folder}/**/*.ts`],
  ignores: ['**/*.spec.ts'],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          { group: PLATFORM, message: 'Core is pure: no DOM, no Node, no framework.' },
          {
            group: [
              ...CORE_ORDER.slice(i + 1).map((later) => `../${later}/*`),
              '../test/*',
              '../convert.js',
              '../report.js',
            ],
            message: 'A folder of core uses only those before it.',
          },
        ],
      },
    ],
  },
}));

/** Dependencies point one way: everything may use core, and nothing points back. */
const only = (files, allowed) => ({
  files: [`${files}/src/**/*.ts`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            group: ['@open-kite/*', ...allowed.map((name) => `!${name}`)],
            message: `${files} may use ${allowed.join(', ') || 'nothing of the project'}.`,
          },
        ],
      },
    ],
  },
});

export default tseslint.config(
  {
    ignores: ['**/dist/**', '**/node_modules/**', '.angular/**', '**/out-tsc/**', 'karma.conf.cjs', 'eslint.config.js'],
  },
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.recommended, ...tseslint.configs.stylistic],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/explicit-module-boundary-types': 'off',
      '@typescript-eslint/no-unused-expressions': ['error', { allowShortCircuit: true, allowTernary: true }],
      'no-restricted-syntax': ['error', { selector: 'ExportDefaultDeclaration', message: 'Exports have names.' }],
      eqeqeq: 'error',
      'prefer-const': ['error', { destructuring: 'all' }],
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        { patterns: [{ group: [...PLATFORM, '@open-kite/*'], message: 'Core is pure.' }] },
      ],
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'process',
        'Buffer',
        'performance',
        'setTimeout',
        'fetch',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Same recipe, same design: chance needs a seed.' },
        { object: 'Date', property: 'now', message: 'Core has no clock.' },
        { object: 'Math', property: 'hypot', message: 'Engines differ in its last bit: use sqrt.' },
      ],
    },
  },
  ...coreRules,
  only('contract', ['@open-kite/core']),
  only('server', ['@open-kite/core', '@open-kite/core/testing', '@open-kite/contract']),
  only('demo', ['@open-kite/core', '@open-kite/server']),
  only('cli', ['@open-kite/core', '@open-kite/server', '@open-kite/demo']),
  only('web', ['@open-kite/core', '@open-kite/contract']),
  {
    files: ['web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'kite', style: 'kebab-case' }],
      '@angular-eslint/prefer-on-push-component-change-detection': 'error',
    },
  },
  {
    files: ['web/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: {
      // Pointing at things lights them up on the stage; the same is reached by focus and by choosing.
      '@angular-eslint/template/mouse-events-have-key-events': 'off',
      '@angular-eslint/template/interactive-supports-focus': 'off',
      '@angular-eslint/template/click-events-have-key-events': 'off',
    },
  },
);
