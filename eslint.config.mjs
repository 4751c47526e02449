import next from 'eslint-config-next/core-web-vitals'
import typescript from 'eslint-config-next/typescript'

const config = [
  { ignores: ['.next/**', '.steppe/**', 'next-env.d.ts', 'node_modules/**'] },
  ...next,
  ...typescript,
  {
    rules: {
      eqeqeq: 'error',
      'prefer-const': 'error',
      'no-console': ['error', { allow: ['error'] }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_', argsIgnorePattern: '^_' }],
    },
  },
  { files: ['src/core/engine/**'], rules: { 'no-self-compare': 'off' } },
  // The grid reads the virtual list anew at each render; nothing of it is kept.
  { files: ['src/ui/grid/**'], rules: { 'react-hooks/incompatible-library': 'off' } },
  { files: ['scripts/**', 'bench/**'], rules: { 'no-console': 'off' } },
]

export default config
