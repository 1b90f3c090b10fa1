import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'
import ownLookup from './scripts/lint/own-lookup.mjs'

export default tseslint.config(
  { ignores: ['**/dist/**', '**/node_modules/**', 'data/**', '**/*.mjs', '**/*.cjs', 'eslint.config.js'] },
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
  { files: ['web/src/**/*.tsx'], plugins: { 'react-hooks': hooks }, rules: { 'react-hooks/rules-of-hooks': 'error' } },
)
