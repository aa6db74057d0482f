import { z } from "zod";
import { bundleSchema } from "../schema.ts";

/**
 * The plan bundle as a JSON Schema (draft 2020-12). It says all that a shape can say; references, the tree, and what
 * cannot be computed with are checked by `parseBundle`.
 */
export function bundleJsonSchema(): object {
  const { $schema, ...schema } = z.toJSONSchema(bundleSchema, { io: "input" }) as { $schema: string };
  return { $schema, title: "Chronometra plan bundle", description: "A project whole: see plan-bundle.md.", ...schema };
}
