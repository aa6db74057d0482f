import { expect, test, type Page } from "@playwright/test";
import { planCell, planText, saved, signIn } from "./helpers.ts";

/** Begins a plan of its own with rows of some names; gives its id. */
async function beginPlan(page: Page, code: string, names: readonly string[]): Promise<string> {
  await page.goto("/begin");
  await page.getByLabel("Code").fill(code);
  await page.getByLabel("Name", { exact: true }).fill(`Plan ${code}`);
  await page.getByLabel("Starts").fill("1 Mar 2027");
  await page.getByLabel("Starts").press("Enter");
  await page.getByRole("button", { name: "Type the first activity" }).press("Enter");
  await expect(page.getByRole("textbox", { name: "Activity of First activity" })).toBeFocused();
  for (const name of names) {
    await page.keyboard.type(name);
    await page.keyboard.press("Enter");
  }
  await page.keyboard.press("Escape");
  await saved(page);
  return /projects\/([^/]+)/.exec(page.url())![1]!;
}

/** Ends the session behind the page's back, as signing out in another window does. */
const endSession = (page: Page): Promise<void> =>
  page.evaluate(async () => {
    const { token } = (await (await fetch("/api/session")).json()) as { token: string };
    await fetch("/api/session", { method: "DELETE", headers: { "x-chronometra-token": token } });
  });

const rowsOf = (page: Page): Promise<string[]> => page.getByRole("rowheader").allTextContents();
const header = (page: Page, name: string) => page.getByRole("rowheader", { name, exact: true });

test("what is typed at machine speed lands where it was meant: names, Escape, Ctrl+Delete without a pause", async ({
  page,
}) => {
  await signIn(page, "tomas");
  const names = Array.from({ length: 12 }, (_, i) => `Step ${i + 1}`);
  await beginPlan(page, "NL-1", names);
  expect(await rowsOf(page)).toEqual(names);
  await page.keyboard.press("Control+Home");
  // A row in the middle is made, named and left, the one before it removed, all in one go.
  for (const key of [
    "ArrowDown",
    "Control+Enter",
    "M",
    "i",
    "d",
    "Enter",
    "ArrowUp",
    "ArrowUp",
    "Control+Delete",
    "F2",
    "End",
    "!",
    "Enter",
  ])
    await page.keyboard.press(key);
  await saved(page);
  await expect.poll(() => rowsOf(page)).toEqual(["Step 1", "Mid!", ...names.slice(2)]);
});

test("whoever types in a row types in that row, whatever someone else does above it; removed, the text stays in sight", async ({
  page,
  browser,
}) => {
  await signIn(page, "tomas");
  const id = await beginPlan(page, "NL-2", ["Dig", "Pour", "Strip", "Paint"]);
  const other = await (await browser.newContext()).newPage();
  await signIn(other, "ines");
  await other.goto(`/projects/${id}/plan`);
  await header(page, "Strip").dblclick();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("Strip for");
  // Two rows come above and one goes.
  await header(other, "Dig").click();
  for (const name of ["Survey", "Fence"]) {
    await other.keyboard.press("Control+Enter");
    await other.keyboard.type(name);
    await other.keyboard.press("Enter");
  }
  await header(other, "Pour").click();
  await other.keyboard.press("Control+Delete");
  await expect(header(other, "Pour")).toBeHidden();
  await expect(header(page, "Fence")).toBeVisible();
  await expect(header(page, "Pour")).toBeHidden();
  await page.keyboard.type("ms");
  await page.keyboard.press("Enter");
  await expect(header(other, "Strip forms")).toBeVisible();
  expect((await rowsOf(other)).toSorted()).toEqual(["Dig", "Fence", "Paint", "Strip forms", "Survey"]);

  await header(page, "Paint").dblclick();
  await page.keyboard.press("Control+A");
  await page.keyboard.type("Paint the hu");
  await header(other, "Paint").click();
  await other.keyboard.press("Control+Delete");
  const lost = page.getByRole("textbox", { name: "What you were typing" });
  await expect(lost).toHaveValue("Paint the hu");
  await expect(page.getByText("“Paint” was removed by Ines Okafor.")).toBeVisible();
  await page.keyboard.type("ll");
  await expect(lost).toHaveValue("Paint the hull");
  await page.getByRole("button", { name: "Discard it" }).click();
  await expect(lost).toBeHidden();
  await saved(page);
  await expect.poll(async () => (await rowsOf(page)).toSorted()).toEqual(["Dig", "Fence", "Strip forms", "Survey"]);

  // Nobody's row: keys mean nothing until another is gone to.
  await header(page, "Strip forms").click();
  await header(other, "Strip forms").click();
  await other.keyboard.press("Control+Delete");
  await expect(page.getByText("“Strip forms”, where you stood, was removed by Ines Okafor.")).toBeVisible();
  await page.keyboard.type("Oops");
  await page.keyboard.press("Enter");
  await page.keyboard.press("ArrowUp");
  await saved(page);
  expect((await rowsOf(page)).toSorted()).toEqual(["Dig", "Fence", "Survey"]);
  await other.context().close();
});

