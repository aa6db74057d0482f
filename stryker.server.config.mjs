import core from "./stryker.config.mjs";

/**
 * `npm run mutate:server`: the same for what the server does with plans and reports, against a throwaway database. What
 * runs in threads of its own is not changed by it. A path after it narrows it.
 */
export default {
  ...core,
  jest: { configFile: "jest.server.config.mjs", enableFindRelatedTests: true },
  mutate: ["apps/server/src/{plan,collect}/**/*.ts", "!apps/server/src/**/*.test.ts", "!apps/server/src/**/*Entit*.ts"],
  ignorePatterns: ["apps/web", "docs", "e2e", "bench", "dist"],
  jsonReporter: { fileName: "node_modules/.cache/mutation.server.json" },
  timeoutMS: 30_000,
};
