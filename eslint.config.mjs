import angular from 'angular-eslint';
import tseslint from 'typescript-eslint';

const TABLES = '**/db/schema/*';
const NO_TRANSACTION = {
  selector: "CallExpression[callee.property.name='transaction']",
  message: 'Write transactions are opened in journal/record.ts alone.',
};

// What is wrong in any script is found by Oxlint; here stands what this house alone asks, and what templates are asked.
export default tseslint.config(
  {
    ignores: [
      'node_modules',
      'dist',
      '.cache',
      '.data',
      '.angular',
      'test-results',
      '**/*.mjs',
      '**/*.cjs',
      '**/*.spec.ts',
    ],
  },
  { files: ['apps/server/src/**/*.ts'], languageOptions: { parser: tseslint.parser } },
  {
    // Routes parse, call and shape; the tables belong to the rooms behind them.
    files: ['apps/server/src/http/**/*.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: [TABLES, '**/db/schema/index.js', 'drizzle-orm', 'pg'],
              message: 'A route does not touch tables: read and write in the subjects.',
            },
          ],
        },
      ],
    },
  },
  {
    // One file opens write transactions.
    files: ['apps/server/src/**/*.ts'],
    ignores: ['apps/server/src/journal/record.ts', 'apps/server/src/journal/savepoint.ts'],
    rules: { 'no-restricted-syntax': ['error', NO_TRANSACTION] },
  },
  {
    // Rows are written by the journal, by descriptions of entries and what they share, and who comes in by the session.
    files: ['apps/server/src/{http,papers,devices,demo}/**/*.ts', 'apps/server/src/subjects/**/read[A-Z]*.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        NO_TRANSACTION,
        {
          selector:
            'CallExpression[callee.object.name=/^(tx|db|reader)$/][callee.property.name=/^(insert|update|delete)$/]',
          message: 'Rows are written where an entry is described.',
        },
        {
          selector: 'TemplateElement[value.raw=/\\b(insert into|delete from|update \\w+ set)\\b/i]',
          message: 'Rows are written where an entry is described.',
        },
      ],
    },
  },
  {
    files: ['apps/web/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: { '@angular-eslint/component-class-suffix': 'off', '@angular-eslint/directive-class-suffix': 'off' },
  },
  {
    files: ['apps/web/**/*.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: { '@angular-eslint/template/no-any': 'error' },
  },
  {
    // The box of a tick is put into its label by the library.
    files: ['apps/web/src/app/ui/tick.ts/*.html'],
    rules: { '@angular-eslint/template/label-has-associated-control': 'off' },
  },
  {
    // Fields are put together in ui/, once: label, unit, message, size for wet hands, names for screen readers.
    files: ['apps/web/**/*.html'],
    ignores: ['apps/web/src/app/ui/**', 'apps/web/src/index.html'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: 'Element[name=/^(input|select|textarea)$/]',
          message:
            'A field comes from ui/: ct-text, ct-quantity, ct-figure, ct-select, ct-choice, ct-tick, ct-day, ct-file …',
        },
      ],
    },
  },
);
