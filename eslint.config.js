import { dirname, relative, resolve, sep } from 'node:path';
import { fileURLToPath } from 'node:url';
import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';

/** Folders of core in the order of the data: each may use those before it, none after it. */
const CORE_ORDER = [
  'geometry',
  'picture',
  'colour',
  'trace',
  'artwork',
  'letters',
  'pieces',
  'settings',
  'stitches',
  'sequence',
  'machine',
  'sewn-look',
  'cross',
  'photo',
  'objects',
  'recipe',
  'design',
  'pipeline',
  'forecast',
  'findings',
  'sew-out',
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

const CORE = fileURLToPath(new URL('core/src', import.meta.url));

/** Folder of core a file is in; an empty string for those in none. */
const folderOf = (path) => {
  const [folder, ...rest] = relative(CORE, path).split(sep);
  return rest.length > 0 ? folder : '';
};

/** Holds the order by the file an import leads to, however it is written, from sub-folders and to loose files too. */
const coreOrder = {
  create: (context) => {
    const own = folderOf(context.filename);
    const check = ({ source }) => {
      if (!source || !source.value.startsWith('.')) return;
      const other = folderOf(resolve(dirname(context.filename), source.value));
      if (other === own) return;
      const [at, to] = [own, other].map((folder) => CORE_ORDER.indexOf(folder));
      if (at < 0) context.report({ node: source, message: `The folder "${own}" is not in the order of core.` });
      else if (to < 0 || to > at) context.report({ node: source, message: `"${own}" of core may not use "${other}".` });
    };
    return {
      ImportDeclaration: check,
      ExportNamedDeclaration: check,
      ExportAllDeclaration: check,
      ImportExpression: check,
    };
  },
};

const coreRules = [
  {
    files: ['core/src/*/**/*.ts'],
    ignores: ['**/*.spec.ts', 'core/src/test/**'],
    plugins: { kite: { rules: { 'core-order': coreOrder } } },
    rules: { 'kite/core-order': 'error' },
  },
];

/** Rules that know types: a promise nobody waits for, a case nobody thought of. */
const typeAware = (files, parserOptions) => ({
  files,
  plugins: { '@typescript-eslint': tseslint.plugin },
  languageOptions: {
    parserOptions: { ...parserOptions, tsconfigRootDir: fileURLToPath(new URL('.', import.meta.url)) },
  },
  rules: {
    '@typescript-eslint/no-floating-promises': 'error',
    '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { arguments: false, attributes: false } }],
    '@typescript-eslint/await-thenable': 'error',
    '@typescript-eslint/no-unnecessary-type-assertion': 'error',
    '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
  },
});

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
  typeAware(['{core,contract,server,cli,demo,e2e,bench}/**/*.ts'], { projectService: true }),
  typeAware(['web/src/**/*.ts'], {
    project: ['web/tsconfig.app.json', 'web/tsconfig.spec.json', 'web/tsconfig.worker.json'],
  }),
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
  only('cli', ['@open-kite/contract', '@open-kite/core', '@open-kite/server', '@open-kite/demo']),
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
