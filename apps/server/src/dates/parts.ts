import type { PerformanceView } from "@chronometra/contract";
import {
  performanceByShare,
  performanceByValue,
  NOBODY,
  type Figures,
  type Plan,
  type ShareKind,
} from "@chronometra/core";
import type { ComputedPlan } from "../plan/held/computedPlan.ts";
import { Failure } from "../shared/failure.ts";

/** By what figures are split, and what is said of those that belong to none. */
export const SHARES: Readonly<Record<ShareKind, { name: string; nobody: string }>> = {
  person: { name: "person", nobody: "not of a person" },
  role: { name: "role", nobody: "no role" },
  category: { name: "category", nobody: "people's time, and costs of no category" },
};
const isShare = (by: string): by is ShareKind => Object.hasOwn(SHARES, by);

/** A plan's figures split by who, by what role, category or own field; of nothing that is measured no parts. */
export function partsOf(
  plan: Plan,
  { bundle, computed: { schedule, performance } }: ComputedPlan,
  by: string,
): PerformanceView["parts"] {
  if (performance === null) return [];
  const present = (parts: ReadonlyMap<string, Figures>, nameOf: (key: string) => string): PerformanceView["parts"] =>
    [...parts]
      .map(([key, figures]) => ({ key, name: nameOf(key), figures }))
      .sort((a, b) => (a.key === NOBODY ? 1 : b.key === NOBODY ? -1 : a.name.localeCompare(b.name)));
  if (isShare(by))
    return present(performanceByShare(bundle, schedule, performance, by), (key) =>
      key === NOBODY ? SHARES[by].nobody : by === "person" ? (plan.people.get(key)?.name ?? key) : key,
    );
  const id = by.slice("own:".length);
  const field = by.startsWith("own:") ? plan.fields.get(id) : undefined;
  if (field === undefined) throw new Failure("notFound", "Figures are split by person, role, category or own:field.");
  const valueOf = (activity: string): string => {
    const value = plan.ownValues.get(activity)?.[id];
    return value === undefined ? NOBODY : typeof value === "boolean" ? (value ? "yes" : "no") : String(value);
  };
  return present(performanceByValue(bundle, performance, valueOf), (key) =>
    key === NOBODY ? `no ${field.name.toLowerCase()}` : key,
  );
}
