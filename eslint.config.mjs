import { defineConfig, globalIgnores } from 'eslint/config';
import nextVitals from 'eslint-config-next/core-web-vitals';
import tseslint from 'typescript-eslint';
import boundaries from 'eslint-plugin-boundaries';
import prettier from 'eslint-config-prettier/flat';

const parts = ['core', 'camera', 'engine', 'store', 'ui', 'stations', 'app', 'cli'];
const from = (type, ...to) => ({
  from: { element: { type } },
  allow: { to: { element: { types: { anyOf: [type, ...to] } } } },
});

export default defineConfig([
  globalIgnores([
    '.next/**',
    'node_modules/**',
    'dist/**',
    'public/**',
    'test-results/**',
    'next-env.d.ts',
    'core/kernels/assembly/**',
  ]),
  ...nextVitals,
  {
    files: ['**/*.{ts,tsx}'],
    extends: [tseslint.configs.recommendedTypeChecked],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: {
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { attributes: false } }],
    },
  },
  {
    files: [`{${parts.join(',')}}/**/*.{ts,tsx}`],
    // a test may reach for an oracle or a stand-in from anywhere
    ignores: ['**/*.test.{ts,tsx}'],
    plugins: { boundaries },
    settings: {
      'import/resolver': { typescript: { project: './tsconfig.json' } },
      'boundaries/elements': parts.map((type) => ({ type, pattern: type })),
    },
    rules: {
      // the one direction of docs/architecture.md: app, cli -> stations -> ui, store -> engine -> camera -> core
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: [
            from('core'),
            from('camera', 'core'),
            from('engine', 'camera', 'core'),
            from('store', 'engine', 'camera', 'core'),
            from('ui', 'engine', 'camera', 'core'),
            from('stations', 'ui', 'store', 'engine', 'camera', 'core'),
            from('app', 'stations', 'ui', 'store', 'engine', 'camera', 'core'),
            from('cli', 'store', 'engine', 'camera', 'core'),
          ],
        },
      ],
    },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['core/**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              group: ['node:*', 'fs', 'path', 'react', 'react-dom', 'next', 'next/*'],
              message: 'core is computation only',
            },
          ],
        },
      ],
      'no-restricted-syntax': [
        'error',
        {
          selector:
            "CallExpression[callee.object.name='Math'][callee.property.name='hypot']:not(:has(SpreadElement))",
          message: 'takes fifteen times as long as length2 or length3 of core/raster/length',
        },
      ],
    },
  },
  { files: ['**/*.mjs'], rules: { 'import/no-anonymous-default-export': 'off' } },
  prettier,
]);
