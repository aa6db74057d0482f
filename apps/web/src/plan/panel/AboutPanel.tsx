import { X } from "lucide-react";
import { useEffect, useRef, useState, type KeyboardEvent } from "react";
import type { ActivityWork } from "../engine/activityWork.ts";
import type { PlanSession } from "../engine/session/planSession.ts";
import type { Sheet, SheetRow } from "../engine/sheet.ts";
import { CreditTab } from "./CreditTab.tsx";
import { DatesTab } from "./DatesTab.tsx";
import { useCommit } from "./useCommit.ts";
import { HistoryTab } from "./HistoryTab.tsx";
import { NotesTab } from "./NotesTab.tsx";
import { TalkCount, TalkTab } from "./TalkTab.tsx";
import { WhyTab } from "./WhyTab.tsx";
import { WorkTab } from "./work/WorkTab.tsx";

export const TABS = [
  { id: "why", name: "Why" },
  { id: "work", name: "Work and cost" },
  { id: "dates", name: "Dates and owner" },
  { id: "credit", name: "Rule of credit" },
  { id: "notes", name: "Notes" },
  { id: "talk", name: "Talk" },
  { id: "history", name: "History" },
] as const;
export type AboutTab = (typeof TABS)[number]["id"];

/** Fields of the plan by the columns that show them, where these can be written. */
const FIELD_OF: Readonly<Record<string, string>> = {
  ...{ name: "name", length: "durationMinutes", done: "percent", left: "remainingMinutes" },
  ...{ began: "actualStart", ended: "actualFinish", owner: "owner", calendar: "calendar" },
  ...{ driven: "driver", wish: "wish", deadline: "deadline" },
};

interface Props {
  readonly tab: AboutTab;
  readonly onTab: (tab: AboutTab) => void;
  readonly row: SheetRow | null;
  /** The column of the chosen cell. */
  readonly column: string | null;
  /** What is told holds for the plan as it is on this sheet. */
  readonly sheet: Sheet;
  readonly session: PlanSession;
  readonly mayEdit: boolean;
  readonly onGo: (id: string) => void;
  readonly onClose: () => void;
  /** Whether it was opened by a key, and so takes the keyboard. */
  readonly takesKeyboard: boolean;
}

/** What hangs on the row, asked for again whenever the row or the plan is another. */
function useActivityWork(id: string | null, sheet: Sheet, session: PlanSession): ActivityWork | null {
  const [known, setKnown] = useState<{ id: string; work: ActivityWork | null } | null>(null);
  useEffect(() => {
    let current = true;
    if (id !== null) void session.work(id).then((work) => current && setKnown({ id, work }));
    return () => void (current = false);
  }, [id, sheet, session]);
  return known !== null && known.id === id ? known.work : null;
}

interface TabProps extends Pick<Props, "tab" | "column" | "sheet" | "session" | "mayEdit" | "onGo"> {
  readonly row: SheetRow;
  readonly work: ActivityWork | null;
  readonly commit: ReturnType<typeof useCommit>;
}

/** What a tab tells of the row. */
function Told({ tab, row, column, work, sheet, session, commit, mayEdit, onGo }: TabProps) {
  if (tab === "why") return <WhyTab row={row} sheet={sheet} session={session} mayEdit={mayEdit} onGo={onGo} />;
  if (tab === "history") return <HistoryTab activity={row.id} field={FIELD_OF[column ?? ""] ?? null} sheet={sheet} />;
  if (tab === "talk") return <TalkTab activity={row.id} name={row.name} />;
  if (work === null)
    return (
      <p className="muted" role="status">
        Loading …
      </p>
    );
  if (tab === "work")
    return <WorkTab row={row} work={work} sheet={sheet} session={session} commit={commit} mayEdit={mayEdit} />;
  if (tab === "dates") return <DatesTab row={row} sheet={sheet} commit={commit} mayEdit={mayEdit} />;
  if (tab === "notes")
    return <NotesTab row={row} note={work.note} session={session} commit={commit} mayEdit={mayEdit} />;
  return <CreditTab row={row} credit={work.credit} sheet={sheet} commit={commit} mayEdit={mayEdit} />;
}

/** Beside the plan, or below it where that is narrow: all about the chosen activity that the table has no room for. */
export function AboutPanel({ tab, onTab, row, column, sheet, session, mayEdit, onGo, onClose, takesKeyboard }: Props) {
  const work = useActivityWork(row?.id ?? null, sheet, session);
  const commit = useCommit(session);
  const panel = useRef<HTMLElement>(null);
  useEffect(() => {
    if (takesKeyboard) panel.current?.querySelector<HTMLElement>("[aria-selected=true]")?.focus();
    // As the panel opens, and not when it is told so while it is open.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  /** Side arrows go from tab to tab, Escape goes back to the plan. */
  const onKey = (event: KeyboardEvent): void => {
    const step = (event.target as HTMLElement).role === "tab" ? { ArrowRight: 1, ArrowLeft: -1 }[event.key] : undefined;
    if (event.key === "Escape") return onClose();
    if (step === undefined) return;
    const next = TABS[(TABS.findIndex(({ id }) => id === tab) + step + TABS.length) % TABS.length]!.id;
    onTab(next);
    panel.current?.querySelector<HTMLElement>(`#about-${next}`)?.focus();
  };
  const open = mayEdit && row?.parked !== true;
  return (
    <section
      ref={panel}
      aria-label="About the activity"
      onKeyDown={onKey}
      className="flex shrink-0 flex-col border-base-content bg-base-100 text-[13px] max-lg:border-t lg:w-132 lg:border-l"
    >
      <div className="flex flex-wrap items-center gap-x-4 border-b rule px-3">
        <h2 className="min-w-0 grow truncate py-1 text-sm" title={row?.name}>
          {row?.name ?? "No row is selected"}
        </h2>
        <button type="button" className="btn btn-ghost btn-xs btn-square" aria-label="Close" onClick={onClose}>
          <X size={14} aria-hidden="true" />
        </button>
        <div role="tablist" aria-label="About the activity" className="flex w-full flex-wrap gap-x-4">
          {TABS.map(({ id, name }) => (
            <button
              key={id}
              type="button"
              role="tab"
              id={`about-${id}`}
              aria-selected={tab === id}
              tabIndex={tab === id ? 0 : -1}
              aria-controls="about"
              className={`cursor-pointer border-b-2 py-1 ${tab === id ? "border-accent font-semibold" : "border-transparent muted"}`}
              onClick={() => onTab(id)}
            >
              {name}
              {id === "talk" && row !== null && <TalkCount activity={row.id} />}
            </button>
          ))}
        </div>
      </div>
      <div
        id="about"
        role="tabpanel"
        aria-labelledby={`about-${tab}`}
        tabIndex={0}
        className="min-h-0 flex-1 overflow-auto px-3 py-2"
        key={row?.id}
      >
        {row !== null && <Told {...{ tab, row, column, work, sheet, session, commit, onGo }} mayEdit={open} />}
      </div>
    </section>
  );
}
