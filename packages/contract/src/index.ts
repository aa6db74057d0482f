export * from "./access.ts";
export * from "./endpoints.ts";
export * from "./errors.ts";
export * from "./exchange.ts";
export * from "./look.ts";
export * from "./plan.ts";
export * from "./work.ts";
