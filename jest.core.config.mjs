import all from "./jest.config.js";

/** The heart's tests alone, for mutating it. */
export default all.projects.find(({ displayName }) => displayName === "core");
