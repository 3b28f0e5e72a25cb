import boundaries from 'eslint-plugin-boundaries'
import vue from 'eslint-plugin-vue'
import tseslint from 'typescript-eslint'
import { rooms } from './scripts/rooms.js'

/** Rooms and, inside core, the order of its parts: an import may only point to what stands to the right. */
const elements = rooms.map((room) => ({ type: room.name, pattern: room.pattern, partialMatch: false }))
const allowed = rooms.map((room) => ({
  from: { element: { type: room.name } },
  allow: { to: { element: { type: [room.name, ...room.mayImport] } } },
}))

export default tseslint.config(
  { ignores: ['dist/**', 'data/**', 'node_modules/**', 'test-results/**', 'playwright-report/**'] },
  ...tseslint.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue'],
    languageOptions: { parserOptions: { parser: tseslint.parser } },
  },
  {
    rules: {
      'no-undef': 'off',
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/consistent-type-imports': [
        'error',
        { fixStyle: 'inline-type-imports', disallowTypeAnnotations: false },
      ],
      eqeqeq: 'error',
    },
  },
  {
    files: ['{core,server,web,cli,demo}/**/*.{ts,vue}'],
    ignores: ['**/*.test.ts'],
    plugins: { boundaries },
    settings: {
      'import/resolver': { node: { extensions: ['.ts', '.vue', '.js'] } },
      'boundaries/include': ['{core,server,web,cli,demo}/**/*'],
      'boundaries/elements': elements,
    },
    rules: {
      'boundaries/dependencies': [
        'error',
        {
          default: 'disallow',
          policies: allowed,
          message:
            'Imports point one way: {{from.element.type}} may not import {{to.element.type}} (docs/architecture.md).',
        },
      ],
    },
  },
  {
    // Core knows no platform: nothing from Node, few packages without a platform.
    files: ['core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            {
              regex:
                '^(?!\\.{1,2}/|(valibot|earcut|fflate|manifold-3d|pdf-lib|@pdf-lib/fontkit|svgpath|saxes|papaparse|dxf-parser)$)',
              message:
                'Core imports nothing but core, valibot, earcut, what reads and writes formats, and the types of manifold-3d.',
            },
          ],
        },
      ],
      'no-console': 'error',
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer', 'fetch', 'setTimeout'],
    },
  },
)
