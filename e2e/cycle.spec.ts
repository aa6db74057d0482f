import { expect, test } from "@playwright/test";
import { beside, bringPlan, broughtPlan, signIn } from "./helpers.ts";

test("a period of one project step by step: checked, explained, locked, opened again with a reason; what cannot be locked says why", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await signIn(page, "tomas");
  const base = broughtPlan("CY-01", "Spur jetty") as { project: object };
  const project = await bringPlan(page, "Spur jetty", {
    ...base,
    project: { ...base.project, dataDate: "2026-11-27" },
  });
  const tomas = await beside(page, "tomas");
  const margit = await beside(page, "margit");
  const { id } = await tomas.send<{ id: string }>("post", `/api/projects/${project}/approvals`, { word: "" });
  await margit.send("post", `/api/approvals/${id}/decision`, { decision: "approve", reason: "agreed" });

  await signIn(page, "ines");
  await page.goto(`/projects/${project}`);
  const strip = page.getByRole("region", { name: "This project in the cycle" });
  await expect(strip).toContainText("lock: to lock");
  await strip.getByRole("link", { name: /^waits for/ }).click();
  const steps = page.getByRole("dialog", { name: /Spur jetty: period 10/ });
  await expect(steps).toContainText("waits for Amadou Keller");
  await steps.getByLabel("What the check came to").fill("Looked through with Tomas");
  await steps.getByRole("button", { name: "Done" }).first().click();
  await expect(steps.getByText("“Looked through with Tomas”")).toBeVisible();
  const limits = steps.getByRole("list", { name: "Broken limits" });
  await expect(limits.getByRole("link")).toHaveText(["SPI 0.00 is below 0.9", "1 deadline is broken or will be"]);
  await limits.getByLabel(/^Why SPI/).fill("The piles came late");
  await limits.getByRole("button", { name: "Done" }).first().click();
  await expect(limits.getByText("“The piles came late”")).toBeVisible();
  await expect(steps).toContainText("1 to explain");
  await limits.getByLabel(/^Why 1 deadline/).fill("The same piles");
  await limits.getByRole("button", { name: "Done" }).click();
  await expect(limits.getByText("“The same piles”")).toBeVisible();
  await steps.getByRole("link", { name: "Lock …" }).click();
  // Someone has not reported: that is passed over only with a word.
  const lock = page.getByRole("button", { name: "Lock 1 project" });
  await expect(page.getByRole("table", { name: "What will be locked" })).toContainText("1 person has not reported");
  await expect(lock).toBeDisabled();
  await page.getByLabel("Why Spur jetty is locked all the same").fill("Amadou was away");
  await lock.click();
  await expect(page.getByText("Period 10 is locked for 1 project.")).toBeVisible();
  await page.goto("/cycle");
  const line = page
    .getByRole("table", { name: "The cycle by project" })
    .getByRole("row")
    .filter({ hasText: "Spur jetty" });
  await expect(line.getByRole("cell").nth(8)).toHaveText("✓");

  await test.step("time of the locked period lands after it, and says so before it is accepted", async () => {
    const amadou = await beside(page, "amadou");
    await amadou.send("post", "/api/desk/reports", { project, activity: "A", date: "2026-11-10", minutes: 60 });
    await page.goto(`/time?project=${project}`);
    await expect(page.getByText("late: closed up to 27 Nov 2026, so it lands on the day after")).toBeVisible();
    const [{ id: report }] = (await tomas.get<{ id: string; project: string }[]>("/api/reports")).filter(
      (each) => each.project === project,
    ) as [{ id: string; project: string }];
    await tomas.send("post", "/api/reports/decision", { ids: [report], decision: "return", word: "next week" });
  });

  await test.step("locking everything locks what can be, one by one, and names what cannot with why", async () => {
    await page.goto("/cycle");
    // What everyone else's tests rest on stays as it is: only what is refused is looked at.
    const cycle = await page.evaluate(
      async () =>
        (await (await fetch("/api/cycle")).json()) as {
          projects: {
            id: string;
            code: string;
            takesPart: boolean;
            locked: boolean;
            steps: { name: string; open: number }[];
          }[];
        },
    );
    const waiting = cycle.projects.find(
      ({ takesPart, locked, steps: own }) =>
        takesPart && !locked && own.find(({ name }) => name === "Review")!.open > 0,
    )!;
    await page.goto("/cycle/lock");
    const row = page.getByRole("row").filter({ hasText: waiting.code });
    await expect(row).toContainText(/cannot be locked: .*reports? waits? for a decision/);
    await expect(row.getByRole("checkbox")).toHaveCount(0);
  });

  await test.step("opened again only with a reason, which stays", async () => {
    await page.goto(`/cycle?project=${project}`);
    const again = page.getByRole("dialog");
    await expect(again.getByRole("button", { name: "Open again" })).toBeDisabled();
    await again.getByLabel(/is opened again/).fill("A delivery note was missed");
    await again.getByRole("button", { name: "Open again" }).click();
    await expect(again.getByText("Locked all the same: “Amadou was away”")).toBeHidden();
    await expect(
      again.getByText(/Period 10 was opened again by Ines Okafor .*“A delivery note was missed”/),
    ).toBeVisible();
  });
});

test("everyone's week in one place: who is missing is reminded in one go, a week is sent, approved, and corrected only with a note", async ({
  page,
}) => {
  await signIn(page, "ines");
  await page.goto("/time/people?date=2026-11-18&show=missing");
  const table = page.getByRole("table", { name: "People’s weeks" });
  await page.getByRole("button", { name: "Select all" }).click();
  const count = await table.locator("tbody").getByRole("checkbox").count();
  expect(count).toBeGreaterThan(1);
  await page.getByRole("button", { name: `Remind all ${count}` }).click();
  await expect(page.getByText(`${count} reminders sent.`)).toBeVisible();
  const name = (await table.locator("tbody tr").first().getByRole("cell").nth(1).textContent())!;
  await expect(table.locator("tbody tr").first()).toContainText("2026");
  const login = name
    .split(" ")[0]!
    .normalize("NFD")
    .replace(/[^A-Za-z]/g, "")
    .toLowerCase();
  await signIn(page, login);
  await page.goto("/inbox");
  await expect(page.getByRole("heading", { name: "Your time of the week of 16 Nov 2026" })).toBeVisible();

  await signIn(page, "hana");
  await page.goto("/desk/week?date=2026-11-11");
  await page.getByRole("button", { name: "Send the week" }).click();
  await expect(page.getByText(/^sent on .*, waits to be approved$/)).toBeVisible();
  await signIn(page, "ines");
  await page.goto("/time/people?date=2026-11-11");
  await page.getByRole("checkbox", { name: "Select Hana Pettersen" }).check();
  await expect(page.getByRole("region", { name: "Effect preview" })).toContainText(
    /Approving accepts|Nothing waits in them/,
  );
  await page.getByRole("button", { name: "Approve 1 week" }).click();
  await expect(page.getByText("1 week approved.")).toBeVisible();
  await signIn(page, "hana");
  await page.goto("/desk/week?date=2026-11-11");
  await expect(page.getByText(/approved by Ines Okafor/)).toBeVisible();
  const cell = page.getByRole("table", { name: "The week" }).locator("tbody tr").first().getByRole("textbox").first();
  await cell.fill("1h");
  await cell.press("Enter");
  await expect(page.getByRole("alert")).toContainText(/approved and closed|accepted already/);
});
