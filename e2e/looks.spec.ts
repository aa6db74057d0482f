import { readFile } from "node:fs/promises";
import { expect, test, type Page } from "@playwright/test";
import { bringPlan, broughtPlan, projectId, seriousFindings, shown, signIn } from "./helpers.ts";

/** Where the things of the demo world are, by the code of their project. */
interface Places {
  readonly project: (code: string) => string;
  readonly deadline: (code: string) => string;
}

type Stop = readonly [name: string, address: string | ((places: Places) => string)];
const TOURS: readonly (readonly [who: string, tours: readonly (readonly Stop[])[]])[] = [
  [
    "ines",
    [
      [
        ["portfolio", "/"],
        ["roadmap", "/roadmap"],
        ["calendar", "/calendar?date=2026-11-24"],
        ["calendar, a week", "/calendar?date=2026-11-24&view=week"],
        ["all groups", "/groups"],
        ["deadlines", "/deadlines"],
        [
          "a deadline and what lies behind it",
          ({ project, deadline }) => `/deadlines?at=${project("FS-01")}:${deadline("FS-01")}`,
        ],
        ["load", "/load?who=bo-achieng&week=2026-11-30"],
        ["load by role, things", "/load?by=role&show=things"],
        ["slip a milestone", ({ project, deadline }) => `/projects/${project("FS-01")}/slip/${deadline("FS-01")}`],
        ["bring a plan", "/import"],
        ["charter", ({ project }) => `/projects/${project("LG-02")}/charter`],
        ["stages and gates", ({ project }) => `/projects/${project("LG-02")}/stages`],
        ["life cycles", "/set-up/life-cycles"],
        ["registers", "/registers"],
        ["risks of a project", ({ project }) => `/projects/${project("LG-02")}/registers?kind=risk`],
        [
          "a risk",
          ({ project }) => `/projects/${project("LG-02")}/registers?kind=risk&matter=${project("LG-02")}%3Arisk-2`,
        ],
        ["scale of registers", "/set-up/registers"],
        ["begin a project", "/begin"],
        ["begin in three steps", "/begin/steps"],
        ["begin with a project", ({ project }) => `/begin/from?with=project:${project("LG-02")}`],
        ["begin without a plan", "/begin/by-hand"],
        ["templates", "/set-up/templates"],
      ],
      [
        ["watchlist", "/watch/overdue"],
        ["watchlist, counted", "/watch/costs"],
        ["a new question", "/watch"],
        ["trust", ({ project }) => `/projects/${project("FS-01")}/trust?at=1`],
        ["performance", ({ project }) => `/projects/${project("FS-01")}/performance`],
        ["figures", ({ project }) => `/projects/${project("LG-02")}`],
        ["what is behind a figure", ({ project }) => `/projects/${project("LG-02")}?behind=A0010`],
        ["chances", ({ project }) => `/projects/${project("LG-02")}/chances?runs=500`],
        ["nothing to measure", ({ project }) => `/projects/${project("SW-05")}`],
      ],
      [
        ["plan", ({ project }) => `/projects/${project("LG-02")}/plan`],
        ["plan, why", ({ project }) => `/projects/${project("SW-04")}/plan?about=why&at=A0050&lit=longest`],
        ["plan, work", ({ project }) => `/projects/${project("SW-04")}/plan?about=work&at=A0050`],
        ["plan, dates and owner", ({ project }) => `/projects/${project("SW-04")}/plan?about=dates&at=A0050`],
        ["plan, rule of credit", ({ project }) => `/projects/${project("SW-04")}/plan?about=credit&at=A0050`],
        ["plan on paper", ({ project }) => `/projects/${project("SW-04")}/plan/print`],
      ],
      [
        ["calendars", ({ project }) => `/projects/${project("SW-04")}/resources`],
        ["people", ({ project }) => `/projects/${project("SW-04")}/resources?part=people&person=fenna-delacroix`],
        ["teams", ({ project }) => `/projects/${project("SW-04")}/resources?part=teams`],
        ["cost categories", ({ project }) => `/projects/${project("SW-04")}/resources?part=categories`],
        ["own fields", ({ project }) => `/projects/${project("SW-04")}/resources?part=fields`],
        ["dates", ({ project }) => `/projects/${project("LG-02")}/dates`],
        ["keys", "/keys"],
        ["register", "/set-up/register?person=amadou-keller"],
        ["register of calendars", "/set-up/register?part=calendars"],
        ["register of teams", "/set-up/register?part=teams"],
        ["groups, fields and limits", "/set-up/groups"],
        ["exchange rates", "/set-up/rates"],
        ["first steps", "/first-steps"],
        ["an address where nothing lives", "/nowhere"],
      ],
      [
        ["people's weeks", "/time/people"],
        ["costs and outside time", "/time/costs"],
        ["blocked", "/time/blocked"],
        ["the cycle", "/cycle"],
        ["not reported", "/cycle/missing"],
        ["what will be locked", "/cycle/lock"],
        ["data dates", "/cycle/data-dates"],
        ["closing", ({ project }) => `/projects/${project("LG-02")}/closing`],
        ["two states compared", ({ project }) => `/projects/${project("FS-01")}/compare?from=period-8&to=plan`],
        ["history", ({ project }) => `/projects/${project("LG-02")}/history`],
        ["reports", "/reports"],
        ["report", ({ project }) => `/projects/${project("LG-02")}/report`],
        ["report as it will be read", ({ project }) => `/projects/${project("LG-02")}/report?view=preview`],
        ["reports issued", ({ project }) => `/projects/${project("LG-02")}/report?view=issued`],
        ["a report", ({ project }) => `/projects/${project("LG-02")}/report/9`],
        ["two reports", ({ project }) => `/projects/${project("LG-02")}/report/9?with=8`],
        ["report of the whole", "/reports/house"],
      ],
    ],
  ],
  [
    "amadou",
    [
      [
        ["desk", "/desk"],
        ["week", "/desk/week"],
      ],
    ],
  ],
  [
    "tomas",
    [
      [
        ["review", "/time"],
        ["ledger of approvals", ({ project }) => `/projects/${project("LG-02")}/approvals`],
      ],
    ],
  ],
  [
    "sunniva",
    [
      [
        ["plans of one’s work", "/desk/plans"],
        ["a plan as it was", ({ project }) => `/projects/${project("SW-05")}/then/5`],
        ["talk of a project", ({ project }) => `/projects/${project("SW-05")}/talk`],
        ["timeboxes", ({ project }) => `/projects/${project("FS-04")}/timeboxes`],
        ["a milestone that gathers", ({ project }) => `/projects/${project("FS-04")}/milestones/A0620`],
        ["a timebox", ({ project }) => `/projects/${project("FS-04")}/timeboxes/fortnight-3`],
        ["board", ({ project }) => `/projects/${project("SW-05")}/board`],
        ["meetings", ({ project }) => `/projects/${project("SW-05")}/resources?part=meetings`],
      ],
    ],
  ],
  [
    "dagny",
    [
      [
        ["mail", "/mail"],
        ["settings", "/settings"],
        ["accounts", "/set-up/accounts"],
        ["other systems", "/set-up/systems"],
        ["interface", "/set-up/interface?call=postFeedsCosts"],
        ["history of the house", "/set-up/history"],
      ],
    ],
  ],
  [
    "margit",
    [
      [
        ["approvals", "/approvals"],
        ["inbox", "/inbox"],
        ["talk", "/talk"],
      ],
    ],
  ],
];

