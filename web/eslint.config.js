import hooks from 'eslint-plugin-react-hooks'
import ts from 'typescript-eslint'

export default ts.config(
  { ignores: ['node_modules', 'src/api/schema.d.ts'] },
  ...ts.configs.recommended,
  hooks.configs.flat['recommended-latest'],
  { files: ['src/stage/**'], rules: { 'react-hooks/immutability': 'off' } }, // three's objects are changed in place
  { rules: { '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_' }] } },
)
