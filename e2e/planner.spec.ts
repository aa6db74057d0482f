import { expect, test, type Page } from "@playwright/test";
import { drag, planCell, planText, projectId, saved, showColumns, signIn } from "./helpers.ts";

const names = (page: Page): Promise<string[]> => page.getByRole("rowheader").allTextContents();

test("a plan is built from nothing without the mouse: names, lengths, branches, links", async ({ page }) => {
  await signIn(page, "tomas");
  await page.goto("/begin");
  await page.getByLabel("Code").fill("HM-01");
  await page.getByLabel("Name", { exact: true }).fill("Harbour mast");
  await page.getByLabel("Starts").fill("1 Mar 2027");
  await page.getByLabel("Starts").press("Enter");
  await expect(page.getByText("This plan has no activities yet.")).toBeVisible();
  await page.getByRole("button", { name: "Type the first activity" }).press("Enter");
  await expect(page.getByRole("textbox", { name: "Activity of First activity" })).toBeFocused();
  // Typed as fast as keys can be pressed: no row is waited for.
  for (const name of ["Foundation", "Dig", "Cast", "Mast", "Erect", "Wire"]) {
    await page.keyboard.type(name);
    await page.keyboard.press("Enter");
  }
  await expect(page.getByRole("textbox", { name: "Activity of New activity" })).toBeVisible();
  for (const name of ["Foundation", "Dig", "Cast", "Mast", "Erect", "Wire"])
    await expect(page.getByRole("rowheader", { name, exact: true })).toBeVisible();
  // The row that nothing is typed into goes again, and so does a key that was meant for it.
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+Delete");
  await expect(page.getByRole("rowheader", { name: "New activity" })).toBeHidden();
  await expect(page.getByRole("rowheader", { name: "Wire" })).toBeVisible();

  // Dig and Cast below Foundation, Erect and Wire below Mast: two rows chosen, one step in.
  await page.keyboard.press("Control+Home");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Alt+.");
  await expect(page.getByRole("row", { name: /Dig/ })).toHaveAttribute("aria-level", "2");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Alt+.");
  await expect(page.getByRole("row", { name: /Wire/ })).toHaveAttribute("aria-level", "2");
  expect(await names(page)).toEqual(["Foundation", "Dig", "Cast", "Mast", "Erect", "Wire"]);

  // What has no dates yet is in sight, one click from its length.
  const shelf = page.getByRole("region", { name: "Without dates" });
  await expect(shelf).toContainText("4 in all");
  await page.keyboard.press("Control+Home");
  for (const step of ["ArrowDown", "ArrowRight"]) await page.keyboard.press(step);
  for (const length of ["3d", "2d"]) {
    await page.keyboard.type(length);
    await page.keyboard.press("Enter");
  }
  await page.keyboard.press("ArrowDown");
  for (const length of ["1w", "4h"]) {
    await page.keyboard.type(length);
    await page.keyboard.press("Enter");
  }
  await saved(page);
  await expect(shelf).toBeHidden();
  await expect(await planCell(page, "Mast", "Finishes")).toHaveText("5 Mar 2027");

  await showColumns(page, "Predecessors");
  const link = async (activity: string, text: string): Promise<void> => {
    const cell = await planCell(page, activity, "Predecessors");
    await cell.dblclick();
    await page.keyboard.type(text);
    await page.keyboard.press("Enter");
  };
  await link("Cast", "dig");
  await link("Erect", "cast + 2d");
  await link("Wire", "with erect");
  await saved(page);
  await expect(await planCell(page, "Erect", "Predecessors")).toHaveText("Cast + 2d");
  await expect(await planCell(page, "Mast", "Finishes")).toHaveText("16 Mar 2027");
  await page.getByRole("button", { name: "About" }).click();
  await page.getByRole("rowheader", { name: "Erect", exact: true }).click();
  const why = page.getByRole("region", { name: "About the activity" });
  await expect(why).toContainText("after Cast, which finishes 5 Mar 2027, + 2 d, in the calendar Standard week");
  await expect(why).toContainText("The whole way: Dig → Cast → Erect");
  await expect(why).toContainText("Wire starts no earlier than it does");
  await why.getByRole("button", { name: "Close" }).click();
  await link("Dig", "wire");
  await expect(page.getByRole("alert")).toContainText("the links form a loop: Cast → Erect → Wire → Dig → Cast");
  await link("Dig", "weld");
  await expect(page.getByRole("alert")).toContainText("There is no activity “weld”");
  await page.getByRole("button", { name: "Give it up" }).click();
  await expect(await planCell(page, "Dig", "Predecessors")).toHaveText("");
  await page.reload();
  await expect(page.getByRole("rowheader", { name: "Wire", exact: true })).toBeVisible();
});

