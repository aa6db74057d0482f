import type { History, ProjectLook } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { useProject } from "../../project/useProject.ts";
import type { Column } from "../../shared/table/column.ts";
import { DataTable } from "../../shared/table/DataTable.tsx";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { momentWords } from "../../shared/words/words.ts";
import { StoredList } from "./StoredList.tsx";
import { historyQuery } from "../queries.ts";

type Entry = History[number];

const columns = (open: (revision: number) => void): readonly Column<Entry>[] => [
  { id: "revision", head: "Revision", numeric: true, value: ({ revision }) => revision },
  { id: "at", head: "When", value: ({ at }) => at, show: ({ at }) => momentWords(at) },
  { id: "by", head: "Who", value: ({ by }) => by },
  {
    id: "label",
    head: "What",
    wraps: true,
    value: ({ label }) => label,
    show: ({ revision, label }) => (
      <button type="button" className="link-quiet cursor-pointer text-left" onClick={() => open(revision)}>
        {label}
      </button>
    ),
  },
  { id: "changes", head: "Changes", numeric: true, value: ({ changes }) => changes },
  { id: "takenBack", head: "State", value: ({ takenBack }) => (takenBack ? "undone" : "") },
];

const stateWords = (state: string): string => (state === "plan" ? "now" : state.replace("-", " "));

interface Part {
  readonly from: string;
  readonly to: string;
  readonly about: string;
}

function Narrowed({ part, onAll }: { part: Part; onAll: () => void }) {
  return (
    <p className="undecided pb-1 text-sm">
      Only what was changed{part.from !== "" && ` since ${stateWords(part.from)}`}
      {part.to !== "" && part.to !== "plan" && ` up to ${stateWords(part.to)}`}
      {part.about !== "" && ` and speaks of “${part.about}”`}.{" "}
      <button type="button" className="underline cursor-pointer" onClick={onAll}>
        Show all
      </button>
    </p>
  );
}

/** The reports that were issued of the project, each to be read. */
function Issued({ look: { id, periods } }: { look: ProjectLook }) {
  if (periods.length === 0) return null;
  return (
    <p className="muted mb-1 text-sm">
      Reports of period{" "}
      {periods.toReversed().map(({ number }) => (
        <Link key={number} className="mr-2 underline" to={`/projects/${id}/report/${number}`}>
          {number}
        </Link>
      ))}
    </p>
  );
}

/** Every list of changes that was stored, newest first; one that is opened says what it did and is taken back there. */
export function HistoryPage() {
  const look = useProject();
  const { id } = look;
  const [params, setParams] = useSearchParams();
  const part = { from: params.get("from") ?? "", to: params.get("to") ?? "", about: params.get("about") ?? "" };
  const query = useQuery(historyQuery(id, part));
  const narrowed = part.from !== "" || part.to !== "" || part.about !== "";
  const opened = Number(params.get("revision") ?? NaN);
  const open = (revision: number | null): void => {
    setParams(
      (now) => {
        if (revision === null) now.delete("revision");
        else now.set("revision", String(revision));
        return now;
      },
      { replace: true },
    );
  };
  return (
    <div className="page max-w-5xl">
      <Issued look={look} />
      {narrowed && <Narrowed part={part} onAll={() => setParams({})} />}
      <Loaded query={query}>
        {(history) => (
          <DataTable
            name="History"
            rows={history}
            columns={columns(open)}
            rowKey={({ revision }) => String(revision)}
            rowClass={({ takenBack }) => (takenBack ? "muted" : "")}
            empty={
              narrowed ? "No list of changes speaks of it in that time." : "Nothing has happened to this plan yet."
            }
          />
        )}
      </Loaded>
      {Number.isInteger(opened) && (
        <StoredList key={opened} project={id} revision={opened} onClose={() => open(null)} />
      )}
    </div>
  );
}
