import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { Ajv2020 } from "ajv/dist/2020.js";
import addFormats from "ajv-formats";
import fc from "fast-check";
import { networks, planOf } from "../../testing/plans.ts";
import { bundleJsonSchema } from "./jsonSchema.ts";
import { parseBundle } from "./parseBundle.ts";

const ajv = new Ajv2020({ allErrors: true, strict: false });
addFormats.default(ajv);
const validate = ajv.compile(bundleJsonSchema());
const WORKED = join(__dirname, "../../../fixtures/worked");

describe("the JSON Schema of the bundle, as another validator reads it", () => {
  it("takes every worked plan and every plan that we take", () => {
    for (const folder of readdirSync(WORKED)) {
      const bundle: unknown = JSON.parse(readFileSync(join(WORKED, folder, "bundle.json"), "utf8"));
      expect([folder, validate(bundle), validate.errors]).toEqual([folder, true, null]);
    }
    fc.assert(
      fc.property(networks({ calendars: ["std", "nights"], capped: true }), (plan) =>
        expect(validate(JSON.parse(JSON.stringify(plan)))).toBe(true),
      ),
    );
  });

  it.each<[string, object]>([
    ["an unknown field", { ...planOf([]), surprise: 1 }],
    ["an unknown field of a row", planOf([{ id: "A", name: "A", colour: "red" } as never])],
    ["a date that is none", planOf([{ id: "A", name: "A", deadline: "tomorrow" }])],
    ["half a minute", planOf([{ id: "A", name: "A", durationMinutes: 0.5 }])],
    ["a negative duration", planOf([{ id: "A", name: "A", durationMinutes: -5 }])],
    ["percent over 100", planOf([{ id: "A", name: "A", percent: 101 }])],
    ["null where a field may be left out", planOf([{ id: "A", name: "A", deadline: null as never }])],
    ["another version", { ...planOf([]), version: 3 }],
  ])("refuses %s, as we do", (_what, bundle) => {
    const read = JSON.parse(JSON.stringify(bundle)) as unknown;
    expect([validate(read), parseBundle(read).ok]).toEqual([false, false]);
  });
});
