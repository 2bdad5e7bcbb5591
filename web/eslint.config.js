import js from '@eslint/js';
import prettier from 'eslint-config-prettier';
import vue from 'eslint-plugin-vue';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['src/api/schema.gen.ts', 'src/components.d.ts'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    languageOptions: { parserOptions: { parser: ts.parser } },
    rules: {
      'no-undef': 'off',
      'vue/require-default-prop': 'off',
      'vue/no-restricted-html-elements': [
        'error',
        {
          element: ['input', 'select', 'textarea', 'form'],
          message: 'Fields stand in web/src/components/form, which ties label, error and input.',
        },
      ],
    },
  },
  {
    // The kit itself, and what is drawn by us: figure entry and keypad of a round, the notebook's grid.
    files: [
      'src/components/form/**',
      'src/features/round/FigureField.vue',
      'src/features/round/RoundPhone.vue',
      'src/features/notebook/NotebookGrid.vue',
    ],
    rules: { 'vue/no-restricted-html-elements': 'off' },
  },
  {
    // What several tasks share knows none of them.
    files: ['src/components/**', 'src/composables/**', 'src/logic/**', 'src/stores/**', 'src/api/**'],
    rules: { 'no-restricted-imports': ['error', { patterns: ['@/features/*'] }] },
  },
  prettier,
);
