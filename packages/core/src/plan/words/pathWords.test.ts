import { planOf } from "../../testing/plans.ts";
import { changeSchema, type Change } from "../change.ts";
import { changeWords, namesIn } from "./changeWords.ts";
import { describePath } from "./pathWords.ts";
import { fromBundle } from "../plan.ts";
import { PLAN_TABLES } from "../tables.ts";

const DAY = 480;
const plan = fromBundle(
  planOf(
    [
      { id: "dig", name: "Dig", durationMinutes: DAY },
      { id: "pour", name: "Pour", durationMinutes: DAY },
    ],
    [{ from: "dig", to: "pour" }],
    {
      people: [{ id: "ann", name: "Ann" }],
      assignments: [{ activity: "dig", person: "ann", plannedMinutes: DAY }],
    },
  ),
);

it.each([
  ["activities/dig/durationMinutes", "Dig: duration"],
  ["activities/dig/wish", "Dig: date wish"],
  ["activities/dig", "Dig"],
  ["activities/gone/name", "an activity that was removed: name"],
  ["links/1", "the link from Dig to Pour"],
  ["links/99/lagMinutes", "a link that was removed: lag"],
  ["assignments/1/plannedMinutes", "Ann on Dig: planned hours"],
  ["project/dataDate", "the project: data date"],
  ["people/ann/rates", "Ann: rates"],
])("%s is said as %s, without an id or a field of the format", (path, words) =>
  expect(describePath(plan, path)).toBe(words),
);

it.each<[Change, string]>([
  [{ type: "setDuration", activity: "dig", minutes: DAY }, "Duration of “Dig”"],
  [{ type: "setDeadline", activity: "dig", date: "2026-03-04" }, "Deadline of “Dig”: 4 Mar 2026"],
  [
    { type: "setWish", activity: "dig", wish: { type: "startOn", date: "2026-03-04", reason: "crane" } },
    "Date wish of “Dig”: start on 4 Mar 2026: crane",
  ],
  [{ type: "setDataDate", date: "2026-03-04" }, "Data date: 4 Mar 2026"],
  [{ type: "setParked", activity: "pour", parked: true }, "Parked: “Pour”"],
  [
    { type: "addRow", table: "blocks", key: "dig", row: { by: "crane", since: "2026-03-04", saidBy: "Ann" } },
    "New: what blocks “Dig”",
  ],
  [{ type: "removeRow", table: "ranges", key: "dig" }, "Removed: the range of “Dig”"],
  [{ type: "removeRow", table: "placeholders", key: "ann" }, "Removed: the role of “Ann”"],
  [{ type: "removeRow", table: "carried", key: "1" }, "Removed: logic carried by the link from Dig to Pour"],
  [{ type: "removeRow", table: "activities", key: "dig" }, "Removed: Dig"],
  [{ type: "removeRow", table: "links", key: "1" }, "Removed: the link from Dig to Pour"],
  [{ type: "editRow", table: "assignments", key: "1", set: { plannedMinutes: 60 } }, "Ann on Dig: planned hours"],
  [{ type: "addRow", table: "teams", key: "t", row: { id: "t", name: "Divers", members: [] } }, "New: a team “Divers”"],
])("a change is said in the words of the screen, its dates as they are shown there: %j", (change, words) =>
  expect(changeWords([change, change, change], namesIn(plan))).toBe(`${words} and 2 more changes`),
);

it("no kind of change and no table is without words of its own", () => {
  type Option = { readonly shape: object } | { readonly options: readonly Option[] };
  const flat = (each: Option): readonly { shape: object }[] =>
    "options" in each ? each.options.flatMap(flat) : [each];
  const options = flat(changeSchema as unknown as Option);
  expect(options.length).toBeGreaterThan(40);
  for (const { shape } of options) {
    const { type, table } = shape as { type: { value: string }; table?: { value?: string; options?: string[] } };
    const tables = table?.value === undefined ? (table?.options ?? [undefined]) : [table.value];
    for (const of of tables) {
      const names = { activity: "dig", person: "ann", name: "n", from: "dig", to: "pour" };
      const change = {
        ...names,
        type: type.value,
        table: of,
        key: "none",
        assignment: "none",
        date: null,
        wish: null,
        minutes: 1,
        set: { note: 1 },
        row: names,
        entry: names,
        cost: names,
        baseline: { number: 1 },
      };
      expect(changeWords([change as never], namesIn(plan))).not.toMatch(/^Change$|undefined|\bnone\b.*none/);
    }
  }
  for (const table of PLAN_TABLES) expect(describePath(plan, `${table}/x`)).not.toMatch(/\bx\b(?!$)|undefined/);
});
