import { expect, test } from "@playwright/test";
import { drag, fileOf, planCell, projectId, signIn, typeInto } from "./helpers.ts";

test("a cell is changed in place: dates move at once, it is saved, undone and redone", async ({ page }) => {
  await signIn(page, "tomas");
  await page.goto(`/projects/${await projectId(page, "LG-03")}/plan`);
  const toTheEnd = async (): Promise<void> => {
    await page.getByRole("treegrid", { name: "Plan" }).getByRole("rowheader").first().click();
    await page.keyboard.press("Control+End");
  };
  await toTheEnd();
  const finish = await planCell(page, "Handed over", "Finishes");
  const before = await finish.textContent();
  const length = await planCell(page, "Deliver, training", "Duration");
  const was = await length.textContent();
  await length.dblclick();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("30d");
  await page.keyboard.press("Enter");
  await expect(length).toHaveText("30 d");
  await expect(finish).not.toHaveText(before!);
  const moved = await finish.textContent();
  await expect(page.getByRole("status").filter({ hasText: "All is saved" })).toBeVisible();
  await expect(page.getByText(/Moved .* the project now finishes/)).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(length).toHaveText(was!);
  await expect(finish).toHaveText(before!);
  await page.keyboard.press("Control+y");
  await expect(finish).toHaveText(moved!);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(finish).toHaveText(before!);
  await expect(page.getByRole("status").filter({ hasText: "All is saved" })).toBeVisible();
  await page.reload();
  await toTheEnd();
  await expect(await planCell(page, "Handed over", "Finishes")).toHaveText(before!);
});

test("the data date is moved from the plan: what is left is laid out from it, and undo puts it back", async ({
  page,
}) => {
  await signIn(page, "wanjiru");
  await page.goto(`/projects/${await projectId(page, "FS-04")}/plan`);
  const field = page.getByLabel("Data date");
  await expect(field).toHaveValue("27 Nov 2026");
  const finish = page.getByText(/finishes \d+ \w+ 2027/).first();
  const before = await finish.textContent();
  await field.fill("11 Dec 2026");
  await field.press("Enter");
  await expect(page.getByRole("status").filter({ hasText: "All is saved" })).toBeVisible();
  await expect(page.getByText(/Moved .* the project now finishes/)).toBeVisible();
  await expect(finish).not.toHaveText(before!);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(field).toHaveValue("27 Nov 2026");
  await expect(finish).toHaveText(before!);
});

test("a bad cell says so in place and keeps what was typed; Escape leaves it as it was", async ({ page }) => {
  await signIn(page, "tomas");
  await page.goto(`/projects/${await projectId(page, "LG-03")}/plan`);
  const cell = await planCell(page, "Survey, pivot", "Duration");
  const was = await cell.textContent();
  await cell.dblclick();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("soon");
  await page.keyboard.press("Enter");
  await expect(cell.getByRole("alert")).toHaveText("Write a duration as 3d, 2.5d, 4h, 2w or 2d4h.");
  await expect(cell.getByRole("textbox")).toHaveValue("soon");
  await page.keyboard.press("Escape");
  await expect(cell).toHaveText(was!);
  const done = await planCell(page, "Survey, pivot", "Percent done");
  await done.dblclick();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("140");
  await page.keyboard.press("Enter");
  await expect(done.getByRole("alert")).toHaveText("Percent lies between 0 and 100.");
  await page.keyboard.press("Escape");
});

test("the whole plan is walked by keyboard, folded and unfolded", async ({ page }) => {
  await signIn(page, "tomas");
  await page.goto(`/projects/${await projectId(page, "LG-03")}/plan`);
  const grid = page.getByRole("treegrid", { name: "Plan" });
  const rows = Number(await grid.getAttribute("aria-rowcount"));
  await grid.getByRole("rowheader").first().click();
  await page.keyboard.press("Alt+ArrowLeft");
  await expect.poll(async () => Number(await grid.getAttribute("aria-rowcount"))).toBeLessThan(rows);
  await page.keyboard.press("Alt+ArrowRight");
  await expect.poll(async () => Number(await grid.getAttribute("aria-rowcount"))).toBe(rows);
  for (let i = 0; i < 3; i++) await page.keyboard.press("ArrowDown");
  await page.keyboard.press("ArrowRight");
  await expect(page.locator(":focus")).toHaveAttribute("aria-colindex", "2");
  await page.keyboard.press("Control+End");
  await expect(grid.getByRole("row").filter({ has: page.locator(":focus") })).toHaveAttribute(
    "aria-rowindex",
    String(rows),
  );
});

