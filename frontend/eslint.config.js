import vue from "eslint-plugin-vue";
import typescript from "typescript-eslint";

export default [
  { ignores: ["dist/", "src/api/generated.ts"] },
  ...typescript.configs.strict,
  ...vue.configs["flat/recommended"],
  {
    files: ["**/*.vue"],
    languageOptions: { parserOptions: { parser: typescript.parser } },
  },
  {
    rules: {
      // Prettier lays out the code.
      "vue/max-attributes-per-line": "off",
      "vue/singleline-html-element-content-newline": "off",
      "vue/html-self-closing": "off",
      "vue/html-indent": "off",
      "vue/html-closing-bracket-newline": "off",
      "vue/first-attribute-linebreak": "off",
    },
  },
];
