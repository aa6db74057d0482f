import type { History } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { useProject } from "../portfolio/ProjectFrame.tsx";
import type { Column } from "../shared/column.ts";
import { DataTable } from "../shared/DataTable.tsx";
import { Loaded } from "../shared/Failure.tsx";
import { momentWords } from "../shared/words.ts";
import { historyQuery } from "./queries.ts";

type Entry = History[number];

const COLUMNS: readonly Column<Entry>[] = [
  { id: "revision", head: "Revision", numeric: true, value: ({ revision }) => revision },
  { id: "at", head: "When", value: ({ at }) => at, show: ({ at }) => momentWords(at) },
  { id: "by", head: "Who", value: ({ by }) => by },
  { id: "label", head: "What", value: ({ label }) => label },
  { id: "changes", head: "Changes", numeric: true, value: ({ changes }) => changes },
];

const stateWords = (state: string): string => (state === "plan" ? "now" : state.replace("-", " "));

/** Every list of changes that was stored, newest first. */
export function HistoryPage() {
  const { id } = useProject();
  const [params, setParams] = useSearchParams();
  const part = { from: params.get("from") ?? "", to: params.get("to") ?? "", about: params.get("about") ?? "" };
  const query = useQuery(historyQuery(id, part));
  const narrowed = part.from !== "" || part.to !== "" || part.about !== "";
  return <div className="page max-w-5xl">{narrowed && <p className="undecided pb-1 text-sm">Only what was changed{part.from !== "" && ` since ${stateWords(part.from)}`}{part.to !== "" && part.to !== "plan" && ` up to ${stateWords(part.to)}`}{part.about !== "" && ` and speaks of “${part.about}”`}. <button type="button" className="underline cursor-pointer" onClick={() => setParams({})}>Show all</button></p>}<Loaded query={query}>{(history) => <DataTable name="History" rows={history} columns={COLUMNS} rowKey={({ revision }) => String(revision)} empty={narrowed ? "No list of changes speaks of it in that time." : "Nothing has happened to this plan yet."} />}</Loaded></div>;
}
