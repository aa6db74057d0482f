import { expect, test } from "@playwright/test";
import { createConfig, lintFromString } from "@redocly/openapi-core";

test("the interface tells of itself as OpenAPI that a linter finds nothing wrong with", async ({ request }) => {
  const source = await (await request.get("/api/openapi.json")).text();
  // All recommended rules, each as an error.
  const config = await createConfig({ extends: ["recommended-strict"] });
  const problems = await lintFromString({ source, absoluteRef: "/openapi.json", config });
  expect(problems.map(({ ruleId, message, location }) => `${ruleId}: ${message} ${location[0]?.pointer}`)).toEqual([]);
});
