import { expect, test } from "@playwright/test";
import { beside, bringPlan, broughtPlan, fileOf, planCell, saved, signIn } from "./helpers.ts";

test("a change is tried beside the live plan, put forward, approved as a new baseline with a draw on contingency; the old one stays", async ({
  page,
}) => {
  test.setTimeout(120_000);
  await signIn(page, "tomas");
  const project = await bringPlan(page, "Pile jetty", broughtPlan("WI-01", "Pile jetty"));
  const tomas = await beside(page, "tomas");
  const margit = await beside(page, "margit");

  await test.step("the plan's state is in view where approval is asked for", async () => {
    await page.goto(`/projects/${project}/approvals`);
    await expect(page.getByRole("region", { name: "The plan as it stands" })).toContainText(
      "3 activities with dates, 1 milestone, finishes 27 Nov 2026",
    );
    const { id } = await tomas.send<{ id: string }>("post", `/api/projects/${project}/approvals`, { word: "" });
    await margit.send("post", `/api/approvals/${id}/decision`, { decision: "approve", reason: "agreed" });
    await page.reload();
    await page.getByLabel("Amount in EUR").fill("5 000");
    await page.getByLabel("What for").fill("Set aside by the board");
    await page.getByRole("button", { name: "Enter" }).click();
    await expect(page.getByRole("region", { name: "Reserves" })).toContainText("set aside 5 000 of contingency");
  });

  await test.step("a what-if shows what it would move while it is typed; the live plan stays", async () => {
    await page.goto(`/projects/${project}/plan`);
    await page.getByRole("button", { name: "What if" }).click();
    await page.getByLabel("What is tried").fill("Second rig");
    await page.getByRole("button", { name: "Begin" }).click();
    await expect(page.getByRole("heading", { name: "What if: Second rig" })).toBeVisible();
    const length = await planCell(page, "Drive piles", "Duration");
    await length.dblclick();
    await page.keyboard.type("6d");
    await page.keyboard.press("Enter");
    await saved(page);
    await expect(page.getByText("finishes 23 Nov 2026, 4 d earlier", { exact: true })).toBeVisible();
    await page.getByRole("button", { name: "Undo" }).click();
    await saved(page);
    await expect(page.getByText("same finish")).toBeVisible();
    await page.getByRole("button", { name: "Redo" }).click();
    await saved(page);
    await expect(page.getByText("finishes 23 Nov 2026, 4 d earlier", { exact: true })).toBeVisible();
    const live = await tomas.get<{ tables: { activities: [string, { durationMinutes?: number }][] } }>(
      `/api/projects/${project}/plan`,
    );
    expect(Object.fromEntries(live.tables.activities)["A"]!.durationMinutes).toBe(4800);
  });

  await test.step("the live plan moves on in the same place: both values, and which is to hold", async () => {
    const { revision } = await tomas.get<{ revision: number }>(`/api/projects/${project}/plan`);
    await tomas.send("post", `/api/projects/${project}/changes`, {
      revision,
      changes: [{ type: "setDuration", activity: "A", minutes: 4320 }],
    });
    await page.reload();
    const both = page.getByRole("table", { name: "What both changed" });
    await expect(both).toContainText("72 h");
    await expect(page.getByRole("button", { name: "Apply" })).toBeDisabled();
    await both.getByRole("radio").nth(1).check();
    await page.getByRole("button", { name: "Merge" }).click();
    await expect(both).toBeHidden();
    await expect(await planCell(page, "Drive piles", "Duration")).toHaveText("6 d");
  });

  await test.step("it is put forward with what it draws, and decided by someone else", async () => {
    await page.getByRole("button", { name: "Put forward …" }).click();
    const dialog = page.getByRole("dialog");
    await dialog.getByLabel("Why the plan is to change").fill("The piling window closes early");
    await dialog.getByLabel("Paid from").selectOption("contingency");
    await dialog.getByLabel("EUR").fill("1 200");
    await dialog.getByRole("button", { name: "Put forward" }).click();
    await expect(page.getByText("Change request 1 waits for an approver.")).toBeVisible();
    await signIn(page, "margit");
    await page.goto("/approvals");
    const request = page.getByRole("listitem").filter({ hasText: "Pile jetty" });
    await expect(request).toContainText("Draws 1 200 EUR of contingency");
    await expect(request).toContainText("Project finish");
    await request.getByLabel("Your reason").fill("Agreed by the board");
    await expect(request).toContainText("The request, against baseline 1");
    await expect(request).toContainText("What else stands in the plan, apart from the request");
    await request.getByRole("button", { name: "Approve the whole plan …" }).click();
    const whole = page.getByRole("dialog", { name: "Approve the whole plan as it stands" });
    await expect(whole).toContainText("This re-baselines Pile jetty");
    await expect(whole).toContainText(/The finish moves|The finish stays/);
    await whole.getByRole("button", { name: "Cancel" }).click();
    await request.getByRole("button", { name: "Approve the request alone" }).click();
    await expect(page.getByText("Applied, and baseline 2 of Pile jetty is frozen.")).toBeVisible();
    await page.goto(`/projects/${project}/approvals`);
    const ledger = page.getByRole("table", { name: "Baselines" });
    await expect(ledger.getByRole("row").nth(1)).toContainText(
      "Change request 1: Second rig. The piling window closes early — Agreed by the board",
    );
    await expect(ledger.getByRole("row").nth(1)).toContainText("change request 1 alone");
    await expect(ledger.getByRole("row")).toHaveCount(3);
    await expect(page.getByRole("region", { name: "Reserves" })).toContainText("contingency 3 800 EUR");
  });
});

