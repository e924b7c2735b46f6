import { readdirSync } from 'node:fs'
import { defineConfigWithVueTs, vueTsConfigs } from '@vue/eslint-config-typescript'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'

const features = readdirSync('src/features')
/** What is no field of a form: the tray, ticks, a file to choose, a slider, figures of a sum, what stands on top. */
const OWN = ['TrayCellView', 'CautionList', 'SheetDialog', 'FileButton', 'ReplayPage', 'SumFigure', 'TopBar']

export default defineConfigWithVueTs(
  { ignores: ['dist/**', 'src/api/schema.d.ts', 'components.d.ts'] },
  ...vue.configs['flat/recommended'],
  vueTsConfigs.strictTypeChecked,
  prettier,
  {
    rules: {
      'vue/block-order': ['error', { order: ['template', 'script', 'style'] }],
      'vue/multi-word-component-names': 'off',
      'vue/require-default-prop': 'off',
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      'vue/no-restricted-html-elements': ['error', 'input', 'select', 'textarea'], // one set of controls
      // There are no enums, and classes only for errors and in tests: asking each assignment for them took a quarter of the time.
      'no-restricted-syntax': ['error', 'TSEnumDeclaration'],
      '@typescript-eslint/no-unsafe-enum-assignment': 'off',
      '@typescript-eslint/no-unsafe-class-instance-assignment': 'off',
    },
  },
  {
    files: OWN.map((name) => `src/**/${name}.vue`),
    rules: { 'vue/no-restricted-html-elements': ['error', 'select', 'textarea'] },
  },
  {
    files: ['src/shared/**', 'src/api/**'],
    rules: { 'no-restricted-imports': ['error', { patterns: ['**/features/**', '**/app/**'] }] },
  },
  ...features.map((name) => ({
    files: [`src/features/${name}/**`],
    rules: {
      'no-restricted-imports': [
        'error',
        {
          patterns: [
            '**/app/**',
            ...features
              .filter((f) => f !== name)
              .flatMap((f) => [`**/features/${f}/**`, `**/features/${f}`, `../${f}`, `../${f}/**`]),
          ],
        },
      ],
    },
  })),
)