test("500 rows pasted, linked by typing and by drawing, moved and stretched in the chart, put elsewhere: all undone, the plan is exactly as before", async ({
  page,
  context,
}) => {
  test.setTimeout(120_000);
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await signIn(page, "ines");
  const id = await projectId(page, "SW-05");
  await page.goto(`/projects/${id}/plan`);
  const grid = page.getByRole("treegrid", { name: "Plan" });
  await expect(grid).toBeVisible();
  const before = await planText(page, id);
  const rows = Number(await grid.getAttribute("aria-rowcount"));
  await page.evaluate(
    (text) => navigator.clipboard.writeText(text),
    Array.from({ length: 500 }, (_, i) => `Sample ${i + 1}\t${3 + (i % 5)}d`).join("\n"),
  );
  await grid.getByRole("rowheader").first().click();
  await page.keyboard.press("Control+End");
  await page.keyboard.press("Home");
  await page.keyboard.press("Control+Enter");
  await expect(page.getByRole("textbox", { name: "Activity of New activity" })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Control+v");
  await expect(grid).toHaveAttribute("aria-rowcount", String(rows + 500));
  await saved(page);
  await page.keyboard.press("Control+End");
  await expect(await planCell(page, "Sample 500", "Duration")).toHaveText("7 d");

  const lane = async (name: string): Promise<{ x: number; y: number; width: number }> =>
    (await page
      .getByRole("row")
      .filter({ has: page.getByRole("rowheader", { name, exact: true }) })
      .locator('svg rect[fill="var(--band)"]')
      .boundingBox())!;
  /** Where a lane is once it stays there. */
  const resting = async (name: string) => {
    let last = "";
    await expect
      .poll(
        async () => {
          const [was, now] = [last, JSON.stringify(await lane(name))];
          last = now;
          return was === now;
        },
        { intervals: [300] },
      )
      .toBe(true);
    return lane(name);
  };
  const note = page.getByText("Escape cancels.");
  const drop = async (from: { x: number; y: number }, to: { x: number; y: number }, says: RegExp): Promise<void> => {
    const letGo = await drag(page, from, to);
    await expect(page.getByRole("status").filter({ has: note })).toContainText(says);
    await letGo();
    await expect(note).toBeHidden();
    await saved(page);
  };
  await showColumns(page, "Predecessors");
  const after = await planCell(page, "Sample 500", "Predecessors");
  await after.dblclick();
  await page.keyboard.type("Sample 49");
  // Completed by name: the arrow chooses, Enter takes it, and Enter enters it.
  await expect(page.getByRole("listbox").getByRole("option").first()).toHaveText("Sample 490");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await page.keyboard.type(" + 1d");
  await page.keyboard.press("Enter");
  await expect(after).toHaveText("Sample 490 + 1d");
  await saved(page);
  // To where a day is wide enough to be met by the pointer.
  for (let i = 0; i < 3; i++) await page.getByRole("button", { name: "Show less time, larger" }).click();
  await grid.getByRole("rowheader", { name: "Sample 499", exact: true }).click();
  await page.getByRole("button", { name: "To its start" }).click();
  // Stretched first, while it lies well before the winter closure, in which a longer bar would hold no more work.
  const one = await resting("Sample 498");
  await drop(
    { x: one.x + one.width - 2, y: one.y + 3 },
    { x: one.x + one.width + 48, y: one.y + 3 },
    /Sample 498 takes/,
  );
  await expect.poll(async () => (await lane("Sample 498")).width).toBeGreaterThan(one.width + 4);
  const wide = await resting("Sample 498");
  await drop(
    { x: wide.x + wide.width / 2, y: wide.y + 3 },
    { x: wide.x + wide.width / 2 + 60, y: wide.y + 3 },
    /A date wish: Sample 498 not before/,
  );
  await expect.poll(async () => (await lane("Sample 498")).x).toBeGreaterThan(wide.x + 30);
  const long = await resting("Sample 498");
  const other = await resting("Sample 497");
  await drop(
    { x: long.x + long.width + 7, y: long.y + 3 },
    { x: other.x + 4, y: other.y + 3 },
    /Sample 497 starts after Sample 498 finishes/,
  );
  await expect(await planCell(page, "Sample 497", "Predecessors")).toHaveText("Sample 498");
  await saved(page);
  // A drag left with Escape changes nothing.
  const still = await planText(page, id);
  const letGo = await drag(page, { x: long.x + 20, y: long.y + 3 }, { x: long.x + 90, y: long.y + 3 });
  await expect(note).toBeVisible();
  await page.keyboard.press("Escape");
  await letGo();
  expect(await planText(page, id)).toBe(still);
  // The row is put three rows up by its grip.
  await grid.getByRole("rowheader", { name: "Sample 500", exact: true }).click();
  const grip = (await page
    .getByRole("row")
    .filter({ has: page.getByRole("rowheader", { name: "Sample 500", exact: true }) })
    .getByTitle("Drag the row elsewhere")
    .boundingBox())!;
  const target = (await grid.getByRole("rowheader", { name: "Sample 497", exact: true }).boundingBox())!;
  await (
    await drag(page, { x: grip.x + 5, y: grip.y + 8 }, { x: target.x + 40, y: target.y + 2 })
  )();
  await expect
    .poll(async () => (await names(page)).indexOf("Sample 500") - (await names(page)).indexOf("Sample 497"))
    .toBe(-1);
  await saved(page);

  // What was done can be taken back after the page was left, too.
  await page.reload();
  await expect(grid.getByRole("rowheader").first()).toBeVisible();
  await expect(page.getByRole("button", { name: "Undo" })).toBeEnabled();
  for (const undo = page.getByRole("button", { name: "Undo" }); await undo.isEnabled();) {
    await undo.click();
    await saved(page);
  }
  await expect(grid).toHaveAttribute("aria-rowcount", String(rows));
  expect(await planText(page, id)).toBe(before);
});

test("whole rows are copied within the plan and into another, cut and put back with all that hangs on them", async ({
  page,
  context,
}) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await signIn(page, "ines");
  const [from, to] = [await projectId(page, "SW-05"), await projectId(page, "LG-07")];
  await page.goto(`/projects/${from}/plan`);
  const grid = page.getByRole("treegrid", { name: "Plan" });
  const before = await planText(page, from);
  const rows = Number(await grid.getAttribute("aria-rowcount"));
  await grid.getByRole("rowheader", { name: "Survey, buoys", exact: true }).click();
  await page.keyboard.press("Shift+Space");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Control+x");
  await expect(grid).toHaveAttribute("aria-rowcount", String(rows - 2));
  await page.keyboard.press("Control+v");
  await expect(grid).toHaveAttribute("aria-rowcount", String(rows));
  await saved(page);
  const back = JSON.parse(await planText(page, from)) as Record<string, [string, object][]>;
  const was = JSON.parse(before) as typeof back;
  const sorted = (list: [string, object][]): string[] => list.map(([, row]) => JSON.stringify(row)).sort();
  for (const table of ["activities", "links", "assignments", "costs"])
    expect([table, sorted(back[table]!)]).toEqual([table, sorted(was[table]!)]);
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await saved(page);
  expect(await planText(page, from)).toBe(before);

  await grid.getByRole("rowheader", { name: "Survey, buoys", exact: true }).click();
  await page.keyboard.press("Shift+Space");
  await page.keyboard.press("Control+c");
  await expect(page.getByText(/^1 row copied/)).toBeVisible();
  await page.goto(`/projects/${to}/plan`);
  await expect(grid).toBeVisible();
  const there = Number(await grid.getAttribute("aria-rowcount"));
  await grid.getByRole("rowheader").first().click();
  await page.keyboard.press("Control+v");
  await expect(grid).toHaveAttribute("aria-rowcount", String(there + 1));
  await saved(page);
  await page.keyboard.press("Control+f");
  await page.getByRole("textbox", { name: "Find", exact: true }).fill("survey, buoys");
  await page.getByRole("textbox", { name: "Find", exact: true }).press("Enter");
  await expect(page.getByRole("search").getByRole("status")).toHaveText("1 of 1");
  await page.getByLabel("Replace by").fill("Survey, moorings");
  await page.getByRole("button", { name: "Replace all" }).click();
  await expect(grid.getByRole("rowheader", { name: "Survey, moorings" })).toBeVisible();
});

