import "../shared/charts/withoutEval.ts";
import {
  OWN_PREFIX,
  WATCH_FIELDS,
  watchQuestionSchema,
  type WatchAnswer,
  type Watchlist,
  type WatchQuestion,
  type WatchRow,
} from "@chronometra/contract";
import { useQueries, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { SummedNote } from "../shared/table/SummedNote.tsx";
import { holds, useMe } from "../shared/session/session.ts";
import { ActBar } from "./ActBar.tsx";
import { AnswerTable } from "./answer/AnswerTable.tsx";
import { rowId } from "./answer/AnswerLines.tsx";
import { KeepDialog } from "./KeepDialog.tsx";
import { PivotView } from "./answer/PivotView.tsx";
import { watchChoicesQuery, watchlistQuery, watchlistsQuery, watchQuery, watchRowsQuery } from "./queries.ts";
import { COUNTED, questionIn, questionText } from "./question/questionWords.ts";
import { ListTools } from "./ListTools.tsx";
import { Layout, type LayoutProps } from "./questionTools.tsx";
import { Sentence } from "./question/Sentence.tsx";
import { askable } from "./question/askable.ts";
import { FRESH, Shelf } from "./Shelf.tsx";

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

function Asked({
  watchlist,
  question,
  changed,
  onQuestion,
}: LayoutProps & { watchlist: Watchlist | null; changed: boolean }) {
  const navigate = useNavigate();
  const { data: choices } = useQuery(watchChoicesQuery);
  const [keeping, setKeeping] = useState<"new" | "own" | null>(null);
  const query = useQuery(watchQuery(askable(question)));
  const name = watchlist?.name ?? "A new question";
  return (
    <section className="flex min-w-0 flex-1 flex-col" aria-label={name}>
      <div className="px-5 pt-3 pb-1">
        <div className="flex flex-wrap items-center gap-1 pb-1">
          <h2 className="mr-3 text-lg">
            {name}
            {changed && watchlist !== null && <span className="undecided font-sans text-sm"> changed</span>}
          </h2>
          <Layout question={question} onQuestion={onQuestion} />
          <ListTools watchlist={watchlist} name={name} question={question} changed={changed} onKeep={setKeeping} />
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

/**
 * Questions over all projects: saved ones, and one's own as they are put together. The address holds the question as it
 * stands.
 */
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
