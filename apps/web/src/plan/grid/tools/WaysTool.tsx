import type { Alternate } from "@chronometra/core";
import { formatHours } from "@chronometra/core";
import { Split } from "lucide-react";
import { useEffect, useState, type RefObject } from "react";
import { toast } from "../../../shared/messages/toast.ts";
import { Dialog } from "../../../shared/dialogs/Dialog.tsx";
import { Toned } from "../../../shared/dialogs/Toned.tsx";
import { dateWords, driftTone, money, movedWords } from "../../../shared/words/words.ts";
import type { PlanSession } from "../../engine/session/planSession.ts";
import type { Sheet, SheetRow } from "../../engine/sheet.ts";
import type { Active } from "../PlanSheet.tsx";
import { ToolButton } from "../../../shared/fields/ToolButton.tsx";

interface Props {
  readonly current: RefObject<Active | null>;
  readonly sheet: Sheet;
  readonly session: PlanSession;
  /** The row the keyboard stands on. */
  readonly row: SheetRow | null;
}

const say = (problems: Awaited<ReturnType<PlanSession["ways"]>>): void => {
  if (problems !== null)
    toast.error(
      problems
        .map(({ message }) => message)
        .slice(0, 3)
        .join("\n"),
    );
};

/** One way: what the plan would come to with it, and making it the live one. */
function WayLine({ way, minorDigits, onLive }: { way: Alternate; minorDigits: number; onLive: () => void }) {
  return (
    <tr>
      <td className={way.live ? "font-semibold" : ""}>{way.name}</td>
      <td>
        {way.fault !== null ? (
          <span className="adverse">{way.fault}</span>
        ) : (
          <>
            {dateWords(way.finish)}
            {way.finishDays !== null && way.finishDays !== 0 && (
              <>
                {" "}
                <Toned tone={driftTone(way.finishDays)}>{movedWords(way.finishDays)}</Toned>
              </>
            )}
          </>
        )}
      </td>
      <td className="num">{money(way.budgetMinor, minorDigits)}</td>
      <td className="text-sm">
        {way.load
          .slice(0, 4)
          .map(({ person, minutes }) => `${person} ${formatHours(minutes)}`)
          .join(", ")}
      </td>
      <td>
        {way.live ? (
          <span className="favourable text-sm">✓ live</span>
        ) : (
          <button
            type="button"
            className="btn btn-xs"
            disabled={way.fault !== null}
            aria-label={`Make ${way.name} live`}
            onClick={onLive}
          >
            Make live
          </button>
        )}
      </td>
    </tr>
  );
}

/** The ways of a step side by side: what the plan would come to with each, and which is live. */
function Ways({
  group,
  name,
  sheet,
  session,
  onClose,
}: {
  group: string;
  name: string;
  sheet: Sheet;
  session: PlanSession;
  onClose: () => void;
}) {
  const [ways, setWays] = useState<readonly Alternate[] | null>(null);
  useEffect(() => {
    let here = true;
    void session.alternates(group).then((found) => here && setWays(found));
    return () => {
      here = false;
    };
  }, [group, session, sheet]);
  return (
    <Dialog title={`Ways to do: ${name}`} onClose={onClose}>
      {ways === null ? (
        <p className="muted" role="status">
          Calculating …
        </p>
      ) : (
        <table className="ledger" aria-label="Alternates">
          <thead>
            <tr>
              <th>Way</th>
              <th>Project finishes</th>
              <th className="num">Planned cost in all</th>
              <th>Hours of it</th>
              <th>
                <span className="sr-only">Select</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {ways.map((way) => (
              <WayLine
                key={way.activity}
                way={way}
                minorDigits={sheet.minorDigits}
                onLive={() => void session.ways({ group, live: way.activity }).then(say)}
              />
            ))}
          </tbody>
        </table>
      )}
      <p className="muted mt-2 text-sm">
        The others stay parked and count for nothing. Nothing is switched to compare them.
      </p>
      <button
        type="button"
        className="btn btn-xs mt-2"
        onClick={() =>
          void session
            .change([{ type: "removeRow", table: "alternates", key: group }])
            .then((problems) => (say(problems), onClose()))
        }
      >
        They are no alternates any more
      </button>
    </Dialog>
  );
}

/** Makes the chosen rows ways of one step, or shows the ways that the row is one of. */
export function WaysTool({ current, sheet, session, row }: Props) {
  const [open, setOpen] = useState<string | null>(null);
  const group = sheet.alternates.find(({ members }) => row !== null && members.includes(row.id));
  const make = async (): Promise<void> => {
    const { work, block } = current.current!;
    const members = work.topIdsIn(block);
    if (members.length < 2)
      return void toast(
        "Select two or more rows, the way that stays live first: they become ways of one step, and the others are parked.",
      );
    say(await session.ways({ members, name: sheet.rows.find(({ id }) => id === members[0])?.name ?? "Step" }));
  };
  const shown = sheet.alternates.find(({ id }) => id === open);
  return (
    <>
      <ToolButton
        icon={Split}
        name={group === undefined ? "Make the selected rows alternates" : `Ways to do ${group.name}`}
        title={group === undefined ? "Ways of one step, of which one is live" : `Compare the ways to do ${group.name}`}
        pressed={group !== undefined}
        onClick={() => (group === undefined ? void make() : setOpen(group.id))}
      />
      {shown !== undefined && (
        <Ways group={shown.id} name={shown.name} sheet={sheet} session={session} onClose={() => setOpen(null)} />
      )}
    </>
  );
}
