/** The arrows of the house: web -> contract -> core <- server -> contract, and no circle anywhere. */
module.exports = {
  forbidden: [
    {
      name: "no-circle",
      severity: "error",
      comment: "Files that import each other cannot be understood apart.",
      from: {},
      to: { circular: true },
    },
    {
      name: "core-alone",
      severity: "error",
      comment: "The core knows nothing of us, of Node or of the browser.",
      from: { path: "^packages/core/src", pathNot: "\\.test\\.ts$|/testing/" },
      to: { pathNot: "^packages/core/src|node_modules/zod" },
    },
    { name: "contract-on-core", severity: "error", from: { path: "^packages/contract/src" }, to: { path: "^apps/" } },
    {
      name: "contract-thin",
      severity: "error",
      comment: "Schemas and types only.",
      from: { path: "^packages/contract/src" },
      to: { pathNot: "^packages/(contract|core)/|node_modules/zod" },
    },
    { name: "web-not-server", severity: "error", from: { path: "^apps/web/" }, to: { path: "^apps/server/" } },
    { name: "server-not-web", severity: "error", from: { path: "^apps/server/" }, to: { path: "^apps/web/" } },
    {
      name: "by-the-door",
      severity: "error",
      comment: "Packages are entered by their index; what is there for tests alone is no part of it.",
      from: { path: "^(apps|packages)/([^/]+)/" },
      to: {
        path: "^packages/[^/]+/(src|dist)/",
        pathNot: ["^packages/[^/]+/(src|dist)/index\\.(ts|js|d\\.ts)$", "^packages/$2/", "/src/testing/"],
      },
    },
    {
      name: "no-tests-in-product",
      severity: "error",
      from: { pathNot: "\\.test\\.tsx?$|/testing/|^e2e/|^bench/" },
      to: { path: "\\.test\\.tsx?$|/testing/" },
    },
    {
      name: "declared",
      severity: "error",
      comment: "What is imported stands in the package's own list.",
      from: { path: "^(apps|packages)/", pathNot: "\\.test\\.tsx?$|/testing/|vite\\.config" },
      to: { dependencyTypes: ["npm-no-pkg", "npm-unknown", "npm-dev"] },
    },
    { name: "resolves", severity: "error", from: {}, to: { couldNotResolve: true } },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    exclude: { path: "/dist/|/dist-types/|\\.css$|\\?" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.base.json" },
    enhancedResolveOptions: {
      exportsFields: ["exports"],
      conditionNames: ["development", "import", "module", "types", "default", "node"],
      extensions: [".ts", ".tsx", ".js", ".cjs", ".json"],
    },
  },
};
