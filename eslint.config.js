import tseslint from 'typescript-eslint'
import reactHooks from 'eslint-plugin-react-hooks'

/** Functions that are a table: prepared statements, routes, fields of a form, the rooms of the demo. */
const TABLES = [
  'server/db/{builds,logbook,sites}.ts',
  'server/routes/{builds,credentials}.ts',
  'web/views/bench/KindFields.tsx',
  'web/views/ways/rules/RuleFields.tsx',
  'tools/demo{Sites,Traces}.ts',
]

export default tseslint.config(
  { ignores: ['dist/**', 'build/**', 'node_modules/**', 'data/**', 'firmware/out/**', 'test-results/**'] },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/consistent-type-imports': 'error',
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      eqeqeq: ['error', 'always'],
      // what the formatter cannot break must be broken by hand; class names, patterns and titles of tests are whole
      'max-len': [
        'error',
        {
          code: 120,
          ignoreUrls: true,
          ignoreStrings: true,
          ignoreTemplateLiterals: true,
          ignoreRegExpLiterals: true,
        },
      ],
    },
  },
  {
    // A function fits on a screen and has one subject. Tables are data, whatever their length.
    files: ['core/**/*.ts', 'server/**/*.ts', 'web/**/*.{ts,tsx}', 'cli/**/*.ts', 'firmware/**/*.ts', 'tools/**/*.ts'],
    ignores: ['**/*.test.{ts,tsx}', '**/*.testkit.{ts,tsx}', ...TABLES],
    rules: { 'max-lines-per-function': ['error', { max: 40, skipBlankLines: true, skipComments: true }] },
  },
  {
    // The core has no clock, no I/O and no hidden randomness (docs/decisions.md, "Pure core").
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts', '**/*.testkit.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'fetch',
        'setTimeout',
        'setInterval',
        'process',
        'Buffer',
        'performance',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random' },
        { object: 'Date', property: 'now' },
      ],
      'no-restricted-syntax': [
        'error',
        { selector: "NewExpression[callee.name='Date'][arguments.length=0]", message: 'The core has no clock.' },
      ],
    },
  },
  {
    // The firmware's own tools run compilers and simulators, but what they do depends on nothing else.
    files: ['firmware/*.ts'],
    rules: {
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random' },
        { object: 'Date', property: 'now' },
      ],
    },
  },
  {
    files: ['web/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
)
