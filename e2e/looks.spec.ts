import { expect, test, type BrowserContext, type Page } from "@playwright/test";
import { deadlineOf, projectId, seriousFindings, shown, signIn } from "./helpers.ts";

const PAGES: readonly (readonly [name: string, login: string, address: (page: Page) => Promise<string>])[] = [
  ["portfolio", "ines", async () => "/"],
  ["deadlines", "ines", async () => "/deadlines"],
  ["a deadline and what lies behind it", "ines", async (page) => `/deadlines?at=${await projectId(page, "FS-01")}:${await deadlineOf(page, "FS-01")}`],
  ["load", "ines", async () => "/load?who=bo-achieng&week=2026-11-30"],
  ["load by role, things", "ines", async () => "/load?by=role&show=things"],
  ["watchlist", "ines", async () => "/watch/overdue"],
  ["watchlist, counted", "ines", async () => "/watch/costs"],
  ["a new question", "ines", async () => "/watch"],
  ["performance", "ines", async (page) => `/projects/${await projectId(page, "FS-01")}/performance`],
  ["slip a milestone", "ines", async (page) => `/projects/${await projectId(page, "FS-01")}/slip/${await deadlineOf(page, "FS-01")}`],
  ["figures", "ines", async (page) => `/projects/${await projectId(page, "LG-02")}`],
  ["what is behind a figure", "ines", async (page) => `/projects/${await projectId(page, "LG-02")}?behind=A0010`],
  ["plan", "ines", async (page) => `/projects/${await projectId(page, "LG-02")}/plan`],
  ["plan, why", "ines", async (page) => `/projects/${await projectId(page, "SW-04")}/plan?about=why&at=A0050&lit=longest`],
  ["plan, work", "ines", async (page) => `/projects/${await projectId(page, "SW-04")}/plan?about=work&at=A0050`],
  ["plan, dates and owner", "ines", async (page) => `/projects/${await projectId(page, "SW-04")}/plan?about=dates&at=A0050`],
  ["plan, rule of credit", "ines", async (page) => `/projects/${await projectId(page, "SW-04")}/plan?about=credit&at=A0050`],
  ["plan on paper", "ines", async (page) => `/projects/${await projectId(page, "SW-04")}/plan/print`],
  ["calendars", "ines", async (page) => `/projects/${await projectId(page, "SW-04")}/resources`],
  ["people", "ines", async (page) => `/projects/${await projectId(page, "SW-04")}/resources?part=people&person=fenna-delacroix`],
  ["teams", "ines", async (page) => `/projects/${await projectId(page, "SW-04")}/resources?part=teams`],
  ["cost categories", "ines", async (page) => `/projects/${await projectId(page, "SW-04")}/resources?part=categories`],
  ["own fields", "ines", async (page) => `/projects/${await projectId(page, "SW-04")}/resources?part=fields`],
  ["dates", "ines", async (page) => `/projects/${await projectId(page, "LG-02")}/dates`],
  ["ledger of approvals", "tomas", async (page) => `/projects/${await projectId(page, "LG-02")}/approvals`],
  ["two states compared", "ines", async (page) => `/projects/${await projectId(page, "FS-01")}/compare?from=period-8&to=plan`],
  ["history", "ines", async (page) => `/projects/${await projectId(page, "LG-02")}/history`],
  ["nothing to measure", "ines", async (page) => `/projects/${await projectId(page, "SW-05")}`],
  ["desk", "amadou", async () => "/desk"],
  ["week", "amadou", async () => "/desk/week"],
  ["review", "tomas", async () => "/time"],
  ["people's weeks", "ines", async () => "/time/people"],
  ["costs and outside time", "ines", async () => "/time/costs"],
  ["blocked", "ines", async () => "/time/blocked"],
  ["the cycle", "ines", async () => "/cycle"],
  ["closing", "ines", async (page) => `/projects/${await projectId(page, "LG-02")}/closing`],
  ["board", "sunniva", async (page) => `/projects/${await projectId(page, "SW-05")}/board`],
  ["meetings", "sunniva", async (page) => `/projects/${await projectId(page, "SW-05")}/resources?part=meetings`],
  ["mail", "dagny", async () => "/mail"],
  ["approvals", "margit", async () => "/approvals"],
  ["bring a plan", "ines", async () => "/import"],
  ["settings", "dagny", async () => "/settings"],
  ["an address where nothing lives", "ines", async () => "/nowhere"],
];

/** Sessions begun here, so that each person signs in once and not once a page. */
const sessions = new Map<string, Awaited<ReturnType<BrowserContext["cookies"]>>>();

async function signInOnce(page: Page, login: string): Promise<void> {
  const known = sessions.get(login);
  if (known !== undefined) await page.context().addCookies(known);
  else {
    await signIn(page, login);
    sessions.set(login, await page.context().cookies());
  }
  await page.goto("/settings");
}

