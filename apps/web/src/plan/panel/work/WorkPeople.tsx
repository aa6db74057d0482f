import { telling } from "../../../shared/messages/telling.ts";
import { RemoveButton } from "../../../shared/fields/RemoveButton.tsx";
import type { WorkProps } from "./workProps.ts";
import { formatHours, parseDuration, type Change } from "@chronometra/core";
import { UserRound } from "lucide-react";
import { workOffers } from "../../grid/columns/typedCells.ts";
import { CommitField } from "../../../shared/fields/CommitField.tsx";
import { dateWords, money, NOT_A_DATE, readDate } from "../../../shared/words/words.ts";
import { todayHere } from "../../../shared/words/today.ts";

const hoursText = (minutes: number | undefined): string =>
  minutes === undefined ? "" : formatHours(minutes).replace(" ", "");

type LineProps = Pick<WorkProps, "row" | "work" | "commit" | "mayEdit"> & {
  readonly assignment: WorkProps["work"]["assignments"][number];
};

/** One person's work on the activity, each part changed where it stands. */
function PersonLine({
  assignment: { key, row: own, name, placeholder, costMinor },
  row,
  work,
  commit,
  mayEdit,
}: LineProps) {
  const edit = (set: Extract<Change, { type: "editRow"; table: "assignments" }>["set"]): Promise<string | null> =>
    commit([{ type: "editRow", table: "assignments", key, set }]);
  const hours =
    (field: "plannedMinutes" | "remainingMinutes") =>
    (text: string): Promise<string | null> | string => {
      if (text.trim() === "" && field === "remainingMinutes") return edit({ remainingMinutes: null });
      const minutes = parseDuration(text, row.dayMinutes, "hours");
      return minutes === null ? "Write hours as 16h, 16 or 2d." : edit({ [field]: minutes });
    };
  const share = (text: string): Promise<string | null> | string => {
    const percent = Number(text.replace("%", "").replace(",", ".").trim() || "100");
    return percent > 0 && percent <= 10_000
      ? edit({ unitsPercent: percent === 100 ? null : percent })
      : "A share of someone's time is above 0, such as 50%.";
  };
  const from = (text: string): Promise<string | null> | string => {
    const date = text.trim() === "" ? null : readDate(text, todayHere().slice(0, 4));
    return date === null && text.trim() !== "" ? NOT_A_DATE : edit({ restart: date });
  };
  return (
    <tr>
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
          onCommit={hours("plannedMinutes")}
        />
      </td>
      <td className="num">
        <CommitField
          label={`Share of ${name}`}
          value={`${own.unitsPercent ?? 100}%`}
          width="w-13"
          numeric
          disabled={!mayEdit}
          onCommit={share}
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
          onCommit={hours("remainingMinutes")}
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
          onCommit={from}
        />
      </td>
      <td className="num">{money(costMinor, work.minorDigits)}</td>
      <td>
        {mayEdit && (
          <RemoveButton
            what={`${name} from it`}
            onRemove={() => telling(commit)([{ type: "removeRow", table: "assignments", key }])}
          />
        )}
      </td>
    </tr>
  );
}

/** Who works on an activity, how long and with what share of their days. */
export function WorkPeople({ row, work, sheet, session, commit, mayEdit }: WorkProps) {
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
        {work.assignments.map((assignment) => (
          <PersonLine
            key={assignment.key}
            assignment={assignment}
            row={row}
            work={work}
            commit={commit}
            mayEdit={mayEdit}
          />
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

/** What a person's work looks like when it is typed. */
export const WORK_HINT = "Name 16h at 50%";
