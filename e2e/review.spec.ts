import { expect, test, type Page } from "@playwright/test";
import { beside, bringPlan, planCell, signIn, type Beside } from "./helpers.ts";

const DAY: [string, string][] = [
  ["08:00", "12:00"],
  ["13:00", "17:00"],
];
const calendars = [{ id: "std", name: "Standard", week: { mon: DAY, tue: DAY, wed: DAY, thu: DAY, fri: DAY } }];
const people = [
  ["amadou-keller", "Amadou Keller"],
  ["bo-achieng", "Bo Achieng"],
  ["brigid-yilmaz", "Brigid Yilmaz"],
  ["silas-vandermeer", "Silas Vandermeer"],
].map(([id, name]) => ({ id, name, rates: [{ from: "2026-01-01", perHourMinor: 6000 }] }));
const effort = (id: string, name: string) => ({ id, name, driver: "effort" });
const hours = (activity: string, person: string, amount: number) => ({
  activity,
  person: people.find(({ id }) => id!.startsWith(person))!.id,
  plannedMinutes: amount * 60,
});

const cable = {
  format: "chronometra-plan",
  version: 1,
  project: {
    code: "RV-01",
    name: "Harbour cable",
    currency: "EUR",
    start: "2026-11-09",
    dataDate: "2026-11-06",
    calendar: "std",
  },
  calendars,
  people,
  activities: [
    effort("lay", "Lay cable"),
    effort("splice", "Splice joints"),
    effort("loop", "Test loop"),
    { id: "route", name: "Survey route", durationMinutes: 480 },
    { id: "old", name: "Old trench", durationMinutes: 480 },
    { id: "fill", name: "Backfill", durationMinutes: 960 },
    { id: "lit", name: "Cable live", kind: "milestone", deadline: "2026-11-20" },
  ],
  links: [
    { from: "lay", to: "fill" },
    { from: "fill", to: "lit" },
  ],
  assignments: [
    hours("lay", "amadou", 40),
    hours("lay", "bo", 40),
    hours("lay", "brigid", 40),
    hours("splice", "silas", 40),
    hours("loop", "bo", 40),
    hours("route", "amadou", 8),
    hours("old", "amadou", 8),
    hours("fill", "amadou", 16),
  ],
};

/** Reports of those who sent them, waiting on the review page of one project. */
async function review(page: Page, project: string): Promise<void> {
  await page.goto(`/time?project=${project}`);
  await page.getByRole("button", { name: /^Select all/ }).click();
}
const preview = (page: Page) => page.getByRole("complementary", { name: "Effect preview" });
async function accept(page: Page, button = "Accept"): Promise<void> {
  await preview(page).getByRole("button", { name: button, exact: true }).click();
  await expect(page.getByText(/accepted; the time is posted/).last()).toBeVisible();
  await expect(page.getByText(/^Nothing waits/)).toBeVisible();
}

