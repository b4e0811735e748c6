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
    files: ['src/player/**', 'src/strip/**', 'src/mat/**'],
    ignores: ['src/strip/*.tsx'],
    rules: { 'no-restricted-imports': ['error', { paths: ['react', 'react-dom'] }] },
  },
)
