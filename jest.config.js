const transform = {
  "^.+\\.tsx?$": [
    "@swc/jest",
    {
      jsc: { parser: { syntax: "typescript", tsx: true, decorators: true }, transform: { legacyDecorator: true, decoratorMetadata: false, useDefineForClassFields: false, react: { runtime: "automatic" } }, target: "es2023" },
      module: { type: "commonjs" },
    },
  ],
};

const moduleNameMapper = {
  "^@chronometra/core$": "<rootDir>/../../packages/core/src/index.ts",
  "^@chronometra/contract$": "<rootDir>/../../packages/contract/src/index.ts",
};

const project = (displayName, rootDir, extra = {}) => ({
  displayName,
  rootDir,
  testMatch: ["<rootDir>/src/**/*.test.ts", "<rootDir>/src/**/*.test.tsx"],
  testEnvironment: "node",
  transform,
  moduleNameMapper,
  extensionsToTreatAsEsm: [],
  ...extra,
});

export default {
  projects: [
    project("core", "packages/core"),
    project("web", "apps/web"),
    project("server", "apps/server", { setupFiles: ["reflect-metadata"], globalSetup: "<rootDir>/src/testing/globalSetup.ts" }),
  ],
};
