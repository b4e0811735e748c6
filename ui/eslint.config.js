import js from '@eslint/js'
import hooks from 'eslint-plugin-react-hooks'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['dist', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  ...ts.configs.strict,
  hooks.configs.flat['recommended-latest'] ?? hooks.configs['recommended-latest'],
  {
    rules: {
      'max-lines': ['error', { max: 200, skipBlankLines: true, skipComments: true }],
      '@typescript-eslint/no-non-null-assertion': 'error',
    },
  },
  {
    // What plays and what draws knows no React.
    files: [
      'src/run/player/**',
      'src/run/recorder/**',
      'src/run/inputs/**',
      'src/run/hearing/**',
      'src/run/partner/*.ts',
      'src/strip/**',
    ],
    ignores: ['src/strip/*.tsx', 'src/run/partner/use*.ts'],
    rules: { 'no-restricted-imports': ['error', { paths: ['react', 'react-dom'] }] },
  },
)
