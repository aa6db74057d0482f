/** `npm run mutate`: changes the heart bit by bit and counts which changes no test notices. A path after it narrows it: `-- --mutate packages/core/src/drift/slip.ts`. */
export default {
  packageManager: "npm",
  testRunner: "jest",
  jest: { configFile: "jest.core.config.mjs", enableFindRelatedTests: true },
  coverageAnalysis: "perTest",
  ignoreStatic: true,
  mutate: [
    "packages/core/src/{network,performance,drift}/*.ts",
    "!packages/core/src/**/*.test.ts",
    "!packages/core/src/**/*Schema.ts",
  ],
  ignorePatterns: ["apps", "docs", "e2e", "bench", "dist", "**/dist"],
  reporters: ["clear-text", "progress-append-only", "json"],
  jsonReporter: { fileName: "node_modules/.cache/mutation.json" },
  clearTextReporter: { allowColor: false, reportTests: false, logTests: false },
  tempDirName: ".stryker",
  concurrency: 2,
  timeoutMS: 8_000,
};
