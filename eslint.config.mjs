import angular from 'angular-eslint';
import boundaries from 'eslint-plugin-boundaries';
import tseslint from 'typescript-eslint';

export default tseslint.config(
  {
    ignores: [
      'dist/**',
      '.cache/**',
      '.angular/**',
      '.data/**',
      'tools/photos/**',
      '**/*.mjs',
      'demo/**',
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
          'core/tsconfig.spec.json',
          'server/tsconfig.json',
          'web/tsconfig.json',
          'web/tsconfig.worker.json',
          'web/tsconfig.spec.json',
          'e2e/tsconfig.json',
        ],
        tsconfigRootDir: import.meta.dirname,
        noWarnOnMultipleProjects: true,
      },
    },
    plugins: { boundaries },
    settings: {
      'import/resolver': {
        typescript: { project: ['core/tsconfig.json', 'web/tsconfig.json', 'server/tsconfig.json'] },
      },
      'boundaries/elements': [
        { type: 'core', pattern: 'core/src/**', partialMatch: false },
        { type: 'web', pattern: 'web/src/**', partialMatch: false },
        { type: 'server', pattern: 'server/src/**', partialMatch: false },
        { type: 'e2e', pattern: 'e2e/src/**', partialMatch: false },
        { type: 'tools', pattern: 'tools/**', partialMatch: false },
      ],
    },
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: [
            { from: { element: { type: 'core' } }, allow: { to: { element: { type: 'core' } } } },
            { from: { element: { type: 'web' } }, allow: { to: { element: { type: ['web', 'core'] } } } },
            { from: { element: { type: 'server' } }, allow: { to: { element: { type: ['server', 'core'] } } } },
            {
              from: { element: { type: 'e2e' } },
              allow: { to: { element: { type: ['e2e', 'core', 'server', 'tools'] } } },
            },
            {
              from: { element: { type: 'tools' } },
              allow: { to: { element: { type: ['tools', 'core', 'server', 'web', 'e2e'] } } },
            },
          ],
        },
      ],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/no-misused-promises': [
        'error',
        { checksVoidReturn: { arguments: false, attributes: false } },
      ],
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
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