test("work is put on an activity: people in words and in the panel, costs, credit, a wish, own fields; the branch adds up as one types", async ({
  page,
}) => {
  await signIn(page, "ines");
  const id = await projectId(page, "SW-05");
  await page.goto(`/projects/${id}/resources?part=fields`);
  await page.getByLabel("Add a field").fill("Zone: North, South");
  await page.getByLabel("Add a field").press("Enter");
  await expect(page.getByLabel("Name of Zone")).toBeVisible();
  await page.goto(`/projects/${id}/plan`);
  await showColumns(page, "People", "Planned cost", "Zone");
  const budget = async (name: string): Promise<number> =>
    Number((await (await planCell(page, name, "Planned cost")).textContent())!.replace(/\D/g, ""));
  const type = async (name: string, column: string, text: string): Promise<void> => {
    await (await planCell(page, name, column)).dblclick();
    await page.keyboard.press("Control+A");
    await page.keyboard.type(text);
    await page.keyboard.press("Enter");
  };
  await expect(await planCell(page, "Survey, buoys", "Planned cost")).toBeVisible();
  const [own, branch] = [await budget("Survey, buoys"), await budget("Design and consents")];
  await page.getByRole("rowheader", { name: "Survey, buoys", exact: true }).click();
  await page.keyboard.press("Alt+Enter");
  const about = page.getByRole("region", { name: "About the activity" });
  await about.getByLabel("Add a cost", { exact: true }).fill("Boat hire 1200.50");
  await about.getByLabel("Add a cost", { exact: true }).press("Enter");
  await expect(about.getByLabel("Amount of Boat hire")).toHaveValue("1200.50");
  expect(
    [(await budget("Survey, buoys")) - own, (await budget("Design and consents")) - branch].map(
      (difference) => Math.abs(difference - 1200.5) <= 1,
    ),
  ).toEqual([true, true]);
  await about.getByLabel("Add someone").fill("Nobody Atall 4h");
  await about.getByLabel("Add someone").press("Enter");
  await expect(about.getByRole("alert")).toContainText("nobody called “Nobody Atall”");
  await about.getByLabel("Add someone").press("Escape");
  const { people } = JSON.parse(await planText(page, id)) as { people: [string, { name: string }][] };
  const { name } = people.at(-1)![1];
  await type("Survey, buoys", "People", `${name.toLowerCase()} 8 at 50%`);
  await expect(await planCell(page, "Survey, buoys", "People")).toHaveText(`${name} 8h at 50%`);
  await page.getByRole("rowheader", { name: "Survey, buoys", exact: true }).click();
  await expect(about.getByLabel(`Share of ${name}`)).toHaveValue("50%");
  await type("Survey, buoys", "Zone", "no");
  await expect(await planCell(page, "Survey, buoys", "Zone")).toHaveText("North");
  await page.getByText("Chart", { exact: true }).click();
  await page.getByLabel("Coloured by").selectOption({ label: "Zone" });
  await expect(page.getByRole("list", { name: "Colours of Zone" })).toContainText("North");
  await page.getByText("Chart", { exact: true }).click();
  await page.getByRole("rowheader", { name: "Survey, buoys", exact: true }).click();
  await about.getByRole("tab", { name: "Rule of credit" }).click();
  await about.getByLabel("Its budget is earned by").selectOption("steps");
  await about.getByLabel("Add a step").fill("Report written");
  await about.getByLabel("Add a step").press("Enter");
  await about.getByLabel("Weight of Report written").fill("3");
  await about.getByLabel("Weight of Report written").press("Enter");
  await expect(about.getByRole("row").filter({ has: page.getByLabel("Weight of Report written") })).toContainText(
    "75%",
  );
  await about.getByRole("tab", { name: "Dates and owner" }).click();
  await about.getByLabel("Date wished for").fill("1 Feb 2027");
  await about.getByLabel("Date wished for").press("Enter");
  await about.getByLabel("Reason of the date wish").fill("ice is gone");
  await about.getByLabel("Reason of the date wish").press("Enter");
  await saved(page);
  await about.getByRole("tab", { name: "Why" }).click();
  await expect(about).toContainText("wished not to start before 1 Feb 2027: “ice is gone”");
  const [row] = (
    JSON.parse(await planText(page, id)) as { activities: [string, { name: string; credit: object; wish: object }][] }
  ).activities.filter(([, { name }]) => name === "Survey, buoys");
  expect(row![1]).toMatchObject({
    credit: { rule: "steps", steps: [{ weight: 1 }, { name: "Report written", weight: 3 }] },
    wish: { type: "startNotBefore", date: "2027-02-01", reason: "ice is gone" },
  });
});

