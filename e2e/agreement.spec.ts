import type { EffectView, PlanView } from "@chronometra/contract";
import type { Change } from "@chronometra/core";
import { expect, test } from "@playwright/test";
import { PlanEngine } from "../apps/web/src/plan/engine/planEngine.ts";
import { projectId, signIn } from "./helpers.ts";

/** Numbers that come again each time. */
function numbers(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (Math.imul(state, 1_103_515_245) + 12_345) & 0x7fffffff;
    return state % below;
  };
}

/** Some change of a plan: a length, a link with a lag, a wish, a calendar, hours, parking. */
function someChange(view: PlanView, pick: (below: number) => number, n: number): Change {
  const activities = (
    view.tables.activities as [string, { kind?: string; parked?: boolean; actualStart?: string }][]
  ).filter(
    ([, { kind, parked, actualStart }]) => (kind ?? "work") === "work" && parked !== true && actualStart === undefined,
  );
  const calendars = view.tables.calendars as [string, unknown][];
  const at = pick(activities.length);
  const activity = activities[at]![0];
  switch (pick(5)) {
    case 0:
      return { type: "setDuration", activity, minutes: 60 + pick(9000) };
    case 1: {
      const later = activities[Math.min(activities.length - 1, at + 1 + pick(5))]![0];
      return {
        type: "addRow",
        table: "links",
        key: `agree-${n}`,
        row: {
          from: activity,
          to: later === activity ? activities[0]![0] : later,
          type: (["FS", "SS", "FF"] as const)[pick(3)]!,
          lagMinutes: pick(2000) - 600,
          ...(pick(3) === 0 ? { lagIn: "elapsed" as const } : {}),
        },
      };
    }
    case 2:
      return { type: "setWish", activity, wish: { type: "startNotBefore", date: `2027-0${1 + pick(8)}-1${pick(9)}` } };
    case 3:
      return {
        type: "setWorking",
        activity,
        calendar: calendars[pick(calendars.length)]![0],
        driver: pick(2) === 0 ? "effort" : null,
      };
    default:
      return { type: "setDeadline", activity, date: `2027-0${1 + pick(8)}-1${pick(9)}` };
  }
}

test("what the page works out by itself and what the server answers agree to the minute, change after change", async ({
  page,
}) => {
  await signIn(page, "ines");
  for (const [seed, code] of ["SW-04", "SW-05", "FS-06", "LG-05"].entries()) {
    const id = await projectId(page, code);
    const view = (await (await page.request.get(`/api/projects/${id}/plan`)).json()) as PlanView;
    const { token } = (await (await page.request.get("/api/session")).json()) as { token: string };
    const engine = new PlanEngine();
    engine.open(view);
    const pick = numbers(seed + 7);
    const changes: Change[] = [];
    for (let n = 0; n < 12; n++) {
      const next = [...changes, someChange(view, pick, n)];
      const here = engine.preview(next);
      const answer = await page.request.post(`/api/projects/${id}/effect`, {
        headers: { "x-chronometra-token": token },
        data: { revision: view.revision, changes: next },
      });
      // What one refuses, a loop, the other refuses too.
      expect([code, n, answer.ok()]).toEqual([code, n, "effect" in here]);
      if (!("effect" in here)) continue;
      changes.push(next.at(-1)!);
      const there = (await answer.json()) as EffectView;
      // Days are fractions of a working day: they agree only where every minute does.
      expect({
        finish: here.effect.finish,
        activities: here.effect.activities,
        milestones: here.effect.milestones,
        deadlines: here.effect.deadlines,
      }).toEqual({
        finish: there.finish,
        activities: there.activities,
        milestones: there.milestones,
        deadlines: there.deadlines,
      });
      if (here.effect.cost !== null)
        expect(here.effect.cost.estimateAfter - here.effect.cost.estimateBefore).toBe(
          there.cost!.estimateAfter - there.cost!.estimateBefore,
        );
    }
    expect(changes.length).toBeGreaterThan(6);
  }
});