test("columns are put elsewhere and made wider by dragging, and are so for this person anywhere", async ({
  page,
  browser,
}) => {
  await signIn(page, "radu");
  const address = `/projects/${await projectId(page, "FS-01")}/plan`;
  await page.goto(address);
  const head = (name: string, who = page) => who.getByRole("columnheader", { name, exact: true });
  const order = async (who = page): Promise<string[]> =>
    (await who.getByRole("columnheader").allTextContents()).slice(0, 4);
  await expect(head("Duration")).toBeVisible();
  const width = (await head("Activity").boundingBox())!;
  const edge = { x: width.x + width.width, y: width.y + 8 };
  await (
    await drag(page, edge, { x: edge.x + 80, y: edge.y })
  )();
  await expect.poll(async () => Math.round((await head("Activity").boundingBox())!.width - width.width)).toBe(80);
  const [from, to] = [(await head("Finishes").boundingBox())!, (await head("Duration").boundingBox())!];
  await (
    await drag(page, { x: from.x + 20, y: from.y + 8 }, { x: to.x + 20, y: to.y + 8 })
  )();
  await expect.poll(() => order()).toEqual(["Activity", "Finishes", "Duration", "Percent done"]);
  await page.waitForResponse((response) => response.url().includes("/api/preferences/"));
  const elsewhere = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  await signIn(elsewhere, "radu");
  await elsewhere.goto(address);
  await expect.poll(() => order(elsewhere)).toEqual(["Activity", "Finishes", "Duration", "Percent done"]);
  expect(Math.round((await head("Activity", elsewhere).boundingBox())!.width - width.width)).toBe(80);
  await elsewhere.context().close();
});

test("the chart shows the approved window or not, lights up what leads to a milestone, and a link leads to the same picture", async ({
  page,
}) => {
  await signIn(page, "ines");
  await page.goto(`/projects/${await projectId(page, "SW-04")}/plan?at=A0020`);
  const brackets = page.locator('[role=row] svg path[fill="none"][stroke="var(--ink)"]');
  await expect.poll(() => brackets.count()).toBeGreaterThan(5);
  await page.getByText("Chart", { exact: true }).click();
  await page.getByLabel("Approved window").selectOption("none");
  await expect(brackets).toHaveCount(0);
  await page.getByText("Chart", { exact: true }).click();
  await page.getByRole("rowheader", { name: "Consents in hand", exact: true }).click();
  await page.getByText("Chart", { exact: true }).click();
  await page.getByLabel("Lit up").selectOption({ label: "what leads to Consents in hand" });
  const lit = page.locator('[role=row] svg > g[opacity="1"]');
  const back = page.locator('[role=row] svg > g[opacity="0.28"]');
  await expect.poll(() => back.count()).toBeGreaterThan(5);
  const count = await lit.count();
  expect(count).toBeGreaterThan(3);
  await page.goto(page.url());
  await expect(back.first()).toBeVisible();
  await expect(brackets).toHaveCount(0);
  await expect.poll(() => lit.count()).toBe(count);
});

test("two people on one plan see each other and each other's changes arrive", async ({ page, browser }) => {
  await signIn(page, "ines");
  const address = `/projects/${await projectId(page, "LG-07")}/plan`;
  const other = await (await browser.newContext()).newPage();
  await signIn(other, "wanjiru");
  await Promise.all([page.goto(address), other.goto(address)]);
  await other.getByRole("rowheader", { name: "Survey, pumps", exact: true }).click();
  await expect(page.getByRole("list", { name: "Also here" })).toContainText("Wanjiru Castell at Survey, pumps");
  await typeInto(other, "Survey, pumps", "Deadline", "2027-05-03");
  await expect(await planCell(page, "Survey, pumps", "Deadline")).toHaveText("3 May 2027");
  await expect(page.getByText("Wanjiru Castell changed the plan just now.")).toBeVisible();
  await other.context().close();
  await expect(page.getByRole("list", { name: "Also here" })).toBeHidden();
});

