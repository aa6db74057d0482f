import all from "./jest.config.js";

const core = all.projects.find(({ displayName }) => displayName === "core");

/** The heart's tests alone, for mutating it. */
export default {
  ...core,
  // These count how much of what they tried was worth it, of many more tries.
  testPathIgnorePatterns: ["/node_modules/", "quality/brute"],
  moduleNameMapper: { ...core.moduleNameMapper, "^fast-check$": `${import.meta.dirname}/ops/fewRuns.cjs` },
};
