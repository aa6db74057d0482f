import { lineSummaryOf } from "@chronometra/contract";
import type { Writer } from "../plan/held/writer.ts";
import { peopleAtWork, summarise } from "./summarise.ts";

/** What the portfolio shows of a project as of each revision; those of earlier ones stay. */
export const keptFigures: Writer = {
  tables: [],
  rows: ({ revision, before, after: { whole } }) => {
    const summary = summarise(whole, before?.whole);
    const cells = [summary, lineSummaryOf(summary), peopleAtWork(whole)].map((each) => JSON.stringify(each));
    return [
      {
        table: "figures",
        key: ["revision"],
        columns: ["summary", "line", "people"],
        gone: { by: ["revision"], keys: [] },
        rows: [[revision, ...cells]],
      },
    ];
  },
};
