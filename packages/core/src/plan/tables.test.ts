import type { z } from "zod";
import { ROW_SCHEMAS } from "./rowSchemas.ts";
import { EDITED_TABLES, hangingOn, NAMED_TABLES, PLAN_TABLES, type PlanTable } from "./tables.ts";

const shapeOf = (table: PlanTable): z.ZodRawShape => (ROW_SCHEMAS[table] as unknown as z.ZodObject).shape;

describe("the tables of a plan", () => {
  it("each have a schema of their rows, in one list", () =>
    expect(Object.keys(ROW_SCHEMAS).sort()).toEqual([...PLAN_TABLES].sort()));

  it.each(NAMED_TABLES)("%s: rows that are called by a name have one", (table) =>
    expect(shapeOf(table)).toHaveProperty("name"),
  );

  it.each(EDITED_TABLES)("%s: rows whose fields are rewritten have fields", (table) =>
    expect(Object.keys(shapeOf(table)).length).toBeGreaterThan(1),
  );

  it.each([...hangingOn("activity"), ...hangingOn("person")])(
    "%s: what hangs on others is in its rows",
    (table, how) => {
      if (how.by === "key") return expect(shapeOf(table)).not.toHaveProperty("id");
      const field = how.by === "field" ? how.field : how.list;
      expect(shapeOf(table)).toHaveProperty(field);
      if (how.by !== "list" || how.id === undefined) return;
      const row = (shapeOf(table)[field] as z.ZodArray).element as unknown as z.ZodObject;
      expect(row.shape).toHaveProperty(how.id);
    },
  );
});
