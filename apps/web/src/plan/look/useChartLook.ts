import { useEffect, useMemo, useState } from "react";
import { useAddress } from "../../shared/page/useAddress.ts";
import { colouringBy } from "../chart/colours.ts";
import type { DrawnTest } from "../engine/planEngine.ts";
import type { PlanSession } from "../engine/session/planSession.ts";
import type { ChartLook } from "../chart/chartLook.ts";
import type { Sheet } from "../engine/sheet.ts";

const NO_BASELINE = "none";
const LONGEST = "longest";
/** What the critical path test moves, drawn where it would lie. */
const PATH_TEST = "test";

/** What leads to an activity and what hangs on it; `null` where none is lit, or until that is known. */
function useChain(activity: string | null, sheet: Sheet, session: PlanSession): ReadonlySet<string> | null {
  const [chain, setChain] = useState<ReadonlySet<string> | null>(null);
  useEffect(() => {
    let current = true;
    if (activity === null) setChain(null);
    else void session.chainOf(activity).then((ids) => current && setChain(new Set(ids)));
    return () => void (current = false);
  }, [activity, sheet, session]);
  return chain;
}

function usePathTest(isDrawn: boolean, sheet: Sheet, session: PlanSession): DrawnTest | null {
  const [test, setTest] = useState<DrawnTest | null>(null);
  useEffect(() => {
    let current = true;
    if (!isDrawn) setTest(null);
    else void session.pathTest().then((drawn) => current && setTest(drawn));
    return () => void (current = false);
  }, [isDrawn, sheet, session]);
  return test;
}

/** How the chart shows the plan, kept in the address so that a link leads to the same picture. */
export function useChartLook(sheet: Sheet, session: PlanSession) {
  const [params, put] = useAddress();
  const baseline = params.get("baseline");
  const lit = params.get("lit");
  const field = sheet.fields.find(({ id }) => id === params.get("colour")) ?? null;
  const chain = useChain(lit === LONGEST || lit === PATH_TEST ? null : lit, sheet, session);
  const test = usePathTest(lit === PATH_TEST, sheet, session);
  useEffect(() => {
    const wanted = Number(baseline);
    if (baseline !== null && sheet.baselines.includes(wanted) && sheet.baseline !== wanted)
      void session.compareWith(wanted);
  }, [baseline, sheet, session]);
  const longest = useMemo(
    () =>
      lit === LONGEST
        ? new Set(sheet.rows.flatMap(({ id, dates }) => (dates?.longestPath === true ? [id] : [])))
        : null,
    [lit, sheet],
  );
  const colouring = useMemo(() => (field === null ? null : colouringBy(field, sheet.rows)), [field, sheet]);
  const withApproved = baseline !== NO_BASELINE;
  const look: ChartLook = useMemo(
    () => ({
      withApproved,
      colouring,
      lit: longest ?? chain ?? (test === null ? null : new Set(test.ghosts.keys())),
      ghosts: test?.ghosts ?? null,
    }),
    [withApproved, colouring, longest, chain, test],
  );
  const set = (name: string, value: string | null): void => put({ [name]: value });
  return {
    look,
    baseline: withApproved ? (sheet.baseline === null ? "" : String(sheet.baseline)) : NO_BASELINE,
    lit: lit ?? "",
    test,
    litName:
      lit === null || lit === LONGEST || lit === PATH_TEST
        ? null
        : (sheet.rows.find(({ id }) => id === lit)?.name ?? null),
    colour: field?.id ?? "",
    compareWith: (value: string) => set("baseline", value === String(Math.max(0, ...sheet.baselines)) ? null : value),
    light: (value: string) => set("lit", value === "" ? null : value),
    colourBy: (value: string) => set("colour", value === "" ? null : value),
  };
}

export type ChartLooks = ReturnType<typeof useChartLook>;