test("two ways to do a step are compared without switching, and one is made live in the place of the other", async ({
  page,
}) => {
  await signIn(page, "tomas");
  const base = broughtPlan("AL-01", "Crossing") as { activities: object[]; links: object[] };
  await bringPlan(page, "Crossing", {
    ...base,
    activities: [
      ...base.activities.slice(0, 2),
      { id: "C", name: "Drive piles by barge", parent: "S", durationMinutes: 2400 },
      ...base.activities.slice(2),
    ],
    links: [...base.links, { from: "C", to: "B" }],
  });
  const row = (name: string) => page.getByRole("rowheader", { name, exact: true });
  await row("Drive piles").click();
  await page.keyboard.down("Shift");
  await row("Drive piles by barge").click();
  await page.keyboard.up("Shift");
  await page.getByRole("button", { name: "Make the selected rows alternates" }).click();
  await saved(page);
  await expect(await planCell(page, "Drive piles by barge", "Finishes")).toHaveText("parked");
  await row("Drive piles").click();
  await page.getByRole("button", { name: "Ways to do Drive piles" }).click();
  const ways = page.getByRole("table", { name: "Alternates" });
  await expect(ways.getByRole("row").nth(1)).toContainText("27 Nov 2026");
  await expect(ways.getByRole("row").nth(2)).toContainText("5 d earlier");
  await ways.getByRole("button", { name: "Make Drive piles by barge live" }).click();
  await saved(page);
  await page.keyboard.press("Escape");
  await expect(await planCell(page, "Drive piles", "Finishes")).toHaveText("parked");
  await expect(await planCell(page, "Jetty open", "Finishes")).toHaveText("20 Nov 2026");
});

test("invoices come in from a file whose columns are remembered; what matches nothing waits in sight; the same file twice changes nothing", async ({
  page,
}) => {
  await signIn(page, "tomas");
  await bringPlan(page, "Invoice jetty", broughtPlan("OC-01", "Invoice jetty"));
  await page.goto("/time/costs");
  const file = fileOf(
    "ledger.csv",
    [
      "Beleg;Job;Task;Tag;Net amount",
      "R-77;OC-01;Lay deck;2026-11-12;1 250,50",
      "R-78;OC-01;Timber, sundry;2026-11-12;80",
    ].join("\r\n"),
  );
  const bring = async (): Promise<void> => page.getByLabel("File of costs").setInputFiles(file);
  await bring();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("What Beleg is").selectOption("reference");
  await dialog.getByRole("button", { name: "Take the lines in" }).click();
  await expect(dialog.getByRole("alert")).toContainText("Say which columns hold: date");
  await dialog.getByLabel("What Tag is").selectOption("date");
  await dialog.getByRole("button", { name: "Take the lines in" }).click();
  await expect(page.getByText("2 lines taken in, 1 matched, 1 to be matched.")).toBeVisible();
  await bring();
  await expect(page.getByText(/This very file was taken in on .* by Tomas Lindqvist/)).toBeVisible();
  const table = page.getByRole("table", { name: "Costs and time from elsewhere" });
  await table.getByRole("checkbox", { name: /Select R-78/ }).check();
  const match = page.getByRole("form", { name: "Match by hand" });
  await match.getByLabel("Activity").fill("Lay deck");
  await match.getByRole("button", { name: "Match" }).click();
  await expect(table.getByRole("row").filter({ hasText: "R-78" })).toContainText("ready to post");
  await table.getByRole("checkbox", { name: /Select R-77/ }).check();
  await expect(page.getByText("Invoice jetty: posting would")).toBeVisible();
  await page.getByRole("button", { name: "Post", exact: true }).click();
  await expect(page.getByText("2 costs posted.")).toBeVisible();
  await expect(table.getByRole("row").filter({ hasText: "R-77" })).toBeHidden();

  // The ledger says something else of an invoice now.
  const corrected = fileOf(
    "ledger-2.csv",
    [
      "Beleg;Job;Task;Tag;Net amount",
      "R-77;OC-01;Lay deck;2026-11-12;1 300,50",
      "R-78;OC-01;Timber, sundry;2026-11-12;80",
    ].join("\r\n"),
  );
  await page.getByLabel("File of costs").setInputFiles(corrected);
  await dialog.getByRole("button", { name: "Take the lines in" }).click();
  await expect(page.getByText("1 correction waits to be accepted; 1 line was here already.")).toBeVisible();
  const row = table.getByRole("row").filter({ hasText: "R-77" });
  await expect(row).toContainText("1 250.5 → 1 300.5 EUR, posted");
  await table.getByRole("checkbox", { name: /Select R-77/ }).check();
  await expect(page.getByText("1 line is posted: the difference is posted beside it.")).toBeVisible();
  await page.getByRole("button", { name: "Accept the correction" }).click();
  await expect(page.getByText("1 correction accepted.")).toBeVisible();
  await expect(row).toBeHidden();
});