test("reports that come in late, early, twice or in the wrong place: what each would do is shown before it is accepted, and is what happens", async ({
  page,
}) => {
  test.setTimeout(180_000);
  await signIn(page, "tomas");
  const project = await bringPlan(page, "Harbour cable", cable);
  const [tomas, margit, amadou, bo, brigid, silas] = (await Promise.all(
    ["tomas", "margit", "amadou", "bo", "brigid", "silas"].map((login) => beside(page, login)),
  )) as [Beside, Beside, Beside, Beside, Beside, Beside];
  const { id } = await tomas.send<{ id: string }>("post", `/api/projects/${project}/approvals`, { word: "" });
  await margit.send("post", `/api/approvals/${id}/decision`, { decision: "approve", reason: "agreed" });
  const change = async (...changes: object[]): Promise<void> => {
    const { revision } = await tomas.get<{ revision: number }>(`/api/projects/${project}/plan`);
    await tomas.send("post", `/api/projects/${project}/changes`, { revision, changes });
  };
  const report = (who: Beside, activity: string, date: string, what: object): Promise<unknown> =>
    who.send("post", "/api/desk/reports", { project, activity, date, ...what });
  const finish = async (activity: string): Promise<string> => {
    await page.goto(`/projects/${project}/plan`);
    return (await (await planCell(page, activity, "Finishes")).textContent())!;
  };

  await test.step("one of three starts a day late: theirs is the last, so the finish moves by that day, and the milestone behind it", async () => {
    // Theirs comes first: nobody else has reported, and nobody else is moved.
    await report(brigid, "lay", "2026-11-10", { minutes: 480 });
    await review(page, project);
    await expect(
      preview(page).getByText(
        "“Lay cable” is taken to have begun on 9 Nov 2026 as planned: Amadou Keller, Bo Achieng have not reported yet.",
      ),
    ).toBeVisible();
    await expect(preview(page).getByText("Lay cable: 13 Nov 2026 → 16 Nov 2026 1 d later")).toBeVisible();
    await report(amadou, "lay", "2026-11-09", { minutes: 480 });
    await report(bo, "lay", "2026-11-09", { minutes: 480 });
    await review(page, project);
    await expect(preview(page).getByText("Lay cable: 13 Nov 2026 → 16 Nov 2026 1 d later")).toBeVisible();
    await expect(preview(page).getByText("Cable live: 17 Nov 2026 → 18 Nov 2026 1 d later")).toBeVisible();
    const hold = preview(page).getByLabel("Hold the window of Lay cable");
    await hold.check();
    await expect(preview(page).getByText("“Lay cable” still ends on 13 Nov 2026")).toBeVisible();
    await expect(
      preview(page).getByText(/Brigid Yilmaz: 32 h remaining in 24 h of working time, 8 h more than fits/),
    ).toBeVisible();
    await hold.uncheck();
    await expect(preview(page).getByText("Lay cable: 13 Nov 2026 → 16 Nov 2026 1 d later")).toBeVisible();
    await expect(preview(page).getByLabel("In all")).toContainText("24 h");
    await accept(page);
    expect(await finish("Lay cable")).toBe("16 Nov 2026");
  });

  await test.step("three days of leave in the middle move what remains of that person's work", async () => {
    await silas.send("post", "/api/desk/leave", { from: "2026-11-10", to: "2026-11-12", note: "wedding" });
    await review(page, project);
    await expect(page.getByText(/away until 12 Nov 2026/)).toBeVisible();
    await expect(preview(page).getByText("Splice joints: 13 Nov 2026 → 18 Nov 2026 3 d later")).toBeVisible();
    await accept(page);
    expect(await finish("Splice joints")).toBe("18 Nov 2026");
    // In other projects it waits for their managers; here nobody else has to decide it.
  });

  await test.step("someone says that more hours are left", async () => {
    await report(bo, "loop", "2026-11-09", { remainingMinutes: 56 * 60 });
    await review(page, project);
    await expect(page.getByText("remaining hours rise from 40 h")).toBeVisible();
    await expect(preview(page).getByText("Test loop: 13 Nov 2026 → 17 Nov 2026 2 d later")).toBeVisible();
    await accept(page);
    expect(await finish("Test loop")).toBe("17 Nov 2026");
  });

  await test.step("hours booked after the finish extend it, and say so first", async () => {
    await report(amadou, "route", "2026-11-09", { minutes: 60, percent: 100 });
    await review(page, project);
    await accept(page);
    await report(amadou, "route", "2026-11-11", { minutes: 60 });
    await review(page, project);
    await expect(page.getByText("finished on 9 Nov 2026; later work moves that finish")).toBeVisible();
    await expect(preview(page).getByText("Survey route: 9 Nov 2026 → 11 Nov 2026 2 d later")).toBeVisible();
    await accept(page);
    expect(await finish("Survey route")).toBe("11 Nov 2026");
  });

  await test.step("time on work whose predecessor is open, and on work in no baseline, says so; parked work takes none", async () => {
    await change(
      {
        type: "addRow",
        table: "activities",
        key: "duct",
        row: { id: "duct", name: "Extra duct", durationMinutes: 480 },
      },
      { type: "addRow", table: "assignments", key: "duct", row: hours("duct", "amadou", 8) },
    );
    await report(amadou, "fill", "2026-11-10", { minutes: 60 });
    await report(amadou, "duct", "2026-11-10", { minutes: 60 });
    await report(amadou, "old", "2026-11-12", { minutes: 60 });
    await change({ type: "setParked", activity: "old", parked: true });
    await review(page, project);
    await expect(page.getByText("comes after “Lay cable”, which is not done")).toBeVisible();
    await expect(page.getByText(/^not in baseline 1/)).toBeVisible();
    await expect(page.getByText("parked work takes no time; wake it first, or return this")).toBeVisible();
    await expect(preview(page).getByRole("alert")).toContainText("parked");
    await expect(preview(page).getByRole("button", { name: "Accept", exact: true })).toBeDisabled();
    await page.getByRole("checkbox", { name: /on Old trench/ }).uncheck();
    await expect(preview(page).getByRole("alert")).toBeHidden();
    await preview(page).getByRole("button", { name: "Accept", exact: true }).click();
    await expect(page.getByText("2 reports accepted; the time is posted.")).toBeVisible();
    await page.getByRole("checkbox", { name: /on Old trench/ }).check();
    await preview(page).getByLabel("A word to the sender").fill("The old trench is given up");
    await preview(page).getByRole("button", { name: "Return" }).click();
    await expect(page.getByText(/^Nothing waits/)).toBeVisible();
    const desk = await amadou.get<{ reports: { activity: string; state: string; word: string }[] }>("/api/desk");
    expect(desk.reports.find(({ activity, state }) => activity === "old" && state === "returned")?.word).toBe(
      "The old trench is given up",
    );
  });
});

