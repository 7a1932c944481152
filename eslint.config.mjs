import tseslint from 'typescript-eslint';
import hooks from 'eslint-plugin-react-hooks';

export default tseslint.config(
  {
    ignores: [
      '.next/**',
      'node_modules/**',
      'public/**',
      'server/generated/**',
      'next-env.d.ts',
      'test-results/**',
      '.stryker-tmp/**',
      'playwright-report/**',
    ],
  },
  ...tseslint.configs.recommended,
  {
    // Where components and hooks are.
    files: ['src/**/*.tsx', 'src/**/use-*.ts'],
    plugins: { 'react-hooks': hooks },
    rules: hooks.configs.recommended.rules,
  },
  {
    files: ['**/*.{ts,tsx}'],
    rules: {
      'max-lines': ['error', { max: 400, skipBlankLines: false, skipComments: false }],
      '@typescript-eslint/no-unused-vars': [
        'error',
        { argsIgnorePattern: '^_', varsIgnorePattern: '^_', destructuredArrayIgnorePattern: '^_' },
      ],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
    },
  },
  {
    // Recipes of kits are numbers in one table; tests of one subject stay together with what they share.
    files: ['src/core/synth/kits/*.ts', '**/*.test.{ts,tsx}', 'e2e/**/*.ts'],
    rules: { 'max-lines': ['error', { max: 520 }] },
  },
  {
    // Long texts and class names stay in one piece; code and comments are wrapped.
    files: ['**/*.{ts,tsx,mjs,cjs}'],
    rules: {
      'max-len': [
        'error',
        {
          code: 140,
          ignoreStrings: true,
          ignoreTemplateLiterals: true,
          ignoreRegExpLiterals: true,
          ignorePattern: '(className|d)=|^\\s*[^*/]*\\{.*\\}',
        },
      ],
    },
  },
  {
    // Rules that need types.
    files: ['src/**/*.{ts,tsx}', 'e2e/**/*.ts'],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/no-floating-promises': ['error', { ignoreVoid: true }],
      '@typescript-eslint/no-misused-promises': 'error',
      '@typescript-eslint/await-thenable': 'error',
      '@typescript-eslint/switch-exhaustiveness-check': ['error', { considerDefaultExhaustiveForUnions: true }],
    },
  },
  {
    files: ['src/**/*.{ts,tsx}'],
    ignores: ['src/**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "Literal[value=/testid/i], TemplateElement[value.raw=/testid/i], MemberExpression[property.name='testid']",
          message: 'Names for tests are set, and read by tests alone.',
        },
      ],
    },
  },
  {
    files: ['**/*.{js,mjs,cjs}'],
    rules: {
      '@typescript-eslint/no-require-imports': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_', argsIgnorePattern: '^_', ignoreRestSiblings: true }],
    },
  },
);
