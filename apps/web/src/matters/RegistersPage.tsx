import {
  MATTER_KIND_WORDS,
  MATTER_KINDS,
  type Groups,
  type Matter,
  type MatterKind,
  type Matters,
} from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState, type ReactNode } from "react";
import { Link, useParams } from "react-router";
import { groupsQuery, portfolioQuery } from "../project/queries.ts";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { holdsEverywhere, holdsIn, mayLook, useMe } from "../shared/session/session.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { countWords, money } from "../shared/words/words.ts";
import { matterColumns } from "./matterColumns.tsx";
import { MatterDialog } from "./MatterDialog.tsx";
import { NewMatterForm } from "./NewMatterForm.tsx";
import { mattersQuery, useMatters, type Asked } from "./queries.ts";
import { RiskMatrix } from "./risks/RiskMatrix.tsx";
import { BringList } from "./bring/BringList.tsx";

const FILTERS = ["kind", "group", "tie", "all", "overdue", "mine"] as const;

/** Filters under which sums of what is shown would not be those of the register. */
const NARROWING = ["tie", "overdue", "mine"] as const;

/** What the address asks for. */
const askedIn = (params: URLSearchParams): Asked =>
  Object.fromEntries(FILTERS.flatMap((name) => (params.get(name) === null ? [] : [[name, params.get(name)!]])));

const titled = (words: string): string => words.slice(0, 1).toUpperCase() + words.slice(1);

type Put = ReturnType<typeof useAddress>[1];

/** The registers, one beside the other. */
function Kinds({ kind, put }: { kind: MatterKind | null; put: Put }) {
  const tab = (each: MatterKind | null, words: string): ReactNode => (
    <button
      key={words}
      type="button"
      aria-pressed={kind === each}
      className={`min-h-[24px] cursor-pointer border-b-2 px-0.5 ${kind === each ? "border-accent font-semibold" : "border-transparent muted"}`}
      onClick={() => put({ kind: each }, "push")}
    >
      {words}
    </button>
  );
  return (
    <div className="flex flex-wrap gap-x-4 text-sm" role="group" aria-label="Registers">
      {tab(null, "All")}
      {MATTER_KINDS.map((each) => tab(each, titled(MATTER_KIND_WORDS[each][1])))}
    </div>
  );
}

