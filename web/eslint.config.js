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
    rules: { 'no-undef': 'off', 'vue/require-default-prop': 'off' },
  },
  prettier,
);