async function placesOf(page: Page): Promise<Places> {
  const [portfolio, deadlines] = await page.evaluate(async () =>
    Promise.all(
      ["/api/portfolio", "/api/deadlines"].map(async (path) => (await fetch(path)).json() as Promise<unknown>),
    ),
  );
  const found = <T extends { id: string; code: string }>(list: readonly T[], code: string): string =>
    list.find((each) => each.code === code)!.id;
  return {
    project: (code) => found((portfolio as { projects: { id: string; code: string }[] }).projects, code),
    deadline: (code) => found(deadlines as { id: string; code: string }[], code),
  };
}

/** What only machines say of a date, or call a thing. What another system called its lines is theirs. */
const machineWords = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const said = [
      document.body.innerText,
      ...[...document.querySelectorAll("[title], [aria-label]")].flatMap((each) => [
        each.getAttribute("title") ?? "",
        each.getAttribute("aria-label") ?? "",
      ]),
    ].join("\n");
    const plain = said.replace(/\b(gate|INV)-[A-Z]{2}-\S+/g, "");
    return [...new Set(plain.match(/.{0,30}(\b\d{4}-\d{2}-\d{2}\b|[0-9a-f]{8}-[0-9a-f]{4}-).{0,20}/g) ?? [])];
  });

/** Tables that leave their page once it stands still, and what opens something without looking so at rest. Places made to be scrolled sideways may be. */
const looseEnds = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const content = document.querySelector("#content")!;
    const wide = [...content.querySelectorAll("table")].filter((table) => {
      const scroller = table.closest(".overflow-x-auto, .overflow-auto, #content")!;
      return (
        !scroller.matches(".overflow-x-auto, .max-h-96") &&
        table.getBoundingClientRect().right > scroller.getBoundingClientRect().right + 1
      );
    });
    const hidden = [...content.querySelectorAll<HTMLElement>("a[href]")].filter(
      (link) =>
        link.closest(".btn, nav, svg, details ul") === null &&
        link.offsetParent !== null &&
        !getComputedStyle(link).textDecorationLine.includes("underline"),
    );
    return [
      ...wide.map((table) => {
        const room = table.closest<HTMLElement>(".overflow-x-auto, .overflow-auto, #content")!;
        const beside = [...(room.parentElement?.children ?? [])].filter((each) => each !== room);
        return [
          `table ${table.getAttribute("aria-label")} is ${table.offsetWidth} px wide in ${room.clientWidth} px, beside`,
          ...beside.map(({ outerHTML }) => outerHTML.slice(0, 200)),
        ].join(" ");
      }),
      ...hidden.map((link) => `link ${link.textContent}`),
    ];
  });

