import eslint from '@eslint/js';
import { defineConfig, globalIgnores } from 'eslint/config';
import tseslint from 'typescript-eslint';
import angular from 'angular-eslint';
import ngrx from '@ngrx/eslint-plugin/v9';
import prettier from 'eslint-config-prettier/flat';

/** Which workspaces a workspace may not import: web → contract, core · server → contract, core · contract → core · core → nothing of ours. */
const forbid = (files, ...patterns) => ({
  files,
  rules: { 'no-restricted-imports': ['error', { patterns: patterns.map(([group, message]) => ({ group, message })) }] },
});
const OF_THE_CORE = [
  [['@woodruff/*'], 'The core depends on nothing of ours.'],
  [['node:*', 'fs', 'path', 'express', 'sequelize'], 'The core has no input or output.'],
];
const PACK_OF_A_COUNTRY = [['**/rules/US/**', '**/rules/GB/**'], 'Only the registry knows which countries there are: ask packOf().'];

export default defineConfig(
  globalIgnores(['**/dist/**', '**/.angular/**', '**/coverage/**', '**/*.cjs', '**/*.mjs', '.data/**', '.test-data/**']),
  {
    files: ['**/*.ts'],
    extends: [eslint.configs.recommended, tseslint.configs.recommendedTypeChecked, prettier],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/unbound-method': ['error', { ignoreStatic: true }],
      'no-restricted-syntax': [
        'error',
        {
          selector: "NewExpression[callee.name='Date'][arguments.length=0]",
          message: 'Today is the business date of the employer, never the clock of the machine.',
        },
      ],
    },
  },
  forbid(['packages/core/src/**/*.ts'], ...OF_THE_CORE),
  // A later rule takes the place of an earlier one for the same files: it says both.
  forbid(
    [
      'packages/core/src/{money,calendar,working,pay-items,payslip,ledger,differences,filings,time,leave,leaving}/**/*.ts',
      'packages/core/src/rules/*.ts',
    ],
    ...OF_THE_CORE,
    PACK_OF_A_COUNTRY,
  ),
  { files: ['packages/core/src/rules/registry.ts', 'packages/core/src/**/*.spec.ts'], rules: { 'no-restricted-imports': 'off' } },
  forbid(
    ['packages/contract/src/**/*.ts'],
    [['@woodruff/server', '@woodruff/web', '@woodruff/demo'], 'The contract depends on the core only.'],
  ),
  forbid(
    ['packages/server/src/**/*.ts'],
    [['@woodruff/web', '@woodruff/demo'], 'The server depends on the contract and the core.'],
    PACK_OF_A_COUNTRY,
  ),
  forbid(
    ['packages/web/src/**/*.ts'],
    [['@woodruff/server', '@woodruff/demo'], 'The web depends on the contract and the core.'],
    PACK_OF_A_COUNTRY,
  ),
  // The time at which something was approved is a fact of the machine, not a business date.
  {
    files: [
      'packages/server/src/pay-runs/{posting/approval,corrections/*}.ts',
      'packages/server/src/people/{history/opening,history/adjustments,dated-changes}.ts',
    ],
    rules: { 'no-restricted-syntax': 'off' },
  },
  {
    files: ['packages/web/src/**/*.ts'],
    extends: [angular.configs.tsRecommended, ngrx.configs.all],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'wr', style: 'kebab-case' }],
      '@angular-eslint/component-class-suffix': 'off',
      '@ngrx/prefix-selectors-with-select': 'off',
      '@ngrx/no-multiple-actions-in-effects': 'off',
      '@ngrx/avoid-mapping-selectors': 'off',
      '@ngrx/avoid-dispatching-multiple-actions-sequentially': 'off',
      '@ngrx/good-action-hygiene': 'off',
      '@ngrx/prefer-effect-callback-in-block-statement': 'off',
    },
  },
  { files: ['packages/web/src/**/*.html'], extends: [angular.configs.templateRecommended, angular.configs.templateAccessibility] },
  {
    files: ['**/*.spec.ts'],
    rules: {
      '@typescript-eslint/no-unsafe-assignment': 'off',
      '@typescript-eslint/no-unsafe-member-access': 'off',
      '@typescript-eslint/no-unsafe-argument': 'off',
    },
  },
);
