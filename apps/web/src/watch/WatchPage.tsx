import "../shared/withoutEval.ts";
import {
  OWN_PREFIX,
  WATCH_ABOUT,
  WATCH_FIELDS,
  watchQuestionSchema,
  type WatchAbout,
  type WatchAnswer,
  type Watchlist,
  type WatchQuestion,
  type WatchRow,
} from "@chronometra/contract";
import { useMutation, useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { FileDown, Link2, Save, Table2, Trash2 } from "lucide-react";
import { useState } from "react";
import { NavLink, useNavigate, useParams, useSearchParams } from "react-router";
import { toast } from "sonner";
import { call } from "../shared/api.ts";
import { ColumnChoice } from "../shared/ColumnChoice.tsx";
import { Failure, Loaded } from "../shared/Failure.tsx";
import { SummedNote } from "../shared/SummedNote.tsx";
import { holds, useMe } from "../shared/session.ts";
import { ActBar } from "./ActBar.tsx";
import { AnswerTable, rowId } from "./AnswerTable.tsx";
import { CalendarAddress } from "./CalendarAddress.tsx";
import { exportAnswer } from "./exportAnswer.ts";
import { KeepDialog } from "./KeepDialog.tsx";
import { PivotView } from "./PivotView.tsx";
import { watchChoicesQuery, watchlistQuery, watchlistsQuery, watchQuery, watchRowsQuery } from "./queries.ts";
import { ABOUT_WORDS, COUNTED, fieldsOf, questionIn, questionText } from "./questionWords.ts";
import { isWhole, Sentence } from "./Sentence.tsx";

const FRESH: Record<WatchAbout, WatchQuestion> = {
  activities: {
    about: "activities",
    where: [[{ field: "state", is: "any", of: ["notStarted", "inProgress"] }]],
    columns: ["name", "project", "people", "start", "finish", "drift", "percent"],
    sort: [{ field: "finish", desc: false }],
    group: null,
    pivot: null,
  },
  time: {
    about: "time",
    where: [[{ field: "date", is: "within", from: "today-28", to: "today" }]],
    columns: ["date", "name", "project", "hours", "amount", "note"],
    sort: [{ field: "date", desc: true }],
    group: "person",
    pivot: null,
  },
  costs: {
    about: "costs",
    where: [],
    columns: ["date", "name", "project", "category", "amount", "note"],
    sort: [{ field: "date", desc: true }],
    group: null,
    pivot: null,
  },
  risks: {
    about: "risks",
    where: [],
    columns: ["risk", "chance", "name", "project", "likely", "expected", "costExpected", "finish"],
    sort: [{ field: "chance", desc: true }],
    group: null,
    pivot: null,
  },
};

/** The watchlists one finds: those that ship, one's own, those of others. */
function Shelf({ lists }: { lists: readonly Watchlist[] }) {
  const parts = [
    { name: "Ready made", of: lists.filter(({ ready }) => ready) },
    { name: "Mine", of: lists.filter(({ mine }) => mine) },
    { name: "Shared with me", of: lists.filter(({ ready, mine }) => !ready && !mine) },
  ];
  return (
    <nav aria-label="Watchlists" className="w-56 shrink-0 overflow-auto border-r rule px-4 py-3 max-[760px]:columns-2">
      <h1 className="pb-1 text-xl">Watchlists</h1>
      {parts
        .filter(({ of }) => of.length > 0)
        .map(({ name, of }) => (
          <section key={name} className="pb-2">
            <h2 className="muted font-sans text-xs">{name}</h2>
            <ul>
              {of.map((list) => (
                <li key={list.id}>
                  <NavLink
                    to={`/watch/${list.id}`}
                    className={({ isActive }) =>
                      `block min-h-[26px] border-l-2 py-0.5 pl-2 text-sm ${isActive ? "border-accent font-semibold" : "border-transparent hover:border-base-300"}`
                    }
                    title={list.owner === "" ? undefined : `by ${list.owner}`}
                  >
                    {list.name}
                  </NavLink>
                </li>
              ))}
            </ul>
          </section>
        ))}
      <section>
        <h2 className="muted font-sans text-xs">Ask anew</h2>
        <ul>
          {WATCH_ABOUT.map((about) => (
            <li key={about}>
              <NavLink
                to={`/watch?q=${questionText(FRESH[about])}`}
                className="block min-h-[26px] border-l-2 border-transparent py-0.5 pl-2 text-sm hover:border-base-300"
              >
                {ABOUT_WORDS[about]}
              </NavLink>
            </li>
          ))}
        </ul>
      </section>
    </nav>
  );
}

interface LayoutProps {
  readonly question: WatchQuestion;
  readonly onQuestion: (question: WatchQuestion) => void;
}

function Layout({ question, onQuestion }: LayoutProps) {
  const { data: choices } = useQuery(watchChoicesQuery);
  const fields = fieldsOf(question.about, choices);
  const columns = Object.entries(fields).map(([id, { head }]) => ({ id, head }));
  const groups = columns.filter(({ id }) =>
    ["choice", "person", "role", "yesNo", "text", "date"].includes(fields[id]!.type),
  );
  return (
    <>
      <ColumnChoice
        columns={columns}
        hidden={columns.map(({ id }) => id).filter((id) => !question.columns.includes(id))}
        onChoose={(id, shown) =>
          onQuestion({
            ...question,
            columns: shown
              ? [...question.columns, id]
              : question.columns.length === 1
                ? question.columns
                : question.columns.filter((each) => each !== id),
          })
        }
      />
      <label className="inline-flex items-center gap-1 text-sm">
        by
        <select
          className="select select-sm w-auto"
          aria-label="Group by"
          value={question.group ?? ""}
          onChange={(event) =>
            onQuestion({ ...question, group: event.target.value === "" ? null : event.target.value })
          }
        >
          <option value="">nothing</option>
          {groups.map(({ id, head }) => (
            <option key={id} value={id}>
              {head.toLowerCase()}
            </option>
          ))}
        </select>
      </label>
      <button
        type="button"
        className={`btn btn-ghost btn-sm ${question.pivot === null ? "" : "btn-active"}`}
        aria-pressed={question.pivot !== null}
        onClick={() =>
          onQuestion({
            ...question,
            pivot:
              question.pivot === null
                ? {
                    rows: question.group ?? "project",
                    columns: question.about === "activities" ? "state" : null,
                    sum: null,
                  }
                : null,
          })
        }
      >
        <Table2 size={14} aria-hidden="true" /> Count
      </button>
    </>
  );
}

function Export({ question, name }: { question: WatchQuestion; name: string }) {
  const save = async (form: "csv" | "xlsx" | "ics"): Promise<void> => {
    try {
      await exportAnswer(question, form, name);
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <details className="relative">
      <summary className="btn btn-ghost btn-sm list-none">
        <FileDown size={14} aria-hidden="true" /> Export
      </summary>
      <ul className="absolute right-0 z-30 mt-1 w-48 border rule bg-base-100 py-1">
        {(
          [
            ["xlsx", "Workbook (.xlsx)"],
            ["csv", "CSV file (.csv)"],
            ["ics", "Calendar (.ics)"],
          ] as const
        ).map(([form, words]) => (
          <li key={form}>
            <button
              type="button"
              className="block w-full px-3 py-1 text-left hover:bg-base-200 cursor-pointer"
              onClick={() => void save(form)}
            >
              {words}
            </button>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** The rows that are there: those that came with the answer, and all of the groups that were opened. */
function useRows(question: WatchQuestion, answer: WatchAnswer) {
  const client = useQueryClient();
  const asked = askable(question);
  const [opened, setOpened] = useState<readonly (string | null)[]>([]);
  const [wholly, setWholly] = useState(false);
  const all = useQuery({ ...watchRowsQuery(asked), enabled: wholly });
  const groups = useQueries({ queries: opened.map((group) => watchRowsQuery(asked, group)) });
  const came = opened.flatMap((group, i) => (groups[i]!.data === undefined ? [] : [{ group, rows: groups[i]!.data }]));
  const rows =
    wholly && all.data !== undefined
      ? all.data
      : [
          ...answer.rows.filter(({ group }) => !came.some((each) => each.group === group)),
          ...came.flatMap((each) => each.rows),
        ];
  return {
    rows,
    fault: all.error ?? groups.find(({ error }) => error !== null)?.error ?? null,
    open: (group: string | null): void => setOpened((now) => (now.includes(group) ? now : [...now, group])),
    /** Every row that holds, fetched where it is not there yet. */
    everyRow: async (): Promise<readonly WatchRow[]> => {
      if (new Set(rows.map(rowId)).size >= answer.count) return rows;
      const found = await client.fetchQuery(watchRowsQuery(asked));
      setWholly(true);
      return found;
    },
  };
}

function Answered({ name, question, answer, onQuestion }: LayoutProps & { name: string; answer: WatchAnswer }) {
  const me = useMe();
  const { data: choices } = useQuery(watchChoicesQuery);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const { rows, fault, open, everyRow } = useRows(question, answer);
  const taken = [...new Map(rows.filter((row) => chosen.has(rowId(row))).map((row) => [rowId(row), row])).values()];
  const acting = taken.length > 0 && holds(me, "controller", "projectManager");
  const chooseAll = async (on: boolean): Promise<void> => {
    try {
      setChosen(new Set(on ? (await everyRow()).map(rowId) : []));
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error));
    }
  };
  const [, many] = COUNTED[question.about];
  return (
    <div className="flex min-h-0 flex-1">
      <div className="min-w-0 flex-1 overflow-auto px-5 pb-6" tabIndex={0} role="region" aria-label="Answer">
        <p className="text-sm">
          <SummedNote money={answer.money} />
        </p>
        {fault !== null && <Failure error={fault} />}
        {question.pivot !== null && (
          <PivotView question={question} answer={answer} choices={choices} onQuestion={onQuestion} />
        )}
        {answer.count === 0 ? (
          <p className="muted py-6">Nothing holds of all that is asked. Remove a condition, or widen a date.</p>
        ) : (
          <AnswerTable
            name={name}
            question={question}
            answer={answer}
            rows={rows}
            choices={choices}
            chosen={chosen}
            onChosen={setChosen}
            onQuestion={onQuestion}
            onOpen={open}
            onChooseAll={(on) => void chooseAll(on)}
          />
        )}
        {answer.groupCount > answer.groups.length && (
          <p className="muted py-2 text-sm">
            The first {answer.groups.length} of {answer.groupCount} groups; the sums are of all. Narrow the question, or
            export it.
          </p>
        )}
        {question.group === null && answer.count > rows.length && (
          <p className="muted py-2 text-sm">
            The first {rows.length} of {answer.count} {many}; the sums are of all.{" "}
            <button
              type="button"
              className="underline cursor-pointer"
              onClick={() => void everyRow().catch((error: Error) => toast.error(error.message))}
            >
              Show all
            </button>
            , narrow the question, or export it.
          </p>
        )}
      </div>
      {acting && <ActBar rows={taken} choices={choices} onDone={() => setChosen(new Set())} />}
    </div>
  );
}

/** Leaves out what the condition writer has not finished yet. */
const askable = (question: WatchQuestion): WatchQuestion => ({
  ...question,
  where: question.where.map((group) => group.filter(isWhole)).filter((group) => group.length > 0),
});

function Asked({
  watchlist,
  question,
  changed,
  onQuestion,
}: LayoutProps & { watchlist: Watchlist | null; changed: boolean }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { data: choices } = useQuery(watchChoicesQuery);
  const [keeping, setKeeping] = useState<"new" | "own" | null>(null);
  const query = useQuery(watchQuery(askable(question)));
  const mine = watchlist?.mine === true;
  const name = watchlist?.name ?? "A new question";
  const drop = useMutation({
    mutationFn: () => call("DELETE /api/watchlists/:watchlist", { params: { watchlist: watchlist!.id } }),
    onSuccess: () => {
      const was = watchlist!;
      void client.invalidateQueries({ queryKey: watchlistsQuery.queryKey });
      toast(`“${was.name}” is dropped.`, {
        action: {
          label: "Undo",
          onClick: () =>
            void call("POST /api/watchlists", {
              body: { name: was.name, question: was.question, roles: was.roles },
            }).then(() => client.invalidateQueries({ queryKey: watchlistsQuery.queryKey })),
        },
      });
      void navigate("/watch");
    },
    onError: (error) => toast.error(error.message),
  });
  const copyLink = async (): Promise<void> => {
    try {
      await navigator.clipboard.writeText(window.location.href);
      toast("The link to this question, as it stands, is copied.");
    } catch {
      toast.error("The browser did not allow copying; copy the address instead.");
    }
  };
  return (
    <section className="flex min-w-0 flex-1 flex-col" aria-label={name}>
      <div className="px-5 pt-3 pb-1">
        <div className="flex flex-wrap items-center gap-1 pb-1">
          <h2 className="mr-3 text-lg">
            {name}
            {changed && watchlist !== null && <span className="undecided font-sans text-sm"> changed</span>}
          </h2>
          <Layout question={question} onQuestion={onQuestion} />
          <span className="ml-auto flex flex-wrap items-center gap-1">
            {mine && changed && (
              <button type="button" className="btn btn-primary btn-sm" onClick={() => setKeeping("own")}>
                <Save size={14} aria-hidden="true" /> Save the change
              </button>
            )}
            <button type="button" className="btn btn-ghost btn-sm" onClick={() => setKeeping("new")}>
              <Save size={14} aria-hidden="true" /> Save as …
            </button>
            {mine && !changed && (
              <button type="button" className="btn btn-ghost btn-sm" onClick={() => setKeeping("own")}>
                Name and sharing
              </button>
            )}
            <button type="button" className="btn btn-ghost btn-sm" onClick={() => void copyLink()}>
              <Link2 size={14} aria-hidden="true" /> Link
            </button>
            <Export question={askable(question)} name={name} />
            {watchlist !== null && <CalendarAddress subject={watchlist.id} words={`what “${name}” finds`} />}
            {mine && (
              <button
                type="button"
                className="btn btn-ghost btn-sm"
                disabled={drop.isPending}
                onClick={() => drop.mutate()}
              >
                <Trash2 size={14} aria-hidden="true" /> Remove
              </button>
            )}
          </span>
        </div>
        <Sentence question={question} choices={choices} onQuestion={onQuestion} fresh={watchlist === null} />
      </div>
      {query.error !== null && (
        <div className="px-5">
          <Failure error={query.error} />
        </div>
      )}
      {query.data === undefined ? (
        query.error === null && (
          <p className="muted px-5" role="status">
            Loading …
          </p>
        )
      ) : (
        <Answered
          key={watchlist?.id ?? ""}
          name={name}
          question={question}
          answer={query.data}
          onQuestion={onQuestion}
        />
      )}
      {keeping !== null && (
        <KeepDialog
          watchlist={keeping === "own" ? watchlist : null}
          suggested={watchlist === null ? "" : keeping === "own" ? name : `${name}, mine`}
          question={askable(question)}
          onClose={() => setKeeping(null)}
          onKept={(id) => {
            setKeeping(null);
            void navigate(`/watch/${id}`);
          }}
        />
      )}
    </section>
  );
}

/** A question that an address holds, where it is one and asks of fields that there are. */
function questionOf(text: string | null): WatchQuestion | null {
  if (text === null) return null;
  const parsed = watchQuestionSchema.safeParse(questionIn(text));
  if (!parsed.success) return null;
  const known = (name: string): boolean =>
    name.startsWith(OWN_PREFIX) || Object.hasOwn(WATCH_FIELDS[parsed.data.about], name);
  return parsed.data.columns.every(known) ? parsed.data : null;
}

/** Questions over all projects: saved ones, and one's own as they are put together. The address holds the question as it stands. */
export function WatchPage() {
  const { watchlist: id } = useParams();
  const [params, setParams] = useSearchParams();
  const lists = useQuery(watchlistsQuery);
  const saved = useQuery({ ...watchlistQuery(id ?? ""), enabled: id !== undefined });
  const text = params.get("q");
  const asked = questionOf(text);
  // Drawn at once, for the next change is made to the question as it is drawn.
  const onQuestion = (question: WatchQuestion): void =>
    setParams({ q: questionText(question) }, { replace: true, flushSync: true });
  const question = asked ?? (id === undefined ? FRESH.activities : (saved.data?.question ?? null));
  return (
    <div className="beside">
      <Loaded query={lists}>{(all) => <Shelf lists={all} />}</Loaded>
      {id !== undefined && saved.error !== null ? (
        <div className="page">
          <Failure error={saved.error} />
        </div>
      ) : question === null ? (
        <p className="page muted" role="status">
          Loading …
        </p>
      ) : (
        <div className="flex min-w-0 flex-1 flex-col">
          {text !== null && asked === null && (
            <div className="px-5">
              <Failure
                error={new Error("The address holds no question that can be read; this is where it would begin anew.")}
              />
            </div>
          )}
          <Asked
            key={id ?? "new"}
            watchlist={saved.data ?? null}
            question={question}
            changed={asked !== null && JSON.stringify(asked) !== JSON.stringify(saved.data?.question)}
            onQuestion={onQuestion}
          />
        </div>
      )}
    </div>
  );
}
