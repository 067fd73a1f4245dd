import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import accessibility from 'eslint-plugin-vuejs-accessibility'
import ts from 'typescript-eslint'
import vueParser from 'vue-eslint-parser'

const typed = ['core/src/**/*.ts', 'contract/src/**/*.ts', 'server/src/**/*.ts', 'demo/src/**/*.ts', 'bench/src/**/*.ts', 'e2e/**/*.ts']

const typedRules = {
  '@typescript-eslint/no-floating-promises': 'error',
  '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: false }],
  '@typescript-eslint/switch-exhaustiveness-check': 'error',
  '@typescript-eslint/only-throw-error': 'error',
}

export default ts.config(
  { ignores: ['**/dist/', '**/node_modules/', '.data/', '.cache/', 'server/src/app/migrations/Schema*'] },
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  ...accessibility.configs['flat/recommended'],
  {
    rules: {
      'no-undef': 'off',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'no-console': ['error', { allow: ['error', 'log'] }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_', ignoreRestSiblings: true }],
      '@typescript-eslint/consistent-type-imports': 'error',
      // What is dragged has its keys elsewhere, and keys are heard where the fields stand that they belong to; axe looks at the pages as drawn.
      'vuejs-accessibility/no-static-element-interactions': 'off',
      // A list under a field is gone through by the field (aria-activedescendant): its options take no focus.
      'vuejs-accessibility/interactive-supports-focus': 'off',
      'vuejs-accessibility/label-has-for': ['error', { required: { some: ['nesting', 'id'] } }],
      'vue/multi-word-component-names': ['error', { ignores: ['App'] }],
      'vue/no-mutating-props': 'error',
      'vue/require-default-prop': 'off',
      'vue/block-order': ['error', { order: ['template', 'script', 'style'] }],
      // A class of one page has moved what another page shows, more than once.
      'vue/enforce-style-attribute': ['error', { allow: ['scoped'] }],
    },
  },
  // Cells of a table that is its parent's.
  { files: ['web/src/contain/DecisionCells.vue'], rules: { 'vue/enforce-style-attribute': 'off' } },
  { files: ['**/*.vue'], languageOptions: { parser: vueParser, parserOptions: { parser: ts.parser, extraFileExtensions: ['.vue'] } } },
  {
    files: typed,
    languageOptions: {
      parserOptions: { project: ['./tsconfig.node.json', './core/tsconfig.json', './contract/tsconfig.json'], tsconfigRootDir: import.meta.dirname },
    },
    rules: typedRules,
  },
  // Components are left out: their program is built anew for each of them, 180 s for all (measured); what waits stands in composables.
  {
    files: ['web/src/**/*.ts'],
    languageOptions: { parserOptions: { project: ['./web/tsconfig.json'], tsconfigRootDir: import.meta.dirname } },
    rules: typedRules,
  },
  { files: ['web/src/**/*.{ts,vue}'], rules: { 'no-restricted-globals': ['error', { name: 'alert' }, { name: 'confirm' }, { name: 'prompt' }] } },
  { files: ['scripts/**', '**/*.mjs'], rules: { 'no-console': 'off' } },
  {
    files: ['e2e/**/*.ts'],
    rules: { 'no-restricted-properties': ['error', { property: '$eval', message: "An element may not be there yet: the hand's ask waits for it." }] },
  },
  // A day is the plant's: nothing asks the process, or the browser, for one.
  {
    files: ['server/src/**/*.ts', 'demo/src/**/*.ts', 'standins/**/*.mjs', 'web/src/**/*.{ts,vue}'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        ...['getFullYear', 'getMonth', 'getDate', 'getDay', 'getHours', 'toLocaleDateString', 'toLocaleTimeString', 'toDateString'].map(
          (property) => ({
            property,
            message: "A day is the plant's: ask dayOf, or the page's plantTime.",
          }),
        ),
      ],
    },
  },
  // SQL stands in the repositories of the areas, and in the kernel.
  {
    files: ['server/src/**/*.ts'],
    ignores: ['**/*epository.ts', 'server/src/kernel/**', 'server/src/app/migrations/**', '**/*.test.ts', 'server/src/testing/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...['Literal[value=', 'TemplateElement[value.raw='].map((of) => ({
          selector: `${of}/\\b(SELECT|INSERT INTO|DELETE FROM|UPDATE \\w+ SET)\\b/]`,
          message: 'SQL stands in repository.ts of the area.',
        })),
        { selector: "Property[key.name='sql'] > :matches(Literal, TemplateLiteral)", message: 'SQL stands in repository.ts of the area.' },
      ],
    },
  },
  // Rows have types that something checks: they come over rowsOf, with their columns beside the statement.
  {
    files: ['server/src/**/*epository.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "TSAsExpression > AwaitExpression > CallExpression[callee.property.name='query']",
          message: 'What a statement gives is said by its columns: rowsOf(reader, { id: "text" }, sql, values).',
        },
      ],
    },
  },
  // The core computes: no interface, no clock, no chance, no input or output.
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': ['error', 'Date', 'process', 'fetch', 'setTimeout', 'window', 'document', 'crypto', 'performance'],
      'no-restricted-properties': ['error', { object: 'Math', property: 'random' }],
    },
  },
  prettier,
)
