const transform = {
  "^.+\\.tsx?$": [
    "@swc/jest",
    {
      jsc: {
        parser: { syntax: "typescript", tsx: true, decorators: true },
        transform: {
          legacyDecorator: true,
          decoratorMetadata: false,
          useDefineForClassFields: false,
          react: { runtime: "automatic" },
        },
        target: "es2023",
      },
      module: { type: "commonjs" },
    },
  ],
};

const moduleNameMapper = {
  "^@chronometra/core$": `${import.meta.dirname}/packages/core/src/index.ts`,
  "^@chronometra/contract$": `${import.meta.dirname}/packages/contract/src/index.ts`,
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
  // Tests with a database share it with others that run beside them.
  testTimeout: 20_000,
  projects: [
    project("core", "packages/core"),
    project("contract", "packages/contract"),
    // Tables come as modules only, which this runner turns into what it can load.
    project("web", "apps/web", {
      setupFiles: ["<rootDir>/src/testing/pageLacks.ts"],
      transform: { ...transform, "/@tanstack/.+\\.js$": transform["^.+\\.tsx?$"] },
      transformIgnorePatterns: ["/node_modules/(?!@tanstack/)"],
    }),
    project("ops", "ops", { testMatch: ["<rootDir>/*.test.ts"] }),
    project("server", "apps/server", {
      setupFiles: ["reflect-metadata"],
      globalSetup: "<rootDir>/src/testing/globalSetup.ts",
    }),
  ],
};
