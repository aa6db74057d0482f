import { z } from "zod";
import { ownValueSchema } from "./ownTables.ts";
import { ROW_SCHEMAS, type PlanTables } from "./rowSchemas.ts";
import {
  activitySchema,
  actualCostSchema,
  assignmentSchema,
  baselineSchema,
  creditSchema,
  dateSchema,
  idSchema,
  projectSchema,
  timeEntrySchema,
  wishSchema,
} from "./schema.ts";
import { EDITED_TABLES, HAND_TABLES, type EditedTable, type HandTable, type PlanTable } from "./tables.ts";

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

const literals = <T extends string>(names: readonly T[]) => names as readonly [T, ...T[]];

/** A union of objects, one a table; what it is of is said by the type. */
const perTable = <T extends PlanTable, C>(tables: readonly T[], of: (table: T) => z.ZodType): z.ZodType<C> =>
  z.discriminatedUnion("table", tables.map(of) as never) as never;

/** The fields of a row that may be rewritten one by one; those that a row can do without are cleared by `null`. */
type Editable<Row> = { [K in keyof Omit<Row, "id">]?: Row[K] | null | undefined };

function editable(schema: z.ZodType): z.ZodType {
  const fields = Object.entries((schema as z.ZodObject).shape as z.ZodRawShape).filter(([name]) => name !== "id");
  return z.strictObject(
    Object.fromEntries(
      fields.map(([name, field]) => [
        name,
        field instanceof z.ZodOptional ? clearable(field.unwrap() as z.ZodType) : (field as z.ZodType).optional(),
      ]),
    ),
  );
}

type EditRow = {
  [T in EditedTable]: { type: "editRow"; table: T; key: string; set: Editable<PlanTables[T]> };
}[EditedTable];
type AddRow = {
  [T in HandTable]: { type: "addRow"; table: T; key: string; row: PlanTables[T]; before?: string | undefined };
}[HandTable];

/** Fields of a row rewritten; those that are left out stay as they are. Activities have changes of their own. */
const editRow = perTable<EditedTable, EditRow>(EDITED_TABLES, (table) =>
  z.strictObject({ type: z.literal("editRow"), table: z.literal(table), key, set: editable(ROW_SCHEMAS[table]) }),
);

const addRow = perTable<HandTable, AddRow>(HAND_TABLES, (table) =>
  z.strictObject({
    type: z.literal("addRow"),
    table: z.literal(table),
    key,
    row: ROW_SCHEMAS[table],
    before: key.optional(),
  }),
);

const removeRow = z.strictObject({ type: z.literal("removeRow"), table: z.enum(literals(HAND_TABLES)), key });

/** What happens to the project, to activities, to time and money. */
const ofItsOwn = z.discriminatedUnion("type", [
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
]);

/** One thing that happens to a plan. */
export type Change = z.infer<typeof ofItsOwn> | EditRow | AddRow | z.infer<typeof removeRow>;

/**
 * Everything that can happen to a plan. `postTime`, `postCost` and `freeze` cannot be undone: money is corrected by
 * an entry of its own, and a baseline stays.
 */
export const changeSchema: z.ZodType<Change> = z.discriminatedUnion("type", [
  ...ofItsOwn.options,
  editRow as never,
  addRow as never,
  removeRow,
]) as never;
export type ChangeType = Change["type"];
