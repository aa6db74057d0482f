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

const MODULES_ONLY = "file-type|strtok3|token-types|uint8array-extras|@tokenizer|@borewit";

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
  // Tests with a database share it, and the machine, with others that run beside them.
  testTimeout: 60_000,
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
    // What a file is by its content comes as modules only, too.
    project("server", "apps/server", {
      setupFiles: ["reflect-metadata", "<rootDir>/src/testing/builtThreads.ts"],
      moduleNameMapper: {
        ...moduleNameMapper,
        "^file-type$": `${import.meta.dirname}/node_modules/file-type/index.js`,
      },
      transform: { ...transform, [`/(${MODULES_ONLY})/.+\\.js$`]: transform["^.+\\.tsx?$"] },
      transformIgnorePatterns: [`/node_modules/(?!${MODULES_ONLY})/`],
      globalSetup: "<rootDir>/src/testing/globalSetup.ts",
    }),
  ],
};