for (const [who, tours] of TOURS) {
  for (const stops of tours) {
    test(`axe finds nothing serious, in both themes: ${stops.map(([name]) => name).join("; ")}`, async ({ page }) => {
      test.setTimeout(300_000);
      await page.emulateMedia({ reducedMotion: "reduce" });
      await signIn(page, who);
      const places = await placesOf(page);
      for (const [name, address] of stops) {
        await test.step(name, async () => {
          await page.goto(typeof address === "string" ? address : address(places));
          await shown(page);
          expect.soft(await seriousFindings(page), name).toEqual([]);
          expect.soft(await machineWords(page), `${name}: dates as files have them, and ids`).toEqual([]);
          await expect
            .configure({ soft: true, timeout: 5_000 })
            .poll(() => looseEnds(page), name)
            .toEqual([]);
          // Sent to it, since a dialog may lie above it.
          await page.getByLabel(/^Use the (dark|light) theme$/).dispatchEvent("click");
          // What is drawn anew in the other theme is there a frame later.
          await page.evaluate(
            () => new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve))),
          );
          expect.soft(await seriousFindings(page, "contrast"), `${name}, in the other theme`).toEqual([]);
        });
      }
    });
  }
}

test("long names and sums of ten digits are whole or cut, and push nothing off the page", async ({ page }) => {
  const long = (of: string): string =>
    `${of}, ${"reinforced approach channel and the moorings beside it, ".repeat(3)}`.slice(0, 134);
  const plan = broughtPlan("LONG-NAMED-1", long("Jetty")) as {
    activities: { name: string }[];
    costs: { plannedMinor: number }[];
  };
  const activities = plan.activities.map((activity) => ({ ...activity, name: long(activity.name) }));
  await signIn(page, "ines");
  const id = await bringPlan(page, long("Jetty"), {
    ...plan,
    activities,
    costs: plan.costs.map((cost) => ({ ...cost, plannedMinor: 123_456_789_012 })),
  });
  for (const address of [
    "/",
    "/deadlines",
    `/projects/${id}`,
    `/projects/${id}/dates`,
    `/projects/${id}/performance`,
    `/projects/${id}/trust`,
    "/watch/due-soon",
    "/watch/costs",
    "/cycle",
    "/time",
  ])
    await test.step(address, async () => {
      await page.goto(address);
      await shown(page);
      await expect
        .configure({ soft: true, timeout: 5_000 })
        .poll(() => looseEnds(page), address)
        .toEqual([]);
    });
  await page.goto(`/projects/${id}`);
  await expect(page.getByRole("heading", { name: long("Jetty") })).toBeVisible();
  expect(
    await page.getByRole("heading", { name: long("Jetty") }).evaluate((head) => head.scrollWidth - head.clientWidth),
  ).toBeLessThanOrEqual(0);
});

