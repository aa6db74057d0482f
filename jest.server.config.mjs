import all from "./jest.config.js";

const server = all.projects.find(({ displayName }) => displayName === "server");

/**
 * The server's tests of plans and of what is collected alone, for mutating it. Each mutant costs the tests of whole
 * files with databases of their own: MUTATION_TESTS narrows them, as in `collect/report/`.
 */
const within = process.env["MUTATION_TESTS"] ?? "{plan,collect}/**/";

export default {
  ...server,
  testTimeout: all.testTimeout,
  testMatch: [`<rootDir>/src/${within}*.test.ts`],
  // This one starts servers of its own, which are not changed by it.
  testPathIgnorePatterns: ["/node_modules/", "plan/writeProjects"],
};
