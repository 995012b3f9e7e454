import angular from 'angular-eslint';
import boundaries from 'eslint-plugin-boundaries';
import importX from 'eslint-plugin-import-x';
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript';
import tseslint from 'typescript-eslint';

/** The house's folders from the ground up: each may import those before it, none that come after. */
const webFloors = [
  'ui',
  'storage',
  'connector',
  'type',
  'pixels',
  'media',
  'document',
  'layouts',
  'page',
  'output',
  'shell',
];
/** What a person goes to. Places do not import each other. */
const webPlaces = [
  'graphics',
  'start',
  'workbench',
  'carry',
  'export',
  'sets',
  'everywhere',
  'slots',
  'house-style',
  'sites',
];
/** Core's folders; several on one floor do not import each other. */
const coreFloors = [
  ['geometry', 'colour'],
  ['pixels'],
  ['words'],
  ['formats'],
  ['slot'],
  ['graphic', 'page'],
  ['export'],
  ['site'],
  ['paint', 'house'],
  ['legibility', 'placing'],
  ['report', 'backup', 'demo'],
  ['compose'],
  ['layouts'],
  ['sets'],
];

const web = (name) => `web-${name}`;
const core = (name) => `core-${name}`;
const allow = (from, to) => ({ from: { element: { type: from } }, allow: { to: { element: { type: to } } } });

const webElements = [...webFloors, ...webPlaces].map((name) => ({
  type: web(name),
  pattern: `web/src/app/${name}/**`,
  partialMatch: false,
}));
const coreElements = coreFloors.flat().map((name) => ({
  type: core(name),
  pattern: `core/src/${name}/**`,
  partialMatch: false,
}));
const allCore = ['core', 'core-testing', ...coreElements.map((e) => e.type)];
const allWeb = ['web', ...webElements.map((e) => e.type)];
const policies = [
  // A floor imports itself and those below it; core's own root files (limits, values, problem …) lie below them all.
  ...coreFloors.flatMap((floor, at) =>
    floor.map((name) => allow(core(name), ['core', core(name), ...coreFloors.slice(0, at).flat().map(core)])),
  ),
  allow('core', allCore),
  allow('core-testing', allCore),
  ...webFloors.map((name, at) => allow(web(name), [...webFloors.slice(0, at + 1).map(web), ...allCore])),
  ...webPlaces.map((name) => allow(web(name), [...webFloors.map(web), web(name), ...allCore])),
  allow('web', [...allWeb, ...allCore]),
  // The product knows nothing of the demo; tests and tools do.
  allow('demo', ['demo', ...allCore]),
  allow('core-testing', ['demo']),
  allow('server', ['server', ...allCore]),
  allow('e2e', ['e2e', 'server', 'tools', 'demo', ...allCore]),
  allow('tools', ['tools', 'server', 'e2e', 'demo', ...allWeb, ...allCore]),
];

export default tseslint.config(
  {
    ignores: [
      'dist/**',
      '.cache/**',
      '.angular/**',
      '.data/**',
      '**/*.mjs',
      'core/kernel/**',
      '**/node_modules/**',
      'coverage/**',
    ],
  },
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.recommendedTypeChecked],
    languageOptions: {
      parserOptions: {
        project: [
          'core/tsconfig.json',
          'core/tsconfig.spec.json',
          'demo/tsconfig.json',
          'server/tsconfig.json',
          'web/tsconfig.worker.json',
          'web/tsconfig.spec.json',
          'web/tsconfig.components.spec.json',
          'e2e/tsconfig.json',
        ],
        tsconfigRootDir: import.meta.dirname,
        noWarnOnMultipleProjects: true,
      },
    },
    plugins: { boundaries, 'import-x': importX },
    settings: {
      'import-x/extensions': ['.ts'],
      'import-x/parsers': { '@typescript-eslint/parser': ['.ts'] },
      'import-x/resolver-next': [
        createTypeScriptImportResolver({
          noWarnOnMultipleProjects: true,
          project: ['core/tsconfig.json', 'web/tsconfig.json', 'server/tsconfig.json'],
        }),
      ],
      'import/resolver': {
        typescript: {
          noWarnOnMultipleProjects: true,
          project: ['core/tsconfig.json', 'web/tsconfig.json', 'server/tsconfig.json'],
        },
      },
      'boundaries/elements': [
        { type: 'core-testing', pattern: 'core/src/testing/**', partialMatch: false },
        ...coreElements,
        { type: 'core', pattern: 'core/src/**', partialMatch: false },
        ...webElements,
        { type: 'web', pattern: 'web/src/**', partialMatch: false },
        { type: 'server', pattern: 'server/src/**', partialMatch: false },
        { type: 'e2e', pattern: 'e2e/src/**', partialMatch: false },
        { type: 'tools', pattern: 'tools/**', partialMatch: false },
      ],
    },
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'URL', property: 'canParse', message: 'Wrong in Node 20 once it is compiled: use readUrl.' },
      ],
      'boundaries/dependencies': ['error', { default: 'disallow', policies }],
      'import-x/no-cycle': ['error', { ignoreExternal: true }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/no-misused-promises': [
        'error',
        { checksVoidReturn: { arguments: false, attributes: false } },
      ],
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
    },
  },
  {
    // A test may use whatever shows what it tests.
    files: ['core/src/**/*.spec.ts', 'web/src/**/*.spec.ts'],
    rules: { 'boundaries/dependencies': 'off' },
  },
  {
    // What tests need types for is a promise that nobody waits for. Where values are `any` in a test, a wrong use
    // fails there and then; looking for it took a third of the time of all rules.
    files: ['**/*.spec.ts', 'core/src/testing/**/*.ts', 'web/src/app/testing/**/*.ts', 'e2e/src/**/*.ts'],
    rules: {
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
    },
  },
  {
    // Core is computation alone: no interface, no DOM, no Node, no framework.
    files: ['core/src/**/*.ts'],
    ignores: ['core/src/**/*.spec.ts', 'core/src/testing/**'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            'node:*',
            'fs',
            'path',
            '@angular/*',
            '@ngrx/*',
            'rxjs*',
            'dexie',
            'konva',
            'express',
            '@bright-slot/*',
          ],
        },
      ],
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'navigator',
        'process',
        'Buffer',
        'fetch',
        'self',
        'localStorage',
        'setTimeout',
      ],
    },
  },
  {
    files: ['web/src/**/*.ts'],
    ignores: ['web/src/**/*.worker.ts', 'web/src/**/*.spec.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'bs', style: 'kebab-case' }],
      '@angular-eslint/directive-selector': ['error', { type: 'attribute', prefix: 'bs', style: 'camelCase' }],
    },
  },
  {
    files: ['web/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
  },
);
