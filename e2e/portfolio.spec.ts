import { expect, test, type Locator, type Page } from "@playwright/test";
import { projectId, signIn } from "./helpers.ts";

const MONEY = ["BAC", "PV", "EV", "AC", "SV", "CV"] as const;

/** "1 234 over" as a signed number; what is behind or over is below 0. */
function read(text: string): number {
  const digits = Number(text.replace(/[^\d]/g, ""));
  return /behind|over/.test(text) ? -digits : digits;
}

/** The cells of some columns, row by row: groups by their name, projects by their code. */
async function cells(table: Locator): Promise<{ heads: string[]; rows: { kind: string; cells: string[] }[] }> {
  return table.evaluate((element) => ({
    heads: [...element.querySelectorAll("thead th")].map((cell) => cell.textContent!.trim().replace(/[↑↓]/g, "")),
    rows: [...element.querySelectorAll("tbody tr, tfoot tr")].map((row) => ({
      kind: row.className.includes("total") ? "total" : row.className.includes("group") ? "group" : "project",
      cells: [...row.children].map((cell) => cell.textContent!.trim()),
    })),
  }));
}

/** Shows columns of the portfolio's table, whatever was put away before. */
async function withColumns(page: Page, ...names: string[]): Promise<void> {
  await page.getByText("Columns", { exact: true }).click();
  for (const name of names) await page.getByLabel(name, { exact: true }).check();
  await page.getByText("Columns", { exact: true }).click();
}

test("every number of the portfolio page is the sum of what it opens", async ({ page }) => {
  test.setTimeout(240_000);
  await signIn(page, "ines");
  const table = page.getByRole("table", { name: "Projects" });
  await expect(table).toBeVisible();
  await withColumns(page, ...MONEY, "Finished", "Open");
  const { heads, rows } = await cells(table);
  const at = (name: string): number => heads.indexOf(name);

  await test.step("groups and the total are the sums of their rows", async () => {
    const projects = rows.filter(({ kind }) => kind === "project");
    expect(projects.length).toBeGreaterThanOrEqual(12);
    const total = rows.find(({ kind }) => kind === "total")!;
    // Some amounts are in another currency; their sum says at which rate they are taken.
    const rate = Number(
      /1 ISK = ([\d.]+)/.exec((await page.getByText(/Sums in EUR, at the rates/).textContent())!)![1],
    );
    for (const name of MONEY) {
      // Whole units are shown of sums formed in cents: each shown part may be off by half a unit.
      const inEuro = ({ cells: own }: { cells: string[] }): number =>
        read(own[at(name)]!) * (own[at("In")] === "EUR" ? 1 : rate);
      const off = (parts: readonly { cells: string[] }[], whole: { cells: string[] }): number =>
        Math.abs(parts.reduce((sum, row) => sum + inEuro(row), 0) - read(whole.cells[at(name)]!));
      expect(off(projects, total), `${name} of all`).toBeLessThanOrEqual(projects.length / 2 + 0.5);
      let group: { cells: string[] } | null = null;
      let own: { cells: string[] }[] = [];
      const check = (): void => {
        if (group !== null)
          expect(off(own, group), `${name} of ${group.cells[0]}`).toBeLessThanOrEqual(own.length / 2 + 0.5);
      };
      for (const row of rows) {
        if (row.kind === "project") {
          own.push(row);
          continue;
        }
        check();
        [group, own] = [row.kind === "group" ? row : null, []];
      }
    }
  });

  await test.step("each project's figures are the sums of the activities they open, in cents", async () => {
    const wrong = await page.evaluate(async () => {
      const get = async (path: string) => (await fetch(path)).json();
      const found: string[] = [];
      for (const line of (await get("/api/portfolio")).projects) {
        if (line.summary.figures === null) continue;
        const look = await get(`/api/projects/${line.id}`);
        const tops = look.rows.filter(
          (row: { parent: string | null; figures: unknown }) => row.parent === null && row.figures !== null,
        );
        for (const measure of ["bac", "pv", "ev", "ac"]) {
          const sum = tops.reduce(
            (total: number, row: { figures: Record<string, number> }) => total + row.figures[measure]!,
            0,
          );
          if (sum !== line.summary.figures[measure])
            found.push(`${line.code} ${measure}: ${sum} for ${line.summary.figures[measure]}`);
        }
      }
      return found;
    });
    expect(wrong).toEqual([]);
  });

  await test.step("done and open lead to as many activities", async () => {
    for (const [name, code] of [
      ["Finished", "FS-03"],
      ["Open", "LG-05"],
    ] as const) {
      await page.goto("/");
      const row = table.getByRole("row").filter({ hasText: code });
      const cell = row.getByRole("cell").nth(at(name));
      const count = Number((await cell.textContent())!.split(" ")[0]);
      await cell.getByRole("link").click();
      await expect(page.locator("tfoot")).toContainText(`${count} activit`);
    }
  });

  await test.step("each line of the log says how many rows it has", async () => {
    await page.goto("/");
    const log = page.getByRole("region", { name: "The log" });
    for (const [about, counted] of [
      ["Moved", /(\d+) projects? finish\w* later/],
      ["Cost", /In (\d+) projects? the work/],
      ["Trust", /(\d+) plans? (?:is|are)/],
    ] as const) {
      const line = log.getByRole("group", { name: about });
      await expect(line).toContainText(counted);
      const more = line.getByRole("button", { name: /^and \d+ more$/ });
      if (await more.isVisible()) await more.click();
      const said = Number(counted.exec((await line.textContent())!)![1]);
      expect(await line.getByRole("link").count(), about).toBeGreaterThanOrEqual(said);
      if (about !== "Moved") expect(await line.getByRole("link").count(), about).toBe(said);
    }
    const promises = log.getByRole("group", { name: "Promises" });
    const more = promises.getByRole("button", { name: /^and \d+ more$/ });
    if (await more.isVisible()) await more.click();
    const said = [...(await promises.locator("p").first().textContent())!.matchAll(/\d+/g)].reduce(
      (sum, [number]) => sum + Number(number),
      0,
    );
    expect(await promises.getByRole("link").count()).toBe(said);
  });
});