test("what the plan refuses stays in its own cell until it is mended or given up, wherever the keyboard goes", async ({
  page,
}) => {
  await signIn(page, "tomas");
  await beginPlan(page, "NL-3", ["Dig", "Pour", "Strip"]);
  for (const [name, length] of [
    ["Dig", "3d"],
    ["Pour", "2d"],
  ] as const) {
    await (await planCell(page, name, "Duration")).click();
    await page.keyboard.type(length);
    await page.keyboard.press("Enter");
  }
  const length = await planCell(page, "Strip", "Duration");
  await (await planCell(page, "Pour", "Duration")).click();
  // Refused at once: the pointer leaves it behind, and nothing of it is stored elsewhere.
  await page.keyboard.type("soon");
  await length.hover();
  await page.mouse.down();
  // What is told of it pushes no row from under the pointer that is pressed.
  await expect(page.getByText("Not stored: “soon” in Duration of “Pour”.")).toBeVisible();
  await page.mouse.up();
  await page.keyboard.type("4d");
  await page.keyboard.press("Enter");
  const pour = await planCell(page, "Pour", "Duration");
  await expect(pour).toContainText("soon");
  await expect(page.getByText("Not stored: “soon” in Duration of “Pour”.")).toBeVisible();
  await expect(length).toHaveText("4 d");
  await saved(page);
  await pour.click();
  await page.keyboard.press("Enter");
  await expect(page.getByRole("textbox", { name: "Duration of Pour" })).toHaveValue("soon");
  // Typed over, never on to.
  await page.keyboard.type("1d");
  await page.keyboard.press("Enter");
  await expect(pour).toHaveText("1 d");
  await expect(page.getByText("Not stored:")).toBeHidden();
});

test("changes made while the server is away wait in sight, outlive a reload, and arrive by themselves", async ({
  page,
}) => {
  await signIn(page, "tomas");
  const id = await beginPlan(page, "NL-4", ["Dig", "Pour"]);
  const away = (route: { abort: () => Promise<void> }): Promise<void> => route.abort();
  await page.route("**/api/projects/**", away);
  await (await planCell(page, "Dig", "Duration")).click();
  await page.keyboard.type("5d");
  await page.keyboard.press("Enter");
  await header(page, "Pour").click();
  await page.keyboard.press("Control+Enter");
  await page.keyboard.type("Cure");
  await page.keyboard.press("Enter");
  await expect(page.getByText(/The server cannot be reached\. \d changes wait in this browser/)).toBeVisible();
  await expect(page.getByText("All is saved")).toBeHidden();
  await expect(header(page, "Cure")).toBeVisible();
  // Loaded again, as after a crash; the browser asks first.
  page.once("dialog", (dialog) => void dialog.accept());
  await page.unroute("**/api/projects/**", away);
  await page.route(`**/api/projects/${id}/changes`, away);
  await page.reload();
  await expect(header(page, "Cure")).toBeVisible();
  await expect(page.getByText(/wait in this browser/)).toBeVisible();
  await page.unroute(`**/api/projects/${id}/changes`, away);
  await saved(page);
  const stored = await planText(page, id);
  expect([stored.includes("Cure"), stored.includes("2400")]).toEqual([true, true]);
});

test("removing a row in the middle of a chain says what that cuts; carried across, one undo takes it all back", async ({
  page,
}) => {
  await signIn(page, "tomas");
  const id = await beginPlan(page, "NL-5", ["Dig", "Pour", "Strip"]);
  await page.getByText("Columns").click();
  await page.getByRole("checkbox", { name: "Predecessors", exact: true }).check();
  await page.getByText("Columns").click();
  for (const [name, after] of [
    ["Pour", "Dig"],
    ["Strip", "Pour + 1d"],
  ] as const) {
    await (await planCell(page, name, "Predecessors")).click();
    await page.keyboard.type(after);
    await page.keyboard.press("Enter");
  }
  await saved(page);
  const before = await planText(page, id);
  await header(page, "Pour").click();
  await page.keyboard.press("Control+Delete");
  const dialog = page.getByRole("dialog", { name: "Removing cuts chains of links" });
  await expect(dialog.getByText("Dig → Pour → Strip")).toBeVisible();
  await dialog.getByRole("button", { name: "Carry the logic across" }).click();
  await expect(await planCell(page, "Strip", "Predecessors")).toHaveText("Dig + 1d");
  await saved(page);
  await page.keyboard.press("Control+z");
  await saved(page);
  expect(await planText(page, id)).toBe(before);
});

