import type { History } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
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

/** Every list of changes that was stored, newest first. */
export function HistoryPage() {
  const { id } = useProject();
  const query = useQuery(historyQuery(id));
  return <div className="page max-w-5xl"><Loaded query={query}>{(history) => <DataTable name="History" rows={history} columns={COLUMNS} rowKey={({ revision }) => String(revision)} empty="Nothing has happened to this plan yet." />}</Loaded></div>;
}