test("axe finds nothing serious: signing in; a wrong password says so and keeps the name", async ({ page }) => {
  await page.goto("/");
  await page.getByLabel("Name", { exact: true }).fill("ines");
  await page.getByLabel("Password").fill("wrong");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("alert")).toHaveText("Name or password is not right.");
  await expect(page.getByLabel("Name", { exact: true })).toHaveValue("ines");
  expect(await seriousFindings(page)).toEqual([]);
});

test("every number of the portfolio opens what is behind it, and a link to it works for someone else", async ({
  page,
  context,
}) => {
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
  await table.getByRole("button", { name: "CPI", exact: true }).click();
  await expect(table.getByRole("columnheader", { name: /CPI/ })).toHaveAttribute("aria-sort", "ascending");
  await expect(table.getByRole("row").nth(1)).toContainText("Weir fish pass");
  // Copies of either, made by other tests, stand beside it.
  const both = table.getByRole("row").filter({ hasText: /Weir fish pass|Outer breakwater/ });
  await expect(both.last()).toContainText("Outer breakwater");
  await page.getByLabel("Filter Projects").fill("lamp");
  await expect(table.locator("tbody").getByRole("row")).toHaveCount(1);
  await page.getByText("Columns", { exact: true }).click();
  await page.getByLabel("BAC").uncheck();
  await expect(table.getByRole("columnheader", { name: "BAC" })).toBeHidden();
  await page.getByRole("button", { name: "Copy" }).click();
  await expect(page.getByText("1 row copied; paste into a spreadsheet.")).toBeVisible();
  const copied = await page.evaluate(() => navigator.clipboard.readText());
  const [head, row] = copied.split(/\r?\n/).map((text) => text.split("\t"));
  expect(head).not.toContain("BAC");
  expect(row![0]).toBe("SW-02 Lamp electrification");
  expect(Number(row![head!.indexOf("CPI")])).toBeGreaterThan(0.5);
  // Shown again for whoever comes next; it is kept a moment later.
  const kept = page.waitForResponse((response) => response.url().includes("/api/preferences/columns"));
  await page.getByText("Columns", { exact: true }).click();
  await page.getByLabel("BAC").check();
  await kept;
});

test("any page goes on paper: unrolled, in dark ink even from the dark theme, charts no wider than the sheet", async ({
  page,
}) => {
  await page.emulateMedia({ colorScheme: "dark" });
  await signIn(page, "ines");
  await page.goto(`/projects/${await projectId(page, "LG-02")}/performance`);
  const chart = page.getByRole("img").locator("svg").first();
  await expect(chart).toBeVisible();
  const label = chart.locator("text").first();
  const inkOf = (): Promise<string> => label.evaluate((text) => text.getAttribute("fill") ?? "");
  const onScreen = await inkOf();
  await page.setViewportSize({ width: 700, height: 900 });
  await page.emulateMedia({ media: "print" });
  await page.evaluate(() => window.dispatchEvent(new Event("beforeprint")));
  expect(await inkOf()).toBe("#17243a");
  await expect(page.getByRole("navigation", { name: "Places" })).toBeHidden();
  await expect(page.getByLabel(/as a picture/).first()).toBeHidden();
  const sheet = await page.evaluate(() => ({
    wide: document.documentElement.scrollWidth,
    tall: document.documentElement.scrollHeight,
    whole: document.querySelector("main")!.scrollHeight,
    inner: document.querySelector("main")!.clientHeight,
  }));
  expect(sheet.inner).toBe(sheet.whole);
  expect(sheet.tall).toBeGreaterThan(900);
  expect((await chart.boundingBox())!.width).toBeLessThanOrEqual(700);
  await page.emulateMedia({ media: null });
  await page.evaluate(() => window.dispatchEvent(new Event("afterprint")));
  expect(await inkOf()).toBe(onScreen);
  expect(onScreen).not.toBe("#17243a");
});

