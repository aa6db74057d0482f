import { landing, minorOf, type Change, type Plan } from "@chronometra/core";
import type { OutsideLineEntity } from "./outsideEntities.ts";

/** An amount of a line in the minor units of a plan. */
export const minorIn = (plan: Plan, amount: number): number => minorOf(amount, plan.project.minorDigits ?? 2);

/** A cost as it is told; empty words say nothing. */
interface Cost {
  readonly activity: string;
  readonly date: string;
  readonly amountMinor: number;
  readonly category: string;
  readonly reference: string;
}

/** The change that posts a cost; one of a locked period lands on the day after it. */
export function postedCost(
  key: string,
  { activity, date, amountMinor, category, reference }: Cost,
  closedTo: string | null,
): Change {
  const lands = landing(date, reference, closedTo);
  const cost = { activity, date: lands.date, amountMinor };
  const rest = { ...(category === "" ? {} : { category }), ...(lands.said === "" ? {} : { reference: lands.said }) };
  return { type: "postCost", key, cost: { ...cost, ...rest } };
}

/** The change that posts the cost of a line. */
export function costChange(
  { id, activityId, date, category, reference }: OutsideLineEntity,
  amountMinor: number,
  closedTo: string | null,
): Change {
  const cost = { activity: activityId!, date, amountMinor, category, reference };
  return postedCost(`outside-${id}`, cost, closedTo);
}
