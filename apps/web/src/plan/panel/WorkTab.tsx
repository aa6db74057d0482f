import { formatHours, parseDuration, type Change } from "@chronometra/core";
import { UserRound, X } from "lucide-react";
import { workOffers } from "../grid/panes/sheetColumns.ts";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { AMOUNT_FAULT, amountText, readAmount } from "../../shared/words/amounts.ts";
import { dateWords, money, NOT_A_DATE, readDate } from "../../shared/words/words.ts";
import type { ActivityWork } from "../engine/activityWork.ts";
import type { PlanSession } from "../engine/session/planSession.ts";
import type { Sheet, SheetRow } from "../engine/sheet.ts";
import { todayHere } from "../../shared/words/today.ts";
import type { Commit } from "./useCommit.ts";

interface Props {
  readonly row: SheetRow;
  readonly work: ActivityWork;
  readonly sheet: Sheet;
  readonly session: PlanSession;
  readonly commit: Commit;
  readonly mayEdit: boolean;
}

const TIMINGS = { even: "evenly", start: "at the start", finish: "at the finish" } as const;
const hoursText = (minutes: number | undefined): string =>
  minutes === undefined ? "" : formatHours(minutes).replace(" ", "");

function People({ row, work, sheet, session, commit, mayEdit }: Props) {
  const edit = (
    key: string,
    set: Extract<Change, { type: "editRow"; table: "assignments" }>["set"],
  ): Promise<string | null> => commit([{ type: "editRow", table: "assignments", key, set }]);
  const hours =
    (key: string, field: "plannedMinutes" | "remainingMinutes") =>
    (text: string): Promise<string | null> | string => {
      if (text.trim() === "" && field === "remainingMinutes") return edit(key, { remainingMinutes: null });
      const minutes = parseDuration(text, row.dayMinutes, "hours");
      return minutes === null ? "Write hours as 16h, 16 or 2d." : edit(key, { [field]: minutes });
    };
  const share =
    (key: string) =>
    (text: string): Promise<string | null> | string => {
      const percent = Number(text.replace("%", "").replace(",", ".").trim() || "100");
      return percent > 0 && percent <= 10_000
        ? edit(key, { unitsPercent: percent === 100 ? null : percent })
        : "A share of someone's time is above 0, such as 50%.";
    };
  const from =
    (key: string) =>
    (text: string): Promise<string | null> | string => {
      const date = text.trim() === "" ? null : readDate(text, todayHere().slice(0, 4));
      return date === null && text.trim() !== "" ? NOT_A_DATE : edit(key, { restart: date });
    };
  const add = async (text: string): Promise<string | null> => {
    const typed = await session.readWork(row.id, row.people === "" ? text : `${row.people}; ${text}`);
    return "fault" in typed ? typed.fault : commit(typed.changes);
  };
  const total = work.assignments.reduce((sum, { costMinor }) => sum + costMinor, 0);
  return (
    <table className="ledger panel-table [&_td]:px-1 [&_th]:px-1" aria-label="People on it">
      <thead>
        <tr>
          <th>Who</th>
          <th className="num">Hours</th>
          <th className="num">Share</th>
          <th className="num">Remaining</th>
          <th>Goes on from</th>
          <th className="num">Cost, {work.currency}</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {work.assignments.map(({ key, row: own, name, placeholder, costMinor }) => (
          <tr key={key}>
            <td>
              {placeholder && <UserRound size={12} className="undecided mr-1 inline" aria-label="stands for a role" />}
              {name}
            </td>
            <td className="num">
              <CommitField
                label={`Hours of ${name}`}
                value={hoursText(own.plannedMinutes)}
                width="w-13"
                numeric
                disabled={!mayEdit}
                onCommit={hours(key, "plannedMinutes")}
              />
            </td>
            <td className="num">
              <CommitField
                label={`Share of ${name}`}
                value={`${own.unitsPercent ?? 100}%`}
                width="w-13"
                numeric
                disabled={!mayEdit}
                onCommit={share(key)}
              />
            </td>
            <td className="num">
              <CommitField
                label={`Remaining hours of ${name}`}
                value={hoursText(own.remainingMinutes)}
                width="w-13"
                numeric
                placeholder="–"
                disabled={!mayEdit}
                onCommit={hours(key, "remainingMinutes")}
              />
            </td>
            <td>
              <CommitField
                label={`${name} goes on from`}
                date={own.restart ?? ""}
                value={own.restart === undefined ? "" : dateWords(own.restart)}
                width="w-24"
                placeholder="with it"
                disabled={!mayEdit}
                onCommit={from(key)}
              />
            </td>
            <td className="num">{money(costMinor, work.minorDigits)}</td>
            <td>
              {mayEdit && (
                <button
                  type="button"
                  className="btn btn-ghost btn-xs btn-square"
                  aria-label={`Remove ${name} from it`}
                  onClick={() => void commit([{ type: "removeRow", table: "assignments", key }])}
                >
                  <X size={12} aria-hidden="true" />
                </button>
              )}
            </td>
          </tr>
        ))}
        {mayEdit && (
          <tr>
            <td colSpan={7}>
              <CommitField
                label="Add someone"
                value=""
                adds
                width="w-72"
                placeholder={WORK_HINT}
                offers={workOffers(sheet.people)}
                onCommit={add}
              />
            </td>
          </tr>
        )}
      </tbody>
      {work.assignments.length > 1 && (
        <tfoot>
          <tr className="total">
            <td>Together</td>
            <td className="num">{formatHours(row.plannedMinutes)}</td>
            <td colSpan={3} />
            <td className="num">{money(total, work.minorDigits)}</td>
            <td />
          </tr>
        </tfoot>
      )}
    </table>
  );
}