for (const [name, login, address] of PAGES) {
  test(`axe finds nothing serious: ${name}, in both themes`, async ({ page }) => {
    // A theme fades in; what is measured is what it comes to.
    await page.emulateMedia({ reducedMotion: "reduce" });
    await signInOnce(page, login);
    await page.goto(await address(page));
    await shown(page);
    for (const theme of ["enamel", "nightwatch"]) {
      await page.evaluate(async (wanted) => {
        document.documentElement.dataset["theme"] = wanted;
        const frame = (): Promise<unknown> => new Promise((resolve) => requestAnimationFrame(resolve));
        await frame();
        await Promise.all(document.getAnimations().map((fading) => fading.finished.catch(() => undefined)));
        await frame();
      }, theme);
      expect(await seriousFindings(page, theme === "enamel" ? "all" : "contrast")).toEqual([]);
    }
  });
}

test("axe finds nothing serious: signing in; a wrong password says so and keeps the name", async ({ page }) => {
  await page.goto("/");
  await page.getByLabel("Name", { exact: true }).fill("ines");
  await page.getByLabel("Password").fill("wrong");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("alert")).toHaveText("Name or password is not right.");
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("ines");
  expect(await seriousFindings(page)).toEqual([]);
});

test("every number of the portfolio opens what is behind it, and a link to it works for someone else", async ({ page, context }) => {
  await signIn(page, "ines");
  const line = page.getByRole("table", { name: "Projects" }).getByRole("row").filter({ hasText: "Outer breakwater" });
  await line.getByRole("link", { name: /over/ }).click();
  await expect(page).toHaveURL(/sort=cv/);
  await expect(page.getByRole("columnheader", { name: /CV/ })).toHaveAttribute("aria-sort", "ascending");
  const address = page.url();
  await page.getByRole("button", { name: "Sign out" }).click();
  await expect(page.getByRole("button", { name: "Sign in" })).toBeVisible();
  await page.goto(address);
  await page.getByLabel("Name", { exact: true }).fill("quill");
  await page.getByLabel("Password").fill("saltmarrow");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("heading", { name: "Outer breakwater" })).toBeVisible();
  expect(context.pages()).toHaveLength(1);
});

test("a table sorts, filters, hides columns and copies as a spreadsheet wants it", async ({ page, context }) => {
  await context.grantPermissions(["clipboard-read", "clipboard-write"]);
  await signIn(page, "ines");
  const table = page.getByRole("table", { name: "Projects" });
  await page.getByRole("button", { name: "CPI" }).click();
  await expect(table.getByRole("columnheader", { name: /CPI/ })).toHaveAttribute("aria-sort", "ascending");
  await expect(table.getByRole("row").nth(1)).toContainText("Weir fish pass");
  await expect(table.getByRole("row").nth(2)).toContainText("Outer breakwater");
  await page.getByLabel("Filter Projects").fill("lamp");
  await expect(table.locator("tbody").getByRole("row")).toHaveCount(1);
  await page.getByText("Columns", { exact: true }).click();
  await page.getByLabel("BAC").uncheck();
  await expect(table.getByRole("columnheader", { name: "BAC" })).toBeHidden();
  await page.getByRole("button", { name: "Copy" }).click();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  const [head, row] = copied.split(/\r?\n/).map((text) => text.split("\t"));
  expect(head).not.toContain("BAC");
  expect(row![0]).toBe("SW-02 Lamp electrification");
  expect(Number(row![head!.indexOf("CPI")])).toBeGreaterThan(0.5);
  // Shown again for whoever comes next; it is kept a moment later.
  const kept = page.waitForResponse((response) => response.url().includes("/api/preferences/columns"));
  await page.getByLabel("BAC").check();
  await kept;
});

test("the steps of the period bar lead to what is open in them", async ({ page }) => {
  await signIn(page, "ines");
  await page.getByRole("list", { name: "The cycle" }).getByRole("link", { name: /Collect/ }).click();
  await expect(page.getByText(/\d+ projects? with something to collect/)).toBeVisible();
  await page.getByRole("list", { name: "The cycle" }).getByRole("link", { name: /Review/ }).click();
  await expect(page.getByRole("heading", { name: "Time to review" })).toBeVisible();
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test("the desk fits, and time is booked with one field", async ({ page }) => {
    await signIn(page, "brigid");
    const field = page.getByPlaceholder("1.5h, a note").first();
    await field.fill("2h");
    await field.press("Enter");
    await expect(page.getByText("2 h waiting to be accepted").first()).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await page.getByRole("button", { name: "Take back" }).first().click();
    await expect(page.getByText("2 h waiting to be accepted")).toBeHidden();
  });
});
