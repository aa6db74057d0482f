import { THROUGH, THROUGH_WORDS, type History, type ProjectLook } from "@chronometra/contract";
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useProject } from "../../project/useProject.ts";
import type { Column } from "../../shared/table/column.ts";
import { DataTable } from "../../shared/table/DataTable.tsx";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { momentWords } from "../../shared/words/words.ts";
import { StoredList } from "./StoredList.tsx";
import { useAddress } from "../../shared/page/useAddress.ts";
import { historyPeopleQuery, historyQuery, type HistoryPart } from "../queries.ts";
import { OlderButton } from "../../shared/page/OlderButton.tsx";

type Entry = History[number];
type Put = ReturnType<typeof useAddress>[1];

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
  { id: "through", head: "Through", value: ({ through }) => THROUGH_WORDS[through] },
  { id: "changes", head: "Changes", numeric: true, value: ({ changes }) => changes },
  { id: "takenBack", head: "State", value: ({ takenBack }) => (takenBack ? "undone" : "") },
];

const stateWords = (state: string): string => (state === "plan" ? "now" : state.replace("-", " "));

function Narrowed({ part, onAll }: { part: HistoryPart; onAll: () => void }) {
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

/** By whom and through what: kept in the address. */
function Filters({ project, part, put }: { project: string; part: HistoryPart; put: Put }) {
  const people = useQuery(historyPeopleQuery(project)).data ?? [];
  return (
    <>
      <select
        className="select select-xs w-44"
        aria-label="Who"
        value={part.by}
        onChange={(event) => put({ by: event.target.value })}
      >
        <option value="">by anyone</option>
        {people.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
      <select
        className="select select-xs w-44"
        aria-label="Through what"
        value={part.through}
        onChange={(event) => put({ through: event.target.value })}
      >
        <option value="">through anything</option>
        {THROUGH.map((each) => (
          <option key={each} value={each}>
            {THROUGH_WORDS[each]}
          </option>
        ))}
      </select>
    </>
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
  const [params, put] = useAddress();
  const said = (name: string): string => params.get(name) ?? "";
  const part = {
    ...{ from: said("from"), to: said("to"), about: said("about") },
    ...{ by: said("by"), through: said("through") },
  };
  const query = useInfiniteQuery(historyQuery(id, part));
  const narrowed = part.from !== "" || part.to !== "" || part.about !== "";
  const opened = Number(params.get("revision") ?? NaN);
  const open = (revision: number | null): void => put({ revision: revision === null ? null : String(revision) });
  return (
    <div className="page max-w-5xl">
      <Issued look={look} />
      {narrowed && <Narrowed part={part} onAll={() => put({ from: null, to: null, about: null })} />}
      <Loaded query={query}>
        {({ pages }) => (
          <DataTable
            name="History"
            rows={pages.flat()}
            tools={<Filters project={id} part={part} put={put} />}
            columns={columns(open)}
            rowKey={({ revision }) => String(revision)}
            rowClass={({ takenBack }) => (takenBack ? "muted" : "")}
            empty={
              narrowed || part.by !== "" || part.through !== ""
                ? "No list of changes is like that."
                : "Nothing has happened to this plan yet."
            }
          />
        )}
      </Loaded>
      <OlderButton query={query} />
      {Number.isInteger(opened) && (
        <StoredList key={opened} project={id} revision={opened} onClose={() => open(null)} />
      )}
    </div>
  );
}