test("the page as it is looked at is in its address: sorted, filtered, grouped", async ({ page }) => {
  await signIn(page, "ines");
  const table = page.getByRole("table", { name: "Projects" });
  await table.getByRole("button", { name: "SPI", exact: true }).click();
  await page.getByLabel("Filter Projects").fill("lock");
  await page.getByLabel("Group projects by").selectOption("manager");
  await expect(page).toHaveURL(/sort=spi/);
  await expect(page).toHaveURL(/find=lock/);
  await expect(page).toHaveURL(/by=manager/);
  const before = (await cells(table)).rows.map((row) => row.cells[0]);
  await page.reload();
  await expect(page.getByLabel("Filter Projects")).toHaveValue("lock");
  expect((await cells(table)).rows.map((row) => row.cells[0])).toEqual(before);
});

test("a controller sets a limit, a manager says how it stands, and projects get a field of their own", async ({
  page,
}) => {
  await signIn(page, "ines");
  await page.goto("/set-up/groups");
  const limits = page.getByRole("region", { name: "When a project is to be explained" });
  await limits.getByLabel("Finish late by more than").fill("30");
  await limits.getByLabel("Finish late by more than").press("Enter");
  await limits.getByLabel("SPI below", { exact: true }).fill("often");
  await limits.getByLabel("SPI below", { exact: true }).press("Enter");
  await expect(limits.getByRole("alert")).toHaveText("Write a number, as 0.9 or 10.");
  const fields = page.getByRole("region", { name: "Own fields of projects" });
  await fields.getByLabel("Name", { exact: true }).fill("Sponsor");
  await fields.getByRole("button", { name: "Add" }).click();
  await expect(fields.getByLabel("Name of Sponsor")).toBeVisible();
  await page.goto("/");
  const sponsor = page.getByLabel("Sponsor of Outer breakwater");
  await sponsor.fill("Pilots’ guild");
  await sponsor.press("Enter");
  await page.getByLabel("Group projects by").selectOption({ label: "sponsor" });
  await expect(page.getByRole("table", { name: "Projects" }).locator("tr.group").first()).toContainText(
    /no sponsor|Pilots’ guild/,
  );
  await page.goto(`/projects/${await projectId(page, "FS-01")}/performance`);
  await expect(page.getByText(/the finish is 33\.\d d late, more than 30 d/).first()).toBeVisible();

  await signIn(page, "radu");
  await page.goto("/");
  const row = page.getByRole("table", { name: "Projects" }).getByRole("row").filter({ hasText: "FS-01" });
  await row.getByRole("button", { name: "say", exact: true }).click();
  const says = page.getByRole("dialog");
  await says.getByLabel("in trouble").check();
  await says.getByLabel("Note").fill("The armour stone comes in three weeks late.");
  await says.getByRole("button", { name: "Save" }).click();
  await expect(row).toContainText("in trouble");
});

test("a deadline shows how likely it is kept, what decides it and what changed its margin; a milestone is slipped with what goes along, and those concerned are told once", async ({
  page,
}) => {
  await signIn(page, "radu");
  await page.goto("/deadlines");
  await page.getByRole("button", { name: "Breakwater closed" }).click();
  const panel = page.getByRole("complementary", { name: "About Breakwater closed" });
  await expect(panel.getByText(/22\.6 d short/).first()).toBeVisible();
  await expect(
    panel.getByRole("list", { name: "The chain that decides it" }).getByRole("listitem").first(),
  ).toContainText("Breakwater closed");
  await expect(panel.getByRole("table", { name: "Causes of the drift" })).toContainText("Together");
  await expect(panel.getByText("of 2000 runs, with ranges and risks as they are.")).toBeVisible();
  await panel.getByLabel("What follows if it is not kept").fill("winter storms reach the yard");
  await panel.getByLabel("What follows if it is not kept").press("Enter");
  await expect(page.getByRole("table", { name: "Deadlines" })).toContainText("winter storms reach the yard");
  await panel.getByRole("link", { name: "Slip it …" }).click();
  await page.getByLabel("Working days").fill("4");
  await page.getByLabel("Why it slips").fill("The quarry is flooded.");
  await page.getByRole("checkbox", { name: /Handed over/ }).check();
  const preview = page.getByRole("complementary", { name: "Effect preview" });
  await expect(preview.getByText(/^Breakwater closed: 8 Feb 2027 → 1[0-9] Feb 2027/).first()).toBeVisible();
  await preview.getByRole("button", { name: "Slip it and tell them" }).click();
  await expect(page.getByText(/Breakwater closed slips by 4 working days; \d+ people are told/)).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText(/It is as it was before/)).toBeVisible();
  await expect(
    page.getByRole("table", { name: "Milestones" }).getByRole("row").filter({ hasText: "Breakwater closed" }),
  ).toContainText("8 Feb 2027");
});
