import { NOTED, NOTED_WORDS, type HouseChange } from "@chronometra/contract";
import { infiniteQueryOptions, useInfiniteQuery } from "@tanstack/react-query";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { OlderButton } from "../../shared/page/OlderButton.tsx";
import { useAddress } from "../../shared/page/useAddress.ts";
import { call } from "../../shared/session/api.ts";
import type { Column } from "../../shared/table/column.ts";
import { DataTable } from "../../shared/table/DataTable.tsx";
import { momentWords } from "../../shared/words/words.ts";

const houseHistoryQuery = (about: string) =>
  infiniteQueryOptions({
    queryKey: ["house-history", about],
    queryFn: ({ pageParam }) =>
      call("GET /api/house-history", { query: { about, before: pageParam === null ? "" : String(pageParam) } }),
    initialPageParam: null as number | null,
    getNextPageParam: ({ older }) => older,
  });

/** A field of something that was changed. */
interface Line {
  readonly key: string;
  readonly change: HouseChange;
  readonly field: string;
  readonly was: string;
  readonly is: string;
}

const COLUMNS: readonly Column<Line>[] = [
  { id: "at", head: "When", value: ({ change }) => change.at, show: ({ change }) => momentWords(change.at) },
  { id: "by", head: "Who", value: ({ change }) => change.by },
  { id: "subject", head: "What", wraps: true, value: ({ change }) => change.subject },
  { id: "field", head: "Field", wraps: true, value: ({ field }) => field },
  { id: "was", head: "Was", wraps: true, value: ({ was }) => was },
  { id: "is", head: "Is", wraps: true, value: ({ is }) => is },
];

const linesOf = (changes: readonly HouseChange[]): Line[] =>
  changes.flatMap((change) => change.lines.map((line) => ({ ...line, key: `${change.id} ${line.field}`, change })));

/** What was changed of accounts, settings, limits, rates and the register: who, when, what was, and what is. */
export function HouseHistoryPage() {
  const [params, put] = useAddress();
  const about = NOTED.find((each) => each === params.get("about")) ?? "";
  const query = useInfiniteQuery(houseHistoryQuery(about));
  return (
    <div className="page max-w-6xl">
      <h1 className="pb-1 text-xl">History of the house</h1>
      <Loaded query={query}>
        {({ pages }) => (
          <DataTable
            name="History of the house"
            rows={linesOf(pages.flatMap(({ changes }) => changes))}
            columns={COLUMNS}
            rowKey={({ key }) => key}
            tools={
              <select
                className="select select-xs w-52"
                aria-label="What was changed"
                value={about}
                onChange={({ target }) => put({ about: target.value })}
              >
                <option value="">everything</option>
                {NOTED.map((each) => (
                  <option key={each} value={each}>
                    {NOTED_WORDS[each]}
                  </option>
                ))}
              </select>
            }
            empty={about === "" ? "Nothing was changed yet." : "Nothing of that was changed."}
          />
        )}
      </Loaded>
      <OlderButton query={query} />
    </div>
  );
}