test("a table of many columns goes on paper across, each figure in one piece, without the bar; one of few stays upright", async ({
  page,
}) => {
  await signIn(page, "ines");
  await page.goto("/");
  await expect(page.getByRole("table", { name: "Projects" })).toBeVisible();
  const sheets = async (): Promise<string[]> =>
    [
      ...(await page.pdf({ format: "A4", preferCSSPageSize: true }))
        .toString("latin1")
        .matchAll(/\/MediaBox\s*\[([^\]]+)\]/g),
    ].map(([, box]) => {
      const [, , width, height] = box!.trim().split(/\s+/).map(Number);
      return width! > height! ? "across" : "upright";
    });
  expect(new Set(await sheets())).toEqual(new Set(["across"]));
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("banner")).toBeHidden();
  const broken = await page.locator(".ledger td.num").evaluateAll((cells) =>
    cells
      .filter((cell) => {
        const range = document.createRange();
        range.selectNodeContents(cell);
        return range.getBoundingClientRect().height > 1.8 * parseFloat(getComputedStyle(cell).lineHeight || "14");
      })
      .map(({ textContent }) => textContent),
  );
  expect(broken).toEqual([]);
  await page.emulateMedia({ media: null });
  await page.goto("/cycle/lock");
  await expect(page.getByRole("heading", { name: /^Lock period/ })).toBeVisible();
  await shown(page);
  expect(new Set(await sheets())).toEqual(new Set(["upright"]));
});

test("the steps of the period bar lead to what is open in them", async ({ page }) => {
  await signIn(page, "ines");
  await page
    .getByRole("list", { name: "The cycle" })
    .getByRole("link", { name: /Collect/ })
    .click();
  const missing = page.getByRole("table", { name: "Not reported" }).locator("tbody tr");
  await expect(missing.first()).toBeVisible();
  const count = await missing.count();
  await expect(page.getByRole("list", { name: "The cycle" })).toContainText(`${count} missing`);
  await expect(
    page.getByRole("heading", { name: new RegExp(`^${count} (person|people) ha(s|ve) not reported`) }),
  ).toBeVisible();
  await expect(page).toHaveTitle("Not reported · Chronometra");
  await page
    .getByRole("list", { name: "The cycle" })
    .getByRole("link", { name: /Review/ })
    .click();
  await expect(page).toHaveTitle("Time to review · Chronometra");
  await expect(page.getByRole("heading", { name: "Time to review" })).toBeVisible();
});

test("a date is chosen from a calendar by keyboard or pointer; Escape leaves it as it was", async ({ page }) => {
  await signIn(page, "amadou");
  await page.goto("/desk");
  const day = page.getByLabel("Day to book on", { exact: true });
  const open = page.getByRole("button", { name: "Select from a calendar" }).first();
  const calendar = page.getByRole("dialog", { name: "A calendar" });
  await day.fill("14 Oct 2026");
  await day.press("Enter");
  await open.click();
  await expect(calendar.getByRole("button", { name: /October 14th, 2026, selected/ })).toBeFocused();
  expect(await seriousFindings(page)).toEqual([]);
  await page.keyboard.press("Escape");
  await expect(calendar).toBeHidden();
  await expect(day).toHaveValue("14 Oct 2026");
  await open.press("Enter");
  await expect(calendar.getByRole("button", { name: /October 14th, 2026, selected/ })).toBeFocused();
  await page.keyboard.press("ArrowLeft");
  await page.keyboard.press("Enter");
  await expect(day).toHaveValue("13 Oct 2026");
  await expect(open).toBeFocused();
  await open.click();
  await calendar.getByRole("button", { name: /October 6th, 2026/ }).click();
  await expect(day).toHaveValue("6 Oct 2026");
});

