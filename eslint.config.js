import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'
import ownLookup from './scripts/lint/own-lookup.mjs'

// what is known of a step kind stands in the kind, so nobody else asks for kinds by name
const kindNames =
  'open|start-from|enter|select|drop|rename|move|duplicate|cast|header|filter|sort|slice|distinct|number|fill|replace|fill-empty|blank|clean-text|unify|derive|cases|split|extract|combine|unpivot|pivot|transpose|summarise|window|unroll|join|union|check'
const kindByName = {
  selector: `BinaryExpression[operator=/^[!=]==$/][right.value=/^(${kindNames})$/]:has(> MemberExpression.left[property.name='kind'], > Identifier.left[name='kind'])`,
  message: 'Ask the step kind (stepKinds[step.kind]) for what it is like, not for its name.',
}

export default tseslint.config(
  {
    ignores: [
      '**/dist/**',
      '**/node_modules/**',
      'data/**',
      '**/*.mjs',
      '**/*.cjs',
      '**/*.generated.ts',
      'core/compiled/**',
      'eslint.config.js',
    ],
  },
  ...tseslint.configs.recommended,
  {
    languageOptions: { parserOptions: { projectService: true } },
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-floating-promises': 'error',
      '@typescript-eslint/no-misused-promises': [
        'error',
        { checksVoidReturn: { attributes: false, arguments: false, properties: false } },
      ],
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' },
      ],
      '@typescript-eslint/no-unused-expressions': ['error', { allowShortCircuit: true, allowTernary: true }],
      'no-self-compare': 'off',
    },
  },
  {
    files: [
      'core/src/**/*.ts',
      'formats/src/**/*.ts',
      'server/src/**/*.ts',
      'cli/src/**/*.ts',
      'web/src/**/*.{ts,tsx}',
    ],
    ignores: ['**/*.test.ts', '**/*.examples.ts', 'core/src/testing/**'],
    plugins: { fabula: { rules: { 'own-lookup': ownLookup } } },
    rules: { 'fabula/own-lookup': 'error' },
  },
  {
    files: [
      'core/src/**/*.ts',
      'formats/src/**/*.ts',
      'server/src/**/*.ts',
      'cli/src/**/*.ts',
      'web/src/**/*.{ts,tsx}',
    ],
    ignores: ['**/*.test.ts', '**/*.examples.ts'],
    rules: {
      'max-lines': ['error', { max: 400 }],
      'max-lines-per-function': ['error', { max: 60 }],
      'max-depth': ['error', 3],
      complexity: ['error', 15],
      'no-nested-ternary': 'error',
    },
  },
  // an index into a column is in bounds by its loop; anywhere else a missing item is a case to handle
  {
    files: [
      'core/src/{messages,codegen,recipe,replay,dialects,api}/**/*.ts',
      'server/src/**/*.ts',
      'cli/src/**/*.ts',
      'web/src/**/*.{ts,tsx}',
    ],
    rules: { '@typescript-eslint/no-non-null-assertion': 'error' },
  },
  {
    files: [
      'core/src/{engine,recipe,replay,profile,dialects,api}/**/*.ts',
      'server/src/**/*.ts',
      'cli/src/**/*.ts',
      'web/src/**/*.{ts,tsx}',
    ],
    ignores: ['**/*.test.ts'],
    rules: { 'no-restricted-syntax': ['error', kindByName] },
  },
  {
    files: ['web/src/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': hooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  // a component is its markup, which is long and flat
  { files: ['web/src/**/*.tsx'], rules: { 'max-lines-per-function': ['error', { max: 100 }] } },
)
