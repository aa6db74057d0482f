import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

export default tseslint.config(
  { ignores: ["**/dist/**", "**/dist-types/**", "**/node_modules/**", "var/**", "test-results/**", "playwright-report/**"] },
  ...tseslint.configs.recommended,
  {
    files: ["**/*.ts", "**/*.tsx"],
    languageOptions: { parserOptions: { project: ["packages/*/tsconfig.json", "apps/*/tsconfig.json", "tsconfig.tests.json"], tsconfigRootDir: import.meta.dirname } },
    rules: {
      "@typescript-eslint/no-floating-promises": "error",
      "@typescript-eslint/no-misused-promises": ["error", { checksVoidReturn: { attributes: false } }],
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/no-non-null-assertion": "off",
      "@typescript-eslint/consistent-type-imports": "error",
      "@typescript-eslint/switch-exhaustiveness-check": ["error", { considerDefaultExhaustiveForUnions: true }],
      eqeqeq: ["error", "always", { null: "ignore" }],
      "max-lines": ["error", { max: 400, skipBlankLines: true, skipComments: true }],
      "max-lines-per-function": ["error", { max: 130, skipBlankLines: true, skipComments: true }],
      complexity: ["error", 30],
      "no-console": "error",
      "no-restricted-properties": ["error", ...["toLocaleString", "toLocaleDateString", "toLocaleTimeString"].map((property) => ({ property, message: "Numbers and dates are written by packages/core/src/words, alike for everyone." }))],
      "no-restricted-syntax": ["error", { selector: "MemberExpression[object.name='Intl'][property.name='NumberFormat']", message: "Numbers are written by packages/core/src/words/numberWords.ts." }],
    },
  },
  { files: ["apps/web/**/*.tsx", "apps/web/**/*.ts"], plugins: { "react-hooks": reactHooks }, rules: { "react-hooks/rules-of-hooks": "error" } },
  { files: ["**/*.test.ts", "**/*.test.tsx", "e2e/**", "bench/**"], rules: { "max-lines-per-function": "off", "no-console": "off", "no-restricted-properties": "off", "no-restricted-syntax": "off" } },
  { files: ["*.js", "*.cjs"], ...tseslint.configs.disableTypeChecked },
  { files: ["**/*.cjs"], rules: { "@typescript-eslint/no-require-imports": "off" } },
);
