import { z } from "zod";
import {
  alternatesSchema,
  blockSchema,
  carriedSchema,
  categorySchema,
  meetingSchema,
  ownFieldSchema,
  ownValueSchema,
  placeholderSchema,
  promiseSchema,
  rangeSchema,
  riskSchema,
  teamSchema,
} from "./ownTables.ts";
import {
  activitySchema,
  actualCostSchema,
  assignmentSchema,
  baselineSchema,
  calendarSchema,
  costSchema,
  creditSchema,
  dateSchema,
  idSchema,
  linkSchema,
  personSchema,
  projectSchema,
  timeEntrySchema,
  wishSchema,
} from "./schema.ts";

/** A field to write, or to clear where it is `null`; one that is left out stays as it is. */
const clearable = <T extends z.ZodType>(schema: T) => schema.nullable().optional();
const activityFields = activitySchema.shape;

const key = z.string().min(1).max(80);

/** What a person reports of an activity: progress in percent, what is left, when it began and ended, whether short of its scope. */
const progressFields = {
  percent: clearable(activityFields.percent.unwrap()),
  remainingMinutes: clearable(activityFields.remainingMinutes.unwrap()),
  actualStart: clearable(activityFields.actualStart.unwrap()),
  actualFinish: clearable(activityFields.actualFinish.unwrap()),
  dropped: clearable(activityFields.dropped.unwrap()),
};

const projectShape = projectSchema.shape;

/** The project's own fields; those that may be left out are cleared by `null`. The data date has a change of its own. */
const projectFields = projectSchema
  .omit({ dataDate: true })
  .partial()
  .extend({
    minorDigits: clearable(projectShape.minorDigits.unwrap()),
    logic: clearable(projectShape.logic.unwrap()),
    criticalFloatMinutes: clearable(projectShape.criticalFloatMinutes.unwrap()),
    tightDays: clearable(projectShape.tightDays.unwrap()),
  });

/** How an activity is worked: in which calendar, by what its dates are driven, who answers for it. */
const workingFields = {
  calendar: clearable(activityFields.calendar.unwrap()),
  driver: clearable(activityFields.driver.unwrap()),
  windowPolicy: clearable(activityFields.windowPolicy.unwrap()),
  owner: clearable(activityFields.owner.unwrap()),
};

/** The fields of a row that may be rewritten one by one; those that a row can do without are cleared by `null`. */
type Editable<T extends z.ZodObject> = { [K in keyof Omit<z.infer<T>, "id">]?: z.infer<T>[K] | null | undefined };

function editable<T extends z.ZodObject>(schema: T): z.ZodType<Editable<T>> {
  const fields = Object.entries(schema.shape as z.ZodRawShape).filter(([name]) => name !== "id");
  return z.strictObject(
    Object.fromEntries(
      fields.map(([name, field]) => [
        name,
        field instanceof z.ZodOptional ? clearable(field.unwrap() as z.ZodType) : (field as z.ZodType).optional(),
      ]),
    ),
  ) as never;
}

const editOf = <N extends string, T extends z.ZodObject>(table: N, schema: T) =>
  z.strictObject({ type: z.literal("editRow"), table: z.literal(table), key, set: editable(schema) });

/** Fields of a row rewritten; those that are left out stay as they are. Activities have changes of their own. */
const editRow = z.discriminatedUnion("table", [
  editOf("calendars", calendarSchema),
  editOf("people", personSchema),
  editOf("links", linkSchema),
  editOf("assignments", assignmentSchema),
  editOf("costs", costSchema),
  editOf("fields", ownFieldSchema),
  editOf("teams", teamSchema),
  editOf("categories", categorySchema),
  editOf("risks", riskSchema),
  editOf("alternates", alternatesSchema),
]);

const addRow = z.discriminatedUnion("table", [
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("calendars"),
    key,
    row: calendarSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("people"),
    key,
    row: personSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("activities"),
    key,
    row: activitySchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("links"),
    key,
    row: linkSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("assignments"),
    key,
    row: assignmentSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("costs"),
    key,
    row: costSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("fields"),
    key,
    row: ownFieldSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("teams"),
    key,
    row: teamSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("categories"),
    key,
    row: categorySchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("placeholders"),
    key,
    row: placeholderSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("carried"),
    key,
    row: carriedSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("blocks"),
    key,
    row: blockSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("promises"),
    key,
    row: promiseSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("ranges"),
    key,
    row: rangeSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("risks"),
    key,
    row: riskSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("meetings"),
    key,
    row: meetingSchema,
    before: key.optional(),
  }),
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal("alternates"),
    key,
    row: alternatesSchema,
    before: key.optional(),
  }),
]);

const removeRow = z.strictObject({
  type: z.literal("removeRow"),
  table: z.enum([
    "calendars",
    "people",
    "activities",
    "links",
    "assignments",
    "costs",
    "fields",
    "teams",
    "categories",
    "placeholders",
    "carried",
    "blocks",
    "promises",
    "ranges",
    "risks",
    "meetings",
    "alternates",
  ]),
  key,
});

/**
 * Everything that can happen to a plan. `postTime`, `postCost` and `freeze` cannot be undone: money is corrected by
 * an entry of its own, and a baseline stays.
 */
export const changeSchema = z.discriminatedUnion("type", [
  z.strictObject({ type: z.literal("setProject"), set: projectFields }),
  z.strictObject({ type: z.literal("setDataDate"), date: dateSchema.nullable() }),
  z.strictObject({ type: z.literal("setName"), activity: idSchema, name: activityFields.name }),
  z.strictObject({ type: z.literal("setKind"), activity: idSchema, kind: activityFields.kind.unwrap().nullable() }),
  z.strictObject({
    type: z.literal("moveBranch"),
    activity: idSchema,
    parent: idSchema.nullable(),
    before: idSchema.nullable(),
  }),
  z.strictObject({ type: z.literal("setDuration"), activity: idSchema, minutes: z.int().min(1).nullable() }),
  z.strictObject({ type: z.literal("setDeadline"), activity: idSchema, date: dateSchema.nullable() }),
  z.strictObject({ type: z.literal("setWish"), activity: idSchema, wish: wishSchema.nullable() }),
  z.strictObject({ type: z.literal("setCredit"), activity: idSchema, credit: creditSchema.nullable() }),
  z.strictObject({ type: z.literal("setWorking"), activity: idSchema, ...workingFields }),
  z.strictObject({
    type: z.literal("setOwnValue"),
    activity: idSchema,
    field: idSchema,
    value: ownValueSchema.nullable(),
  }),
  z.strictObject({ type: z.literal("setParked"), activity: idSchema, parked: z.boolean() }),
  z.strictObject({ type: z.literal("reportProgress"), activity: idSchema, ...progressFields }),
  z.strictObject({
    type: z.literal("setRemainingWork"),
    assignment: key,
    remainingMinutes: clearable(assignmentSchema.shape.remainingMinutes.unwrap()),
    restart: clearable(dateSchema),
  }),
  z.strictObject({ type: z.literal("postTime"), key, entry: timeEntrySchema.extend({ state: z.literal("posted") }) }),
  z.strictObject({ type: z.literal("postCost"), key, cost: actualCostSchema }),
  z.strictObject({ type: z.literal("freeze"), baseline: baselineSchema }),
  editRow,
  addRow,
  removeRow,
]);

/** One thing that happens to a plan. */
export type Change = z.infer<typeof changeSchema>;
export type ChangeType = Change["type"];