/** Which of them are shown. */
function Filters({ asked, project, put }: { asked: Asked; project: string | null; put: Put }) {
  const looks = mayLook(useMe());
  const groups = useQuery({ ...groupsQuery, enabled: project === null && looks }).data?.groups ?? [];
  const box = (name: "all" | "overdue" | "mine", words: string): ReactNode => (
    <label className="flex min-h-[24px] items-center gap-1.5">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={asked[name] !== undefined}
        onChange={(event) => put({ [name]: event.target.checked ? "1" : null })}
      />
      {words}
    </label>
  );
  return (
    <span className="flex flex-wrap items-center gap-x-4 text-sm">
      {box("mine", "mine")}
      {box("overdue", "overdue")}
      {box("all", project === null ? "settled and of closed projects too" : "settled too")}
      {groups.length > 0 && (
        <select
          className="select select-xs w-44"
          aria-label="Of a group"
          value={asked.group ?? ""}
          onChange={(event) => put({ group: event.target.value })}
        >
          <option value="">all groups</option>
          {groups.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      )}
      {asked.tie !== undefined && (
        <button type="button" className="btn btn-xs" onClick={() => put({ tie: null })}>
          Tied to one thing only ×
        </button>
      )}
    </span>
  );
}

/** Projects and groups that something may be put to. */
function usePlaces(project: string | null) {
  const me = useMe();
  const enabled = project === null && mayLook(me);
  const portfolio = useQuery({ ...portfolioQuery, enabled }).data;
  const groups = useQuery({ ...groupsQuery, enabled }).data;
  return useMemo(() => {
    if (portfolio === undefined || groups === undefined) return [];
    const isMine = ({ id, manager }: Groups["groups"][number]): boolean =>
      manager?.id === me.id || holdsIn(me, "controller", id);
    return [
      ...portfolio.projects
        .filter(({ closed, mayEdit }) => !closed && mayEdit)
        .map(({ id, code, name }) => ({ id: `project:${id}`, name: `${code} ${name}` })),
      ...groups.groups.filter(isMine).map(({ id, name }) => ({ id: `group:${id}`, name })),
      ...(holdsEverywhere(me, "controller") ? [{ id: "house:", name: portfolio.name }] : []),
    ];
  }, [portfolio, groups, me]);
}

const emptyWords = (kind: MatterKind | null, asked: Asked): string => {
  const named = kind === null ? "Nothing" : `No ${MATTER_KIND_WORDS[kind][0]}`;
  if (asked.overdue !== undefined) return `${named} is overdue.`;
  if (asked.mine !== undefined) return `${named} of yours is open.`;
  return asked.all === undefined ? `${named} is open.` : `${named} stands here yet.`;
};

/** What open risks are expected to cost, by currency, against the contingency of a project. */
function Exposure({ shown: { matters, contingency } }: { shown: Matters }) {
  const sums = new Map<string, { minor: number; minorDigits: number }>();
  for (const { state, expected } of matters) {
    if (state !== "open" || expected === null || expected.minor === 0) continue;
    const { currency, minor, minorDigits } = expected;
    sums.set(currency, { minor: (sums.get(currency)?.minor ?? 0) + minor, minorDigits });
  }
  if (sums.size === 0 && contingency === null) return null;
  const amounts = [...sums].map(([currency, { minor, minorDigits }]) => `${money(minor, minorDigits)} ${currency}`);
  const expected = [...sums.values()].reduce((sum, { minor }) => sum + minor, 0);
  return (
    <p className="pb-2 text-sm">
      Open risks are expected to cost {amounts.length === 0 ? "nothing" : amounts.join(" and ")}
      {contingency !== null && (
        <>
          ;{" "}
          <Toned tone={expected > contingency.minor ? "adverse" : "plain"} marked>
            {money(contingency.minor, contingency.minorDigits)} {contingency.currency} of contingency remain
          </Toned>
        </>
      )}
      .
    </p>
  );
}

interface ShownProps {
  readonly asked: Asked;
  readonly project: string | null;
  readonly shown: Matters;
  readonly params: URLSearchParams;
  readonly put: Put;
}

function Shown({ asked, project, shown, params, put }: ShownProps) {
  const keeper = useMatters();
  const places = usePlaces(project);
  const [adding, setAdding] = useState(false);
  const { settings, matters, total, mayAdd, maySet } = shown;
  const kind = MATTER_KINDS.find((each) => each === asked.kind) ?? null;
  const open = (matter: Matter): void => put({ matter: matter.id }, "push");
  const columns = useMemo(
    () =>
      matterColumns({
        kind,
        settings,
        places: project === null,
        onOpen: (matter) => put({ matter: matter.id }, "push"),
      }),
    [kind, settings, project, put],
  );
  const opened = params.get("matter");
  return (
    <>
      {kind === "risk" && <RiskMatrix matters={matters} settings={settings} onOpen={open} />}
      {kind === "risk" && !NARROWING.some((name) => asked[name] !== undefined) && total === matters.length && (
        <Exposure shown={shown} />
      )}
      <DataTable
        key={kind ?? "all"}
        name={kind === null ? "Registers" : `Register of ${MATTER_KIND_WORDS[kind][1]}`}
        rows={matters}
        columns={columns}
        rowKey={({ id }) => id}
        tools={
          <>
            {maySet && (
              <Link className="btn btn-ghost btn-sm" to="/set-up/registers">
                Scale and fields
              </Link>
            )}
            {mayAdd && <BringList kind={kind} project={project} keeper={keeper} />}
            {mayAdd && (
              <button type="button" className="btn btn-sm" onClick={() => setAdding(true)}>
                {kind === null ? "Add …" : `Add ${MATTER_KIND_WORDS[kind][0]} …`}
              </button>
            )}
          </>
        }
        empty={<p>{emptyWords(kind, asked)}</p>}
      />
      {total > matters.length && (
        <p className="muted text-sm">
          The first {matters.length} by when they are due of {countWords(total, "matter", "matters")}; ask for one
          register, group or owner to see the others.
        </p>
      )}
      {adding && (
        <NewMatterForm
          kind={kind}
          project={project}
          places={places}
          settings={settings}
          keeper={keeper}
          onAdded={(id) => {
            setAdding(false);
            put({ matter: id });
          }}
          onClose={() => setAdding(false)}
        />
      )}
      {opened !== null && (
        <MatterDialog key={opened} id={opened} keeper={keeper} onClose={() => put({ matter: null })} />
      )}
    </>
  );
}

/** The registers of a project, or of all: risks, issues, actions, decisions, assumptions and lessons. */
export function RegistersPage() {
  const { project = null } = useParams();
  const [params, put] = useAddress();
  const asked = useMemo(() => askedIn(params), [params]);
  const query = useQuery(mattersQuery(project, asked));
  const kind = MATTER_KINDS.find((each) => each === asked.kind) ?? null;
  return (
    <div className="page">
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 pb-3">
        <h1 className="text-xl">Registers</h1>
        <Kinds kind={kind} put={put} />
        <Filters asked={asked} project={project} put={put} />
      </div>
      <Loaded query={query}>
        {(shown) => <Shown asked={asked} project={project} shown={shown} params={params} put={put} />}
      </Loaded>
    </div>
  );
}
