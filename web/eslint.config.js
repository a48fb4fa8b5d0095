import hooks from 'eslint-plugin-react-hooks'
import ts from 'typescript-eslint'

// what compiles every component to look at it takes longer than all the rest: with LINT=all only
const COMPILED = Object.keys(hooks.configs.flat['recommended-latest'].rules).filter(
  (rule) => !['react-hooks/rules-of-hooks', 'react-hooks/exhaustive-deps'].includes(rule),
)
const quick = process.env.LINT === 'all' ? [] : COMPILED

export default ts.config(
  { ignores: ['node_modules', 'src/api/schema.d.ts'] },
  ...ts.configs.recommended,
  hooks.configs.flat['recommended-latest'],
  { files: ['src/stage/**'], rules: { 'react-hooks/immutability': 'off' } }, // three's objects are changed in place
  {
    rules: Object.fromEntries(quick.map((rule) => [rule, 'off'])),
    linterOptions: { reportUnusedDisableDirectives: quick.length > 0 ? 'off' : 'warn' },
  },
  { rules: { '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }] } },
)