test("a menu closes by Escape, by a press beside it, and once something was chosen", async ({ page }) => {
  await signIn(page, "ines");
  await page.goto(`/projects/${await projectId(page, "LG-02")}/board`);
  const [menu, item] = [
    page.locator("summary", { hasText: "Export" }),
    page.getByRole("link", { name: "All that it holds (.json)" }),
  ];
  await menu.click();
  await expect(item).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(item).toBeHidden();
  await menu.click();
  await page.getByRole("heading", { level: 1 }).click();
  await expect(item).toBeHidden();
  await menu.click();
  await item.click();
  await expect(item).toBeHidden();
});

test.describe("on a phone", () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });
  test("the desk fits, and time is booked with one field", async ({ page }) => {
    await signIn(page, "brigid");
    const field = page.getByPlaceholder("1.5h, a note").first();
    await expect(field).toBeVisible();
    // More may wait already of what one does now.
    const all = page.getByText(/h waiting to be accepted$/);
    const before = (await all.count()) === 0 ? 0 : Number(/[\d.]+/.exec(await all.first().innerText())![0]);
    const waiting = (hours: number) => page.getByText(new RegExp(`(^|\\s)${hours} h waiting to be accepted`));
    await field.fill("2h");
    await field.press("Enter");
    await expect(waiting(before + 2).first()).toBeVisible();
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await page.getByRole("button", { name: "Withdraw" }).first().click();
    await expect(waiting(before + 2)).toBeHidden();
  });

  test("the portfolio's table is drawn as one comes to it, and on paper; its links and sums are there then", async ({
    page,
  }) => {
    await signIn(page, "ines");
    const table = page.getByRole("table", { name: "Projects" });
    await expect(page.getByRole("main").locator("h2").first()).toBeVisible();
    expect(await page.evaluate(() => matchMedia("(hover: none)").matches)).toBe(true);
    await expect(table).toHaveCount(0);
    await page.evaluate(() => window.dispatchEvent(new Event("beforeprint")));
    await expect(table).toHaveCount(1);
    await page.evaluate(() => window.dispatchEvent(new Event("afterprint")));
    await page.reload();
    await expect(page.getByRole("main").locator("h2").first()).toBeVisible();
    await expect(table).toHaveCount(0);
    await page.getByText("Drawing …").last().scrollIntoViewIfNeeded();
    await expect(table.getByRole("link", { name: /Outer breakwater/ })).toBeVisible();
    await expect(table.getByText("All projects")).toBeVisible();
  });
});

test("a chart is saved as a picture in points and in lines, with its typeface in it", async ({ page }) => {
  await signIn(page, "ines");
  const save = async (form: string): Promise<Buffer> => {
    await page.getByLabel("Save SPI and CPI as a picture").click();
    const [file] = await Promise.all([
      page.waitForEvent("download"),
      page.getByRole("button", { name: `Picture (${form})` }).click(),
    ]);
    expect(file.suggestedFilename()).toBe(`spi-and-cpi.${form.toLowerCase()}`);
    return readFile(await file.path());
  };
  const png = await save("PNG");
  expect(png.subarray(1, 4).toString()).toBe("PNG");
  // Twice as wide as it stands on the page (PNG specification, IHDR).
  const width = await page
    .locator("figure svg[viewBox]")
    .first()
    .evaluate((svg) => svg.clientWidth);
  expect(png.readUInt32BE(16)).toBe(2 * width);
  const svg = (await save("SVG")).toString();
  expect(
    await page.evaluate((text) => new DOMParser().parseFromString(text, "image/svg+xml").documentElement.tagName, svg),
  ).toBe("svg");
  expect(svg).toContain("@font-face");
  expect(svg).toContain("LG-02");
});
