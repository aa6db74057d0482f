import { z } from "zod";
import { planFileSchema } from "../file/planFile.ts";
import { bundleSchema } from "../schema.ts";

/**
 * The plan bundle as a JSON Schema (draft 2020-12). It says all that a shape can say; references, the tree, and what
 * cannot be computed with are checked by `parseBundle`.
 */
export function bundleJsonSchema(): object {
  const { $schema, ...schema } = z.toJSONSchema(bundleSchema, { io: "input" }) as { $schema: string };
  return { $schema, title: "Chronometra plan bundle", description: "A project whole: see plan-bundle.md.", ...schema };
}

/** The same of version 2, with what a project keeps besides its plan as the given schema says. */
export function planFileJsonSchema(record: z.ZodType): object {
  const whole = planFileSchema.extend({ record: record.optional() });
  const { $schema, ...schema } = z.toJSONSchema(whole, { io: "input", reused: "ref" }) as { $schema: string };
  return {
    $schema,
    title: "Chronometra plan bundle, version 2",
    description: "A project with all that it holds: see plan-bundle.md.",
    ...schema,
  };
}