test("2 000 rows with their links are pasted in one go, and nothing of a block that is refused is stored", async ({
  page,
  context,
}) => {
  test.setTimeout(240_000);
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await signIn(page, "tomas");
  const id = await beginPlan(page, "NL-6", ["Begin"]);
  await page.getByText("Columns").click();
  await page.getByRole("checkbox", { name: "Predecessors", exact: true }).check();
  await page.getByRole("button", { name: "Predecessors further left" }).click();
  await page.getByText("Columns").click();
  const heads = await page.getByRole("columnheader").allTextContents();
  const line = (i: number, after: string): string =>
    heads
      .map((head) =>
        head === "Activity"
          ? `Pile ${i}`
          : head === "Duration"
            ? `${1 + (i % 5)}d`
            : head === "Predecessors"
              ? after
              : "",
      )
      .join("\t");
  const block = (last: string): string =>
    Array.from({ length: 2000 }, (_, i) => line(i, i % 10 === 0 ? "" : i === 1999 ? last : `Pile ${i - 1}`)).join("\n");
  const paste = async (text: string): Promise<void> => {
    await page.evaluate((each) => navigator.clipboard.writeText(each), text);
    await header(page, "Begin").click();
    await page.keyboard.press("Control+v");
  };
  await paste(block("Nowhere"));
  await expect(page.getByText("“Pile 1999”: There is no activity “Nowhere”.")).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText("Nothing was changed.")).toBeVisible();
  expect(await rowsOf(page)).toEqual(["Begin"]);
  await paste(block("Pile 1998"));
  await expect(page.getByRole("treegrid", { name: "Plan" })).toHaveAttribute("aria-rowcount", "2001", {
    timeout: 60_000,
  });
  await saved(page);
  const { links } = JSON.parse(await planText(page, id)) as { links: unknown[] };
  expect(links).toHaveLength(1800);
});

test("a session that runs out takes nothing with it: dialog, fields and what waits are there after signing in again", async ({
  page,
}) => {
  await signIn(page, "tomas");
  await beginPlan(page, "NL-9", ["Dig", "Pour"]);
  await endSession(page);
  await page.getByRole("textbox", { name: "Activity of Pour" }).or(header(page, "Pour")).click();
  await page.keyboard.press("F2");
  await page.keyboard.press("End");
  await page.keyboard.type(" slowly");
  await page.keyboard.press("Enter");
  const again = page.getByRole("dialog", { name: "Sign in again" });
  await expect(again).toContainText("Tomas");
  await expect(again.getByLabel("Password")).toBeFocused();
  await expect(header(page, "Pour slowly")).toBeHidden();
  await page.keyboard.press("Escape");
  await page.keyboard.press("Escape");
  await expect(again).toBeVisible();
  await again.getByLabel("Password").fill("saltmarrow");
  await page.keyboard.press("Enter");
  await expect(header(page, "Pour slowly")).toBeVisible();
  await saved(page);

  await page.goto("/");
  const row = page.getByRole("table", { name: "Projects" }).getByRole("row").filter({ hasText: "NL-9" });
  await row.getByRole("button", { name: "say", exact: true }).click();
  const said = page.getByRole("dialog", { name: /What you say/ });
  await said.getByLabel("in trouble").check();
  await said.getByLabel("Note").fill("Two weeks of frost are to come.");
  await endSession(page);
  await said.getByRole("button", { name: "Save" }).click();
  await again.getByLabel("Password").fill("wrong it is");
  await again.getByRole("button", { name: "Sign in", exact: true }).click();
  await expect(again.getByRole("alert")).toBeVisible();
  await again.getByLabel("Password").fill("saltmarrow");
  await again.getByRole("button", { name: "Sign in", exact: true }).click();
  await expect(said.getByLabel("Note")).toHaveValue("Two weeks of frost are to come.");
  await said.getByRole("button", { name: "Save" }).click();
  await expect(said).toBeHidden();
  await expect(row).toContainText("in trouble");
});

test("signing out is not taken for a session that ran out, whatever is refused meanwhile", async ({ page }) => {
  await signIn(page, "tomas");
  // Who is signed in now is answered only once something was refused.
  let answer = (): void => undefined;
  const held = new Promise<void>((resolve) => (answer = resolve));
  await page.route("**/api/session", async (route) => {
    if (route.request().method() === "GET") await held;
    await route.continue();
  });
  const out = page.waitForResponse(
    (response) => response.url().endsWith("/api/session") && response.request().method() === "DELETE",
  );
  await page.getByRole("button", { name: "Sign out" }).click();
  await out;
  const refused = page.waitForResponse((response) => response.status() === 401);
  await page.getByRole("link", { name: "Cycle", exact: true }).click();
  await refused;
  answer();
  await expect(page.getByLabel("Name", { exact: true })).toBeEditable();
  await page.waitForTimeout(1500);
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await expect(page.getByLabel("Name", { exact: true })).toBeEditable();
});

test("whoever signs in as someone else after a session ran out finds a page of their own", async ({ page }) => {
  await signIn(page, "tomas");
  await page.goto("/desk");
  await expect(page.getByRole("region", { name: "Yours in the registers" })).toBeVisible();
  await endSession(page);
  await page.getByRole("link", { name: "Look", exact: true }).click();
  const again = page.getByRole("dialog", { name: "Sign in again" });
  await again.getByRole("button", { name: /someone else/ }).click();
  await expect(again).toBeHidden();
  await page.getByLabel("Name", { exact: true }).fill("ines");
  await page.getByLabel("Password").fill("saltmarrow");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("banner")).toContainText("Ines");
});
