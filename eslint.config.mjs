import eslint from '@eslint/js';
import angular from 'angular-eslint';
import { defineConfig, globalIgnores } from 'eslint/config';
import tseslint from 'typescript-eslint';
import house from './scripts/standard-parts.mjs';

export default defineConfig(
  globalIgnores([
    '**/dist/',
    '**/node_modules/',
    '**/.angular/',
    'web/public/worklet/',
    'core/src/*/generated/',
    'core/inner-loops/voices.ts',
    'core/inner-loops/partials.ts',
    '**/test-results/',
    '**/playwright-report/',
    'data/',
    'vitest.config.ts',
    'core/mutants.vitest.config.ts',
    'core/mutants*/',
  ]),
  eslint.configs.recommended,
  {
    files: ['**/*.mjs', '**/*.cjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        module: 'writable',
      },
    },
  },
  {
    // The service worker, which is served as it is.
    files: ['web/public/*.js'],
    languageOptions: {
      sourceType: 'script',
      globals: {
        self: 'readonly',
        URL: 'readonly',
        caches: 'readonly',
        Response: 'readonly',
        importScripts: 'readonly',
      },
    },
  },
  {
    files: ['**/*.ts'],
    extends: [...tseslint.configs.recommendedTypeChecked],
    languageOptions: {
      parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname },
    },
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }],
      '@typescript-eslint/explicit-module-boundary-types': 'off',
      eqeqeq: 'error',
    },
  },
  {
    files: ['**/*.test.ts', '**/testing/**/*.ts', 'e2e/**/*.ts'],
    rules: {
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-call': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
      '@typescript-eslint/no-unsafe-return': 'off',
    },
  },
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts', '**/testing/**'],
    rules: {
      // The core is pure: no clock, no chance, no platform.
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'process',
        'performance',
        'crypto',
        'fetch',
        'setTimeout',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Pass randomness in.' },
        { object: 'Date', property: 'now', message: 'Pass the time in.' },
      ],
    },
  },
  {
    files: ['web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/directive-selector': [
        'error',
        { type: 'attribute', prefix: 'pc', style: 'camelCase' },
      ],
      // An attribute where the element itself has to be one of SVG's.
      '@angular-eslint/component-selector': [
        'error',
        [
          { type: 'element', prefix: 'pc', style: 'kebab-case' },
          { type: 'attribute', prefix: 'pc', style: 'camelCase' },
        ],
      ],
      '@angular-eslint/prefer-on-push-component-change-detection': 'error',
    },
  },
  {
    files: ['web/src/**/*.ts'],
    ignores: ['**/*.test.ts', 'web/src/app/state/editing/editing.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector:
            "CallExpression[callee.property.name='dispatch'] CallExpression[callee.object.name='edits']",
          message: 'Edits leave by one door: Editing.do().',
        },
      ],
    },
  },
  {
    files: ['web/src/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    plugins: { house },
    rules: { 'house/standard-parts': 'error' },
  },
  {
    // Drawn by hand, since they are the heart of the desk.
    files: [
      'web/src/app/patch/field/**/*.html',
      'web/src/app/patch/drawer/touch-curve.ts/*.html',
      'web/src/app/running-order/ribbon.html',
      'web/src/app/songs/cue-line.html',
      'web/src/app/ui/keyboard/**/*.html',
      'web/src/app/ui/numbers/**/*.html',
    ],
    rules: { 'house/standard-parts': 'off' },
  },
);
