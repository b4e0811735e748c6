import js from '@eslint/js'
import a11y from 'eslint-plugin-jsx-a11y'
import hooks from 'eslint-plugin-react-hooks'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['dist', 'src/api/schema.d.ts', 'src/api/choices.ts', 'src/api/fresh.ts'] },
  js.configs.recommended,
  ...ts.configs.strictTypeChecked,
  { languageOptions: { parserOptions: { projectService: true } } },
  a11y.flatConfigs.recommended,
  hooks.configs.flat['recommended-latest'] ?? hooks.configs['recommended-latest'],
  {
    rules: {
      'max-lines': ['error', { max: 200, skipBlankLines: true, skipComments: true }],
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/method-signature-style': 'error',
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      // A field of a form that the coach has just opened is what they want to type in.
      'jsx-a11y/no-autofocus': 'off',
      // What is played are single words, which stand beside it.
      'jsx-a11y/media-has-caption': 'off',
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
