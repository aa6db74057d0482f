import type { Blocked } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Link, useSearchParams } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { Toned } from "../shared/dialogs/Toned.tsx";
import {
  countWords,
  dateWords,
  DEADLINE_TONES,
  type DeadlineState,
  driftTone,
  driftWords,
  movedWords,
  standingWords,
} from "../shared/words/words.ts";
import { ActivityChoice } from "./outside/ActivityChoice.tsx";
import { targetsQuery } from "./outside/queries.ts";
import { blockedQuery } from "./queries.ts";

type Block = Blocked["blocks"][number];
const SHOWN = 12;

function Along({
  title,
  rows,
  own,
  empty,
  note,
}: {
  title: string;
  rows: Block["upstream"];
  own: string;
  empty: string;
  note: (row: Block["upstream"][number]) => ReactNode;
}) {
  const [all, setAll] = useState(false);
  return (
    <section className="min-w-0">
      <h3 className="border-b rule text-sm font-semibold">
        {title} <span className="muted font-normal">{rows.length}</span>
      </h3>
      <ul className="text-sm">
        {(all ? rows : rows.slice(0, SHOWN)).map((row) => (
          <li key={`${row.project} ${row.id}`} className="py-0.5">
            <Link className="link-quiet" to={`/projects/${row.project}/plan?at=${encodeURIComponent(row.id)}`}>
              {row.name}
            </Link>
            {row.project !== own && <span className="undecided"> in {row.projectName}</span>}{" "}
            <span className="muted">{dateWords(row.finish)}</span> {note(row)}
            {row.blockedBy !== null && <span className="adverse"> blocked by {row.blockedBy}</span>}
          </li>
        ))}
        {rows.length === 0 && <li className="muted py-0.5">{empty}</li>}
        {rows.length > SHOWN && !all && (
          <li>
            <button
              type="button"
              className="inline-flex min-h-[25px] items-center underline cursor-pointer"
              onClick={() => setAll(true)}
            >
              and {rows.length - SHOWN} more
            </button>
          </li>
        )}
      </ul>
    </section>
  );
}

/** Says for which activity, perhaps of another project, a block waits. */
function WaitsFor({ block }: { block: Block }) {
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const { data: targets } = useQuery({ ...targetsQuery, enabled: open });
  const [on, setOn] = useState<{ project: string; activity: string } | null>(null);
  const mark = useMutation({
    mutationFn: (by: string | null) =>
      call("PUT /api/desk/block", {
        body: { project: block.project, activity: block.activity, by, ...(by === null || on === null ? {} : { on }) },
      }),
    onSuccess: () => {
      setOpen(false);
      void client.invalidateQueries();
    },
    onError: (error) => toast.error(error.message),
  });
  return (
    <div className="flex flex-wrap items-center gap-2 text-sm">
      {open && targets !== undefined && (
        <>
          <ActivityChoice
            targets={targets}
            start={null}
            onChoose={(project, activity) =>
              setOn(project === null || activity === null ? null : { project: project.id, activity })
            }
          />
          <button
            type="button"
            className="btn btn-xs"
            disabled={on === null || mark.isPending}
            onClick={() => mark.mutate(block.by)}
          >
            It waits for this
          </button>
        </>
      )}
      {!open && (
        <button type="button" className="btn btn-xs" onClick={() => setOpen(true)}>
          {block.on === null ? "Say what it waits for" : "It waits for something else"}
        </button>
      )}
      <button type="button" className="btn btn-xs" disabled={mark.isPending} onClick={() => mark.mutate(null)}>
        No longer blocked
      </button>
    </div>
  );
}

