import { expect, test } from "@playwright/test";
import { bringPlan, broughtPlan, signIn } from "./helpers.ts";

test("a project is played through with ranges and a risk: how likely its finish and its promise are, the same for the same seed", async ({
  page,
}) => {
  await signIn(page, "ines");
  await bringPlan(page, "Chance jetty", broughtPlan("CH-1", "Chance jetty") as object);
  await page.getByRole("link", { name: "Look", exact: true }).click();
  await page.getByRole("link", { name: "Chances" }).click();
  const said = page.getByText(/^It finishes by .* in 50 of 100 runs, by .* in 80 of 100\.$/);
  await expect(said).toBeVisible();
  const promise = page
    .getByRole("table", { name: "Chances of deadlines" })
    .getByRole("row")
    .filter({ hasText: "Jetty open" });
  await expect(promise).toContainText(/in \d+ of 100|in all runs|in over 99/);
  const first = await said.innerText();

  // A range of its own: bad input says so in place, a good one moves the chances, and is taken back.
  const range = page.getByLabel("Range of Drive piles");
  await range.fill("120 90 100");
  await range.press("Enter");
  await expect(page.getByText(/^Three percents that do not fall, as 90 100 135/)).toBeVisible();
  await range.fill("100 200 400");
  await range.press("Enter");
  await expect(said).not.toHaveText(first);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByText("It is as it was before.")).toBeVisible();
  await expect(said).toHaveText(first);

  // A risk that comes about for certain moves the finish in every run.
  const risks = page.getByRole("region", { name: "Risks" });
  await risks.getByLabel("What may happen").fill("Crane fails");
  await risks.getByLabel("Probability, %").fill("100");
  await risks.getByLabel("Activity it bears on").fill("Drive piles");
  await risks.getByLabel("Another activity").fill("Lay deck");
  await risks.getByRole("button", { name: "Leave out Drive piles" }).click();
  await risks.getByRole("button", { name: "Add the risk" }).click();
  await expect(risks.getByRole("alert")).toHaveText(
    "Write three numbers of days that do not fall, as 2 5 10, for each activity.",
  );
  for (const [name, days] of [
    ["least", "30"],
    ["likeliest", "30"],
    ["most", "40"],
  ] as const)
    await risks.getByLabel(`Lay deck longer, ${name}`).fill(days);
  await risks.getByRole("button", { name: "Add the risk" }).click();
  await expect(risks.getByRole("listitem").filter({ hasText: "Crane fails" })).toContainText(
    "100%: 30 to 40 d more on Lay deck, likeliest 30",
  );
  await expect(promise).toContainText("in no run");
  // Changed in place: what cannot be is said and kept as typed.
  await risks.getByRole("button", { name: "Change Crane fails" }).click();
  const form = risks.getByRole("form", { name: "Change Crane fails" });
  await form.getByLabel("Probability, %").fill("often");
  await form.getByRole("button", { name: "Save the change" }).click();
  await expect(form.getByRole("alert")).toHaveText("Write the probability as a percent, as 30.");
  await form.getByLabel("Probability, %").fill("40");
  await form.getByLabel("Extra cost, least").fill("100");
  await form.getByLabel("Extra cost, likeliest").fill("200");
  await form.getByLabel("Extra cost, most").fill("900");
  await form.getByRole("button", { name: "Save the change" }).click();
  await expect(risks.getByRole("listitem").filter({ hasText: "Crane fails" })).toContainText(
    /40%: 30 to 40 d more on Lay deck, likeliest 30; 100 to 900 EUR, likeliest 200/,
  );
  await risks.getByRole("button", { name: "Remove Crane fails" }).click();
  await expect(said).toHaveText(first);

  // A link leads to the same answer; long ones can be left.
  await page.goto(`${page.url().split("?")[0]}?runs=100000&seed=3`);
  await expect(page.getByRole("status").filter({ hasText: "Playing the project through 100000 times" })).toBeVisible();
  await page.getByRole("button", { name: "Cancel" }).click();
  await expect(page.getByText("Cancelled.")).toBeVisible();
});
