import { telling } from "../../shared/messages/telling.ts";
import { linkOffers } from "../grid/columns/typedCells.ts";
import type { Explanation, Reason } from "@chronometra/core";
import { X } from "lucide-react";
import { useEffect, useMemo, useState, type ReactNode } from "react";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { countWords, dateWords, dayWords, roundedDays } from "../../shared/words/words.ts";
import type { PlanSession } from "../engine/session/planSession.ts";
import type { Sheet, SheetRow } from "../engine/sheet.ts";
import { useCommit, type Commit } from "./useCommit.ts";
import { holdWords, reasonWords } from "./whyWords.ts";

interface Props {
  readonly row: SheetRow;
  /** What is told holds for the plan as it is on this sheet. */
  readonly sheet: Sheet;
  readonly session: PlanSession;
  readonly mayEdit: boolean;
  readonly onGo: (id: string) => void;
}

/** The reasons of the row, asked for again whenever the row or the plan is another. */
function useExplanation(id: string | null, sheet: Sheet, session: PlanSession): Explanation | null | undefined {
  const [told, setTold] = useState<{ id: string; explanation: Explanation | null } | null>(null);
  useEffect(() => {
    let current = true;
    if (id !== null) void session.explain(id).then((explanation) => current && setTold({ id, explanation }));
    return () => void (current = false);
  }, [id, sheet, session]);
  return told?.id === id ? told?.explanation : undefined;
}

function Lines({ children, empty }: { children: readonly ReactNode[]; empty: string }) {
  return children.length === 0 ? <p className="muted">{empty}</p> : <ul>{children}</ul>;
}

const mark = (decides: boolean): ReactNode => (
  <span aria-label={decides ? "decides" : "does not decide"} className={decides ? "text-accent" : "muted"}>
    {decides ? "◆" : "◇"}{" "}
  </span>
);

function floatWords({ dates, dayMinutes }: SheetRow, capped: boolean): string {
  if (dates?.floatMinutes == null) return "";
  const days = roundedDays(dates.floatMinutes / dayMinutes);
  if (days < 0) return ` It is ${dayWords(-days)} short of what its deadlines and wishes allow.`;
  // Where a deadline or a wish caps it, it is not the finish that gives way first.
  const first = capped ? "a deadline or a date wish gives way" : "the finish moves";
  return days === 0
    ? ` It has no float: what it loses, ${capped ? "a deadline or a date wish loses" : "the finish loses"}.`
    : ` It may move ${dayWords(days)} before ${first}.`;
}

type Named = { readonly id: string; readonly name: string };

/** Names one can go to, in a run. */
function Names({ names, between, onGo }: { names: readonly Named[]; between: string; onGo: (id: string) => void }) {
  return names.map(({ id, name }, i) => (
    <span key={id}>
      {i > 0 && between}
      <button type="button" className="link-quiet cursor-pointer" onClick={() => onGo(id)}>
        {name}
      </button>
    </span>
  ));
}

const KINDS = [
  { before: "", words: "starts after" },
  { before: "with ", words: "starts with" },
  { before: "ends with ", words: "ends with" },
  { before: "ends as ", words: "ends as it starts" },
] as const;

export const LINK_HINT = "a name + 2d";

/** A further link into the activity, by choosing. */
function LinkPicker({ row, sheet, session, commit }: Pick<Props, "row" | "sheet" | "session"> & { commit: Commit }) {
  const [kind, setKind] = useState(0);
  const add = async (text: string): Promise<string | null> => {
    const typed = await session.readLinks(
      row.id,
      `${row.after === "" ? "" : `${row.after}; `}${KINDS[kind]!.before}${text}`,
    );
    return "fault" in typed ? typed.fault : commit(typed.changes);
  };
  const offers = useMemo(() => linkOffers(sheet.rows, row.id), [sheet.rows, row.id]);
  return (
    <p className="mt-1 flex items-center gap-1.5">
      It{" "}
      <select
        className="select select-xs w-36"
        aria-label="Kind of link"
        value={kind}
        onChange={(event) => setKind(Number(event.target.value))}
      >
        {KINDS.map(({ words }, i) => (
          <option key={words} value={i}>
            {words}
          </option>
        ))}
      </select>
      <CommitField label="Link to" value="" adds width="w-56" placeholder={LINK_HINT} offers={offers} onCommit={add} />
    </p>
  );
}

function Told({ row, sheet, session, mayEdit, onGo, explanation }: Props & { explanation: Explanation }) {
  const { reasons, chain, holds, heldAllTheWay, floatCapped } = explanation;
  const commit = useCommit(session);
  const keyOf = (reason: Reason): string | undefined =>
    reason.kind === "link"
      ? sheet.links.find((link) => link.to === row.id && link.from === reason.id && link.type === reason.type)?.key
      : undefined;
  return (
    <div className="grid gap-y-3">
      <section>
        <h3 className="text-sm">
          Why it lies at {dateWords(row.dates!.startDate)} to {dateWords(row.dates!.finishDate)}
        </h3>
        <Lines empty="Nothing holds it.">
          {reasons.map((reason, i) => {
            const key = keyOf(reason);
            return (
              <li key={i}>
                {mark(reason.decides)}
                {reasonWords(reason)}
                {key !== undefined && mayEdit && (
                  <button
                    type="button"
                    className="btn btn-ghost btn-xs btn-square ml-1 h-4"
                    aria-label={`Remove the link: ${reasonWords(reason)}`}
                    onClick={() => telling(commit)([{ type: "removeRow", table: "links", key }])}
                  >
                    <X size={11} aria-hidden="true" />
                  </button>
                )}
              </li>
            );
          })}
        </Lines>
        {chain.length > 0 && (
          <p className="muted">
            The whole way: <Names names={chain} between=" → " onGo={onGo} /> → {row.name}
          </p>
        )}
        {mayEdit && <LinkPicker row={row} sheet={sheet} session={session} commit={commit} />}
      </section>
      <section>
        <h3 className="text-sm">What it holds</h3>
        <Lines empty="It has no successors.">
          {holds.map((hold, i) => (
            <li key={i}>
              {mark(hold.decides)}
              {holdWords(hold)}
            </li>
          ))}
        </Lines>
        {heldAllTheWay.length > 0 && (
          <p className="muted">
            All the way: <Names names={heldAllTheWay.slice(0, NAMED)} between=", " onGo={onGo} />
            {heldAllTheWay.length > NAMED && <> and {countWords(heldAllTheWay.length - NAMED, "other", "others")}</>}
          </p>
        )}
        <p className="muted">{floatWords(row, floatCapped)}</p>
      </section>
    </div>
  );
}

const NAMED = 60;
const PLACELESS: Record<SheetRow["kind"], string> = {
  summary: "A summary lies where what is below it lies.",
  levelOfEffort: "Level of effort spans what it is linked to and holds nothing.",
  work: "It has no dates: give it a duration.",
  milestone: "It has no dates.",
};

/** Why the activity lies where it does, in words, and what it holds in turn. */
export function WhyTab(props: Props) {
  const { row, sheet, session } = props;
  const explanation = useExplanation(row.id, sheet, session);
  if (row.parked) return <p className="muted">It is parked and counts for nothing.</p>;
  if (explanation === undefined)
    return (
      <p className="muted" role="status">
        Loading …
      </p>
    );
  if (explanation === null || row.dates === null) return <p className="muted">{PLACELESS[row.kind]}</p>;
  return (
    <div aria-live="polite">
      <Told {...props} explanation={explanation} />
    </div>
  );
}