function One({ block, days }: { block: Block; days: number }) {
  return (
    <article className="border-b-2 border-current py-3" aria-label={`${block.name} is blocked`}>
      <h2 className="text-base">
        <Link className="link-quiet" to={`/projects/${block.project}/plan?at=${encodeURIComponent(block.activity)}`}>
          {block.name}
        </Link>{" "}
        <span className="muted font-sans text-sm">{block.projectName}</span>
      </h2>
      <p>
        <span className="adverse">blocked by {block.by}</span>{" "}
        <span className="muted text-sm">
          since {dateWords(block.since)}, says {block.saidBy}
        </span>
        {block.on !== null && (
          <span className="text-sm">
            {" "}
            · waits for{" "}
            <Link
              className="underline"
              to={`/projects/${block.on.project}/plan?at=${encodeURIComponent(block.on.activity)}`}
            >
              {block.on.name}
            </Link>{" "}
            in {block.on.projectName}
          </span>
        )}
      </p>
      {block.fault !== null && <p className="adverse text-sm">{block.fault}</p>}
      <p className="text-sm">
        {block.finishDays === 0 ? (
          `The project’s finish has room for ${countWords(days, "day", "days")}.`
        ) : (
          <>
            The project would finish <Toned tone={driftTone(block.finishDays)}>{movedWords(block.finishDays)}</Toned>.
          </>
        )}
      </p>
      {block.mayEdit && <WaitsFor block={block} />}
      <div className="mt-2 grid gap-x-8 gap-y-2 md:grid-cols-3">
        <Along
          title="Could be the cause"
          rows={block.upstream}
          own={block.project}
          empty="Nothing before it is open."
          note={({ driftDays }) =>
            driftDays !== null && driftDays > 0 && <Toned tone="adverse">{driftWords(driftDays)}</Toned>
          }
        />
        <Along
          title={`Will feel it, ${countWords(days, "day", "days")} more`}
          rows={[...block.downstream].sort((a, b) => b.movesDays - a.movesDays)}
          own={block.project}
          empty="It has no successors."
          note={({ movesDays }) =>
            movesDays > 0 ? (
              <Toned tone="adverse">{movedWords(movesDays)}</Toned>
            ) : (
              <span className="muted">has room</span>
            )
          }
        />
        <section>
          <h3 className="border-b rule text-sm font-semibold">
            Deadlines at stake <span className="muted font-normal">{block.deadlines.length}</span>
          </h3>
          <ul className="text-sm">
            {block.deadlines.map(({ id, name, deadline, nowState, nowMarginDays, thenState, thenMarginDays }) => (
              <li key={id} className="py-0.5">
                {name}, {dateWords(deadline)}:{" "}
                <Toned tone={DEADLINE_TONES[nowState as DeadlineState]}>
                  {standingWords(nowState as DeadlineState, nowMarginDays)}
                </Toned>{" "}
                →{" "}
                <Toned tone={DEADLINE_TONES[thenState as DeadlineState]}>
                  {standingWords(thenState as DeadlineState, thenMarginDays)}
                </Toned>
              </li>
            ))}
            {block.deadlines.length === 0 && <li className="muted py-0.5">No deadline comes after it.</li>}
          </ul>
        </section>
      </div>
    </article>
  );
}

/** What is blocked in all projects, what could be the cause, and what will feel it. */
export function BlockedPage() {
  const [params, setParams] = useSearchParams();
  const days = Math.min(250, Math.max(1, Number(params.get("days") ?? 5) || 5));
  const query = useQuery(blockedQuery(days));
  return (
    <div className="page">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-xl">Blocked</h1>
        <label className="flex items-center gap-2 text-sm">
          if it stays so for
          <input
            type="number"
            min={1}
            max={250}
            className="input input-sm w-20"
            value={days}
            onChange={(event) => setParams({ days: event.target.value }, { replace: true })}
          />
          working days more
        </label>
      </div>
      <Loaded query={query}>
        {({ blocks }) =>
          blocks.length === 0 ? (
            <p className="muted py-4">
              Nothing is blocked. Whoever works on an activity says so on their desk, under “More”.
            </p>
          ) : (
            <div>
              {blocks.map((block) => (
                <One key={`${block.project} ${block.activity}`} block={block} days={days} />
              ))}
            </div>
          )
        }
      </Loaded>
    </div>
  );
}
