import type { Calendar } from "@chronometra/core";
import { Plus } from "lucide-react";
import { useState } from "react";
import { todayHere } from "../../shared/words/today.ts";
import { useAddress } from "../../shared/page/useAddress.ts";
import { CalendarEditor } from "../calendars/CalendarEditor.tsx";
import { newId } from "../stored/newId.ts";
import { registerWay } from "../stored/SharedStore.tsx";
import { usedWords, type RegisterPartProps } from "./registerParts.ts";
import { RemoveRow } from "./RemoveRow.tsx";

/** The calendars of the installation. */
export function RegisterCalendars({ register }: RegisterPartProps) {
  const [params, put] = useAddress();
  const [fresh, setFresh] = useState<Calendar | null>(null);
  const { calendars, mayWrite } = register;
  const all = calendars.map(({ row }) => row);
  const entry =
    fresh === null ? (calendars.find(({ row }) => row.id === params.get("calendar")) ?? calendars[0] ?? null) : null;
  const chosen = fresh ?? entry?.row ?? null;
  const choose = (id: string): void => {
    setFresh(null);
    put({ calendar: id });
  };
  const begin = (): void =>
    setFresh({
      id: newId("calendar"),
      name: "New calendar",
      ...(all[0] === undefined ? { week: {} } : { base: all[0].id }),
    });
  return (
    <div className="grid gap-6 lg:grid-cols-[15rem_minmax(0,1fr)]">
      <div>
        <ul aria-label="Calendars">
          {calendars.map(({ row: { id, name }, projects }) => (
            <li key={id} className={`border-b rule ${chosen?.id === id ? "bg-base-200" : ""}`}>
              <button
                type="button"
                className="w-full cursor-pointer px-2 py-1 text-left"
                aria-current={chosen?.id === id}
                onClick={() => choose(id)}
              >
                <span className="font-semibold">{name}</span>
                <br />
                <span className={`text-sm ${projects.some(({ same }) => !same) ? "undecided" : "muted"}`}>
                  {usedWords(projects) || "in no project"}
                </span>
              </button>
            </li>
          ))}
        </ul>
        {mayWrite && (
          <button type="button" className="btn btn-ghost btn-sm mt-1" onClick={begin}>
            <Plus size={14} aria-hidden="true" /> Calendar
          </button>
        )}
      </div>
      {chosen === null ? (
        <p className="muted">No calendar is in the register yet.</p>
      ) : (
        <div>
          {entry !== null && mayWrite && (
            <p className="mb-2">
              <RemoveRow kept={{ table: "calendars", row: chosen }} />
            </p>
          )}
          <CalendarEditor
            key={`${JSON.stringify(chosen)} ${fresh === null}`}
            wayOf={(draft) => registerWay({ table: "calendars", row: draft }, entry === null ? null : chosen)}
            calendar={chosen}
            isNew={fresh !== null}
            all={all}
            others={entry?.projects ?? []}
            mayEdit={mayWrite}
            year={Number(todayHere().slice(0, 4))}
            onDone={() => setFresh((now) => (now?.id === chosen.id ? null : now))}
          />
        </div>
      )}
    </div>
  );
}
