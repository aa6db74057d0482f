import { z } from "zod";
import { endpoints, type EndpointKey } from "./endpoints.ts";

const KEYS = Object.keys(endpoints) as EndpointKey[];
const bodyOf = (key: EndpointKey): z.ZodType | undefined => (endpoints[key] as { body?: z.ZodType }).body;
const WITH_BODY = KEYS.filter((key) => bodyOf(key) !== undefined);

describe("the calls of the interface", () => {
  it.each(KEYS)("%s says in a sentence what it does, and where it is", (key) => {
    const { summary } = endpoints[key];
    expect(key).toMatch(/^(GET|POST|PUT|DELETE) \/api(\/(:[a-z][A-Za-z]*|[a-z][a-z.-]*))+$/);
    expect(summary).toMatch(/^[A-Z]/);
    expect(summary.endsWith(".")).toBe(false);
  });

  it("have no two that a path could mean both of", () => {
    const shapes = KEYS.map((key) => key.replaceAll(/:[A-Za-z]+/g, ":"));
    expect(new Set(shapes).size).toBe(KEYS.length);
  });

  it("name no parameter twice in a path", () => {
    for (const key of KEYS) {
      const names = [...key.matchAll(/:([A-Za-z]+)/g)].map(([, name]) => name);
      expect(new Set(names).size).toBe(names.length);
    }
  });

  it("read none with a body", () => {
    expect(WITH_BODY.filter((key) => key.startsWith("GET"))).toEqual([]);
  });

  it.each(WITH_BODY)("%s refuses what it does not know", (key) => {
    for (const unknown of [undefined, null, 7, "text", [], { surely: "unknown" }])
      expect(bodyOf(key)!.safeParse(unknown).success).toBe(false);
  });

  it("can all be told as JSON schemas, which those who call without our code go by", () => {
    for (const key of KEYS) {
      const { response } = endpoints[key] as { response: z.ZodType };
      for (const schema of [bodyOf(key), response])
        if (schema !== undefined)
          expect(() => z.toJSONSchema(schema, { io: "input", unrepresentable: "any" })).not.toThrow();
    }
  });
});