test("nine pages of one browser, more than it has connections, all open, hear of others and are told of once each", async ({
  page,
  browser,
}) => {
  test.setTimeout(120_000);
  await signIn(page, "ines");
  const address = `/projects/${await projectId(page, "LG-07")}/plan`;
  const pages = [page, ...(await Promise.all(Array.from({ length: 8 }, () => page.context().newPage())))];
  for (const each of pages) {
    await each.goto(address);
    await expect(each.getByRole("rowheader", { name: "Survey, pumps" })).toBeVisible();
  }
  const other = await (await browser.newContext()).newPage();
  await signIn(other, "wanjiru");
  await other.goto(address);
  await expect(other.getByRole("list", { name: "Also here" }).getByRole("listitem")).toHaveCount(9);
  await typeInto(other, "Survey, pumps", "Deadline", "2027-05-06");
  for (const each of pages) await expect(await planCell(each, "Survey, pumps", "Deadline")).toHaveText("6 May 2027");
  await Promise.all(pages.slice(1).map((each) => each.close()));
  await expect(other.getByRole("list", { name: "Also here" }).getByRole("listitem")).toHaveCount(1);
  await other.context().close();
});

test("two people change one plan at once without hearing of each other: different rows merge, the same field tells the second one both values", async ({
  page,
  browser,
}) => {
  await signIn(page, "ines");
  const address = `/projects/${await projectId(page, "LG-07")}/plan`;
  const other = await (await browser.newContext()).newPage();
  // Their line for news is down.
  for (const each of [page, other]) {
    await each.addInitScript("delete window.SharedWorker");
    await each.route("**/api/news?*", (route) => route.abort());
  }
  await signIn(other, "wanjiru");
  await Promise.all([page.goto(address), other.goto(address)]);
  await typeInto(page, "Survey, pumps", "Deadline", "2027-05-05");
  await typeInto(other, "Drawings, pumps", "Deadline", "4 May 2027");
  await expect(other.getByText("Changes of others came in with yours.")).toBeVisible();
  await expect(await planCell(other, "Survey, pumps", "Deadline")).toHaveText("5 May 2027");
  const cell = await planCell(page, "Drawings, pumps", "Deadline");
  await cell.dblclick();
  await page.keyboard.type("2027-06-01");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText("Wanjiru Castell wrote 4 May 2027");
  await expect(page.getByRole("alert")).toContainText("you wrote 1 Jun 2027");
  await expect(cell).toHaveText("4 May 2027");
  await other.context().close();
});

test("10 000 rows are read in, and only those in sight are drawn", async ({ page }) => {
  test.setTimeout(120_000);
  await signIn(page, "ines");
  const activities = Array.from({ length: 10_000 }, (_, i) => ({
    id: `a${i}`,
    name: `Pile ${i}`,
    durationMinutes: 480 * (1 + (i % 5)),
    ...(i % 10 === 0 ? {} : { calendar: "std" }),
  }));
  const links = activities.slice(1).map(({ id }, i) => ({ from: `a${i}`, to: id, type: "SS", lagMinutes: 60 }));
  const bundle = {
    format: "chronometra-plan",
    version: 1,
    project: { code: "BIG-1", name: "Ten thousand piles", currency: "EUR", start: "2026-03-02", calendar: "std" },
    calendars: [{ id: "std", name: "Standard", week: { mon: [["08:00", "16:00"]], tue: [["08:00", "16:00"]] } }],
    activities,
    links,
  };
  await page.goto("/import");
  await page.getByLabel("Files to bring").setInputFiles(fileOf("piles.json", JSON.stringify(bundle)));
  await expect(page.getByText("Understood: 10 000 activities")).toBeVisible({ timeout: 60_000 });
  await page.getByRole("button", { name: "Store as a new project" }).click();
  const grid = page.getByRole("treegrid", { name: "Plan" });
  await expect(grid).toHaveAttribute("aria-rowcount", "10001", { timeout: 60_000 });
  expect(await grid.getByRole("row").count()).toBeLessThan(80);
  await grid.getByRole("rowheader").first().click();
  await page.keyboard.press("Control+End");
  await expect(grid.getByRole("rowheader", { name: "Pile 9999" })).toBeVisible();
  expect(await grid.getByRole("row").count()).toBeLessThan(80);
});