export const WORK_HINT = "Name 16h at 50%";
export const COST_HINT = "Crane hire 1200";

/** A cost as it is typed: what for and how much, `Crane hire 1200`. `null` where it is none. */
export function readCost(text: string, minorDigits: number): { category: string; plannedMinor: number } | null {
  const match = /^(.*?)\s+(-?[\d.,\s']+)$/.exec(text.trim());
  const minor = match === null ? null : readAmount(match[2]!, minorDigits);
  return match === null || minor === null ? null : { category: match[1]!, plannedMinor: minor };
}

function Costs({ row, work, sheet, commit, mayEdit }: Props) {
  const amount =
    (key: string) =>
    (text: string): Promise<string | null> | string => {
      const minor = readAmount(text, work.minorDigits);
      return minor === null
        ? AMOUNT_FAULT
        : commit([{ type: "editRow", table: "costs", key, set: { plannedMinor: minor } }]);
    };
  const add = (text: string): Promise<string | null> | string => {
    const read = readCost(text, work.minorDigits);
    if (read === null) return `Write what for and how much: ${COST_HINT}.`;
    const id = `k-${crypto.randomUUID().slice(0, 13)}`;
    return commit([{ type: "addRow", table: "costs", key: id, row: { id, activity: row.id, ...read } }]);
  };
  return (
    <table className="ledger panel-table" aria-label="Other costs">
      <thead>
        <tr>
          <th>Other costs</th>
          <th className="num">{work.currency}</th>
          <th>Falls due</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {work.costs.map(({ key, row: own }) => (
          <tr key={key}>
            <td>
              <CommitField
                label={`Category of ${own.category}`}
                value={own.category}
                width="w-40"
                offers={sheet.categories}
                disabled={!mayEdit}
                onCommit={(text) =>
                  text.trim() === ""
                    ? "A cost needs a category."
                    : commit([{ type: "editRow", table: "costs", key, set: { category: text.trim() } }])
                }
              />
            </td>
            <td className="num">
              <CommitField
                label={`Amount of ${own.category}`}
                value={amountText(own.plannedMinor, work.minorDigits)}
                width="w-24"
                numeric
                disabled={!mayEdit}
                onCommit={amount(key)}
              />
            </td>
            <td>
              <select
                className="select select-xs w-28"
                aria-label={`When ${own.category} falls due`}
                disabled={!mayEdit}
                value={own.timing ?? "even"}
                onChange={(event) =>
                  void commit([
                    {
                      type: "editRow",
                      table: "costs",
                      key,
                      set: {
                        timing: event.target.value === "even" ? null : (event.target.value as "start" | "finish"),
                      },
                    },
                  ])
                }
              >
                {Object.entries(TIMINGS).map(([timing, words]) => (
                  <option key={timing} value={timing}>
                    {words}
                  </option>
                ))}
              </select>
            </td>
            <td>
              {mayEdit && (
                <button
                  type="button"
                  className="btn btn-ghost btn-xs btn-square"
                  aria-label={`Remove ${own.category}`}
                  onClick={() => void commit([{ type: "removeRow", table: "costs", key }])}
                >
                  <X size={12} aria-hidden="true" />
                </button>
              )}
            </td>
          </tr>
        ))}
        {mayEdit && (
          <tr>
            <td colSpan={4}>
              <CommitField
                label="Add a cost"
                value=""
                adds
                width="w-56"
                placeholder={COST_HINT}
                offers={sheet.categories.map((category) => `${category} `)}
                onCommit={add}
              />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

/** Who works on the activity and what else it costs. */
export function WorkTab(props: Props) {
  const { row, work } = props;
  if (row.kind === "summary")
    return (
      <p className="muted">
        All below it comes to {formatHours(row.plannedMinutes)} and {money(row.budgetMinor, work.minorDigits)}{" "}
        {work.currency}. People and costs stand on the activities below.
      </p>
    );
  return (
    <div className="flex flex-col gap-y-3">
      <div>
        <People {...props} />
      </div>
      <div>
        <Costs {...props} />
      </div>
      <p className="muted w-full">
        Planned cost {money(row.budgetMinor, work.minorDigits)} {work.currency}, {formatHours(row.plannedMinutes)} of
        work.
      </p>
    </div>
  );
}
