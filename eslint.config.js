import tseslint from 'typescript-eslint';

export default tseslint.config({ ignores: ['**/dist/**', 'node_modules/**', '.ruvet/**'] }, ...tseslint.configs.recommended, {
  rules: {
    '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
    '@typescript-eslint/no-non-null-assertion': 'off',
    eqeqeq: 'error',
  },
});