test("a step is parked with its logic carried across, kept out of sight or alone in sight, and woken as it was", async ({
  page,
}) => {
  await signIn(page, "ines");
  const id = await projectId(page, "FS-06");
  await page.goto(`/projects/${id}/plan`);
  const grid = page.getByRole("treegrid", { name: "Plan" });
  await expect(grid).toBeVisible();
  const before = JSON.parse(await planText(page, id)) as Record<
    string,
    [string, { name?: string; kind?: string; parked?: boolean; actualStart?: string; from?: string; to?: string }][]
  >;
  const links = before["links"]!.map(([, link]) => link);
  const [step, { name }] = before["activities"]!.findLast(
    ([key, { kind, parked, actualStart }]) =>
      kind === undefined &&
      parked !== true &&
      actualStart === undefined &&
      links.some(({ to }) => to === key) &&
      links.some(({ from }) => from === key),
  )!;
  await page.goto(`/projects/${id}/plan?at=${step}`);
  const row = grid.getByRole("rowheader", { name: name!, exact: true });
  // The address has chosen it; clicking before it has come into sight would make the page scroll from two sides.
  await expect(row).toBeInViewport();
  await expect(grid.locator("[role=row][aria-selected=true]")).toContainText(name!);
  await page.getByRole("button", { name: "Park: keep it, and let it count for nothing" }).click();
  const dialog = page.getByRole("dialog", { name: "Parking breaks chains of links" });
  await expect(dialog.getByRole("listitem").first()).toContainText(`→ ${name} →`);
  await expect(dialog.getByText(/activit(y|ies) move/)).toHaveCount(2);
  await dialog.getByRole("button", { name: "Carry the logic across" }).click();
  await expect(await planCell(page, name!, "Finishes")).toHaveText("parked");
  await saved(page);
  const parked = JSON.parse(await planText(page, id)) as typeof before;
  expect(parked["links"]!.length).toBeGreaterThan(before["links"]!.length);
  await page.getByLabel("Parked rows").selectOption("without");
  await expect(row).toBeHidden();
  await page.getByLabel("Parked rows").selectOption("only");
  await row.click();
  await page.getByRole("button", { name: "Wake: let it count again" }).click();
  await saved(page);
  await page.goto(`/projects/${id}/plan?at=${step}`);
  await expect(await planCell(page, name!, "Finishes")).not.toHaveText("parked");
  expect(JSON.parse(await planText(page, id))).toEqual(before);
});

test("cells are copied as a spreadsheet wants them, filled down and cleared; what cannot be is told and changes nothing", async ({
  page,
  context,
}) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await signIn(page, "ines");
  await page.goto(`/projects/${await projectId(page, "SW-05")}/plan`);
  const first = await planCell(page, "Survey, buoys", "Duration");
  const was = await first.textContent();
  await first.click();
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Control+c");
  expect((await page.evaluate(() => navigator.clipboard.readText())).split("\n")).toHaveLength(2);
  await page.keyboard.press("Control+d");
  await expect(await planCell(page, "Drawings, buoys", "Duration")).toHaveText(was!);
  await page.keyboard.press("Control+z");
  await page.evaluate(() => navigator.clipboard.writeText("soon\n2d"));
  await first.click();
  await page.keyboard.press("Control+v");
  await expect(page.getByText(/Duration of “Survey, buoys”: Write a duration/)).toBeVisible();
  await expect(first).toHaveText(was!);
  await first.click();
  await page.keyboard.press("Delete");
  await expect(first).toHaveText("");
  await page.keyboard.press("Control+z");
  await expect(first).toHaveText(was!);
});