test("one person's 100% ends nobody else's work unasked; more hours than a fixed window holds are told; the queue is narrowed by person and day", async ({
  page,
}) => {
  await signIn(page, "tomas");
  const project = await bringPlan(page, "Cable ends", {
    ...cable,
    project: { ...cable.project, code: "CE-01", name: "Cable ends" },
    activities: [effort("lay", "Lay cable"), { id: "watch", name: "Watch the gauge", durationMinutes: 2400 }],
    links: [],
    assignments: [hours("lay", "amadou", 40), hours("lay", "bo", 40), hours("watch", "brigid", 40)],
  });
  const [amadou, bo, brigid] = (await Promise.all(["amadou", "bo", "brigid"].map((login) => beside(page, login)))) as [
    Beside,
    Beside,
    Beside,
  ];
  const report = (who: Beside, activity: string, date: string, what: object): Promise<unknown> =>
    who.send("post", "/api/desk/reports", { project, activity, date, ...what });
  await report(amadou, "lay", "2026-11-09", { minutes: 480, percent: 100 });
  await report(brigid, "watch", "2026-11-09", { remainingMinutes: 56 * 60 });
  await review(page, project);
  await expect(
    preview(page).getByText("Amadou Keller says 100% of “Lay cable”. Others still have hours: Bo Achieng 40 h."),
  ).toBeVisible();
  await expect(preview(page).getByText("“Watch the gauge” ends on 13 Nov 2026 as before")).toBeVisible();
  await expect(
    preview(page).getByText("Brigid Yilmaz: 56 h remaining in 40 h of working time, 16 h more than fits"),
  ).toBeVisible();
  await expect(preview(page).getByRole("button", { name: "Accept", exact: true })).toBeDisabled();
  await preview(page).getByLabel("all of it is finished").check();
  await expect(preview(page).getByText("Lay cable: 13 Nov 2026 → 9 Nov 2026 4 d earlier")).toBeVisible();
  await preview(page).getByLabel("only their own work is finished").check();
  await expect(preview(page).getByText("Lay cable: 13 Nov 2026 → 9 Nov 2026 4 d earlier")).toBeHidden();
  await accept(page);
  await page.goto(`/projects/${project}/plan`);
  await expect(await planCell(page, "Lay cable", "Finishes")).toHaveText("13 Nov 2026");

  await report(bo, "lay", "2026-11-11", { minutes: 480 });
  await report(bo, "lay", "2026-11-12", { minutes: 480 });
  await report(amadou, "lay", "2026-11-12", { minutes: 60 });
  await page.goto(`/time?project=${project}`);
  await page.getByLabel("Person").selectOption("Bo Achieng");
  await expect(page.getByRole("button", { name: "Select all 2" })).toBeVisible();
  await page.getByLabel("Day").selectOption("2026-11-12");
  await page.getByRole("button", { name: "Select all 1" }).click();
  await expect(page).toHaveURL(/person=Bo\+Achieng&day=2026-11-12/);
  await preview(page).getByRole("button", { name: "Accept", exact: true }).click();
  await expect(page.getByText("1 report accepted; the time is posted.")).toBeVisible();
});

test("a fixed window of a quarter that begins late still ends on its last day, and the load that makes is shown", async ({
  page,
}) => {
  await signIn(page, "tomas");
  const project = await bringPlan(page, "Quarter watch", {
    ...cable,
    project: { ...cable.project, code: "QW-01", name: "Quarter watch", start: "2026-10-01", dataDate: "2026-09-30" },
    activities: [{ id: "watch", name: "Watch the gauge", durationMinutes: 66 * 480 }],
    links: [],
    assignments: [hours("watch", "amadou", 528)],
  });
  await expect(await planCell(page, "Watch the gauge", "Finishes")).toHaveText("31 Dec 2026");
  const amadou = await beside(page, "amadou");
  await amadou.send("post", "/api/desk/reports", {
    project,
    activity: "watch",
    date: "2026-10-14",
    minutes: 480,
    percent: 2,
  });
  await review(page, project);
  await expect(preview(page).getByText(/Watch the gauge: 31 Dec 2026 → \d+ Jan 2027/)).toBeVisible();
  await preview(page).getByLabel("Hold the window of Watch the gauge").check();
  await expect(preview(page).getByText("“Watch the gauge” still ends on 31 Dec 2026")).toBeVisible();
  await expect(
    preview(page).getByText(/Amadou Keller: 520 h remaining in 448 h of working time, 72 h more than fits/),
  ).toBeVisible();
  await accept(page, "Accept and hold");
  await page.goto(`/projects/${project}/plan`);
  await expect(await planCell(page, "Watch the gauge", "Finishes")).toHaveText("31 Dec 2026");
});
