import reactHooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";
import { LONGER } from "./eslint.longer.js";

const counted = (max) => ["error", { max, skipBlankLines: true, skipComments: true }];
const [FILE, LOGIC, MARKUP, WAYS] = [300, 50, 100, 15];

/**
 * Tables and stories, which may be long: every call of the interface, its routes, what was done to the database, the
 * demo world.
 */
const TABLES = ["packages/contract/src/endpoints.ts", "apps/server/src/demo/**/*.ts"];
const LISTS = ["apps/server/src/**/*Routes.ts", "apps/server/src/start/migrations/*.ts"];

export default tseslint.config(
  {
    ignores: [
      "**/dist/**",
      "**/dist-types/**",
      "**/node_modules/**",
      "var/**",
      ".stryker/**",
      "test-results/**",
      "playwright-report/**",
    ],
  },
  ...tseslint.configs.recommended,
  {
    files: ["**/*.ts", "**/*.tsx"],
    languageOptions: {
      parserOptions: {
        project: ["packages/*/tsconfig.json", "apps/*/tsconfig.json", "tsconfig.tests.json"],
        tsconfigRootDir: import.meta.dirname,
      },
    },
    rules: {
      "@typescript-eslint/no-floating-promises": "error",
      "@typescript-eslint/no-misused-promises": ["error", { checksVoidReturn: { attributes: false } }],
      "@typescript-eslint/no-unused-vars": ["error", { argsIgnorePattern: "^_", varsIgnorePattern: "^_" }],
      "@typescript-eslint/no-non-null-assertion": "off",
      "@typescript-eslint/consistent-type-imports": "error",
      "@typescript-eslint/switch-exhaustiveness-check": ["error", { considerDefaultExhaustiveForUnions: true }],
      eqeqeq: ["error", "always", { null: "ignore" }],
      "max-lines": counted(FILE),
      "max-lines-per-function": counted(LOGIC),
      complexity: ["error", WAYS],
      "no-console": "error",
      "no-restricted-properties": [
        "error",
        ...["toLocaleString", "toLocaleDateString", "toLocaleTimeString"].map((property) => ({
          property,
          message: "Numbers and dates are written by packages/core/src/words, alike for everyone.",
        })),
      ],
      "no-restricted-syntax": [
        "error",
        {
          selector: "TSAsExpression > TSTypeReference[typeName.name=/^(EpochDay|LocalMinute|WorkMinutes|MinorUnits)$/]",
          message:
            "A number earns its unit in one function: epochDay, localMinute, workMinutes (core/src/time/instant.ts), minorUnits (core/src/budget/money.ts).",
        },
        { selector: "ExportAllDeclaration", message: "The surface of a package is listed name by name." },
        {
          selector: "MemberExpression[object.name='Intl'][property.name='NumberFormat']",
          message: "Numbers are written by packages/core/src/words/numberWords.ts.",
        },
      ],
    },
  },
  {
    files: ["apps/web/**/*.tsx", "apps/web/**/*.ts"],
    plugins: { "react-hooks": reactHooks },
    rules: { "react-hooks/rules-of-hooks": "error", "react-hooks/exhaustive-deps": "error" },
  },
  { files: ["**/*.tsx"], rules: { "max-lines-per-function": counted(MARKUP) } },
  {
    files: LONGER.flatMap(({ files }) => files),
    rules: { "max-lines": counted(330), "max-lines-per-function": counted(195), complexity: ["error", 30] },
  },
  { files: LISTS, rules: { "max-lines-per-function": "off" } },
  { files: TABLES, rules: { "max-lines": "off", "max-lines-per-function": "off", complexity: "off" } },
  {
    files: ["**/*.test.ts", "**/*.test.tsx", "e2e/**", "bench/**"],
    rules: {
      "max-lines": ["error", { max: 800, skipBlankLines: true, skipComments: true }],
      "max-lines-per-function": "off",
      complexity: ["error", 30],
      "no-console": "off",
      "no-restricted-properties": "off",
      "no-restricted-syntax": "off",
    },
  },
  {
    files: ["packages/core/src/{time/instant,time/columns,budget/money}.ts"],
    rules: { "no-restricted-syntax": "off" },
  },
  { files: ["*.js", "*.cjs"], ...tseslint.configs.disableTypeChecked },
  { files: ["**/*.cjs"], rules: { "@typescript-eslint/no-require-imports": "off" } },
);
