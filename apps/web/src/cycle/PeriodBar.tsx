import type { Me, PeriodBar as Period } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Inbox as InboxIcon, LogOut, Moon, Sun, UserRoundCog } from "lucide-react";
import { useEffect, useState, type ReactNode } from "react";
import { Link, useMatch } from "react-router";
import { weekQuery } from "../collect/queries.ts";
import { matterCountsQuery } from "../matters/queries.ts";
import { Dial } from "../shared/charts/Dial.tsx";
import { holds, mayLook, useSignOut } from "../shared/session/session.ts";
import { setTheme, useTheme } from "../shared/charts/theme.ts";
import { todayHere } from "../shared/words/today.ts";
import { dateWords, momentWords, timeLeftWords } from "../shared/words/words.ts";
import { periodQuery, projectCycleQuery } from "./queries.ts";
import { inboxCountQuery } from "../tell/queries.ts";

/** The time, told anew each minute. */
function useNow(): Date {
  const [now, setNow] = useState(() => new Date());
  useEffect(() => {
    const ticking = setInterval(() => setNow(new Date()), 60_000);
    return () => clearInterval(ticking);
  }, []);
  return now;
}

const PERIOD_MILLISECONDS = 28 * 24 * 3_600_000;

/** The time left to issue, and how much in the registers is overdue. */
function TimeLeft({ period }: { period: Period }) {
  const now = useNow();
  const overdue = useQuery(matterCountsQuery).data?.overdue ?? 0;
  if (period.number === null || period.issueBy === null) {
    return (
      <div className="text-sm" style={{ color: "var(--bar-muted)" }}>
        No reporting period is open
      </div>
    );
  }
  if (period.over)
    return (
      <div className="leading-tight">
        <div>
          <span className="figure">Period {period.number}</span> is locked everywhere
        </div>
        <Link className="text-xs underline" style={{ color: "var(--bar-brass)" }} to="/cycle?next=open">
          Open the next one
        </Link>
      </div>
    );
  const until = new Date(period.issueBy);
  const left = until.getTime() - now.getTime();
  return (
    <div className="flex items-center gap-2.5">
      <Dial share={1 - left / PERIOD_MILLISECONDS} />
      <div className="leading-tight">
        <div>
          <span className="figure">Period {period.number}</span>{" "}
          <span className="whitespace-nowrap">to {dateWords(period.dataDate)}</span>
        </div>
        <div className="text-xs" style={{ color: left < 0 ? "#ff9377" : "var(--bar-brass)" }}>
          {timeLeftWords(until, now)}
          {left < 0 ? "" : " to issue"}
          {overdue > 0 && (
            <>
              {" · "}
              <Link className="underline" to="/registers?overdue=1">
                {overdue} overdue
              </Link>
            </>
          )}
        </div>
      </div>
    </div>
  );
}

function Step({ step, linked }: { step: Period["steps"][number]; linked: boolean }) {
  const words = (
    <>
      <span className="block leading-tight">{step.name}</span>
      <span
        className="block text-xs leading-tight"
        style={{ color: step.open > 0 ? "var(--bar-brass)" : "var(--bar-muted)" }}
      >
        {step.done ? "✓ " : ""}
        {step.words}
      </span>
    </>
  );
  return (
    <li
      className="pl-1.5 text-[13px]"
      style={{
        borderLeft: `3px ${step.done ? "double" : "solid"} ${step.open > 0 ? "var(--bar-brass)" : "var(--bar-muted)"}`,
      }}
    >
      {linked ? (
        <Link to={step.link} className="block hover:underline">
          {words}
        </Link>
      ) : (
        words
      )}
    </li>
  );
}

const WEEK_WORDS = { sent: "sent, waits to be approved", approved: "approved", returned: "returned to you" } as const;

/** What of the cycle is a contributor's: their own week, and until when it is wanted. */
function OwnWeek({ period }: { period: Period }) {
  const today = todayHere();
  const { data } = useQuery(weekQuery(period.dataDate !== null && period.dataDate < today ? period.dataDate : today));
  if (data === undefined) return null;
  const isOpen = data.sheet === null || data.sheet.state === "returned";
  return (
    <Link
      to={`/desk/week?date=${data.from}`}
      className="pl-1.5 text-[13px] hover:underline"
      style={{ borderLeft: `3px ${isOpen ? "solid" : "double"} ${isOpen ? "var(--bar-brass)" : "var(--bar-muted)"}` }}
    >
      <span className="block leading-tight">Your week from {dateWords(data.from)}</span>
      <span className="block text-xs leading-tight" style={{ color: isOpen ? "var(--bar-brass)" : "var(--bar-muted)" }}>
        {data.sheet === null ? "not sent" : WEEK_WORDS[data.sheet.state]}
        {isOpen && period.issueBy !== null && `, due ${momentWords(period.issueBy)}`}
      </span>
    </Link>
  );
}

/** The way to one's inbox, with how much of it is open. */
function InboxLink() {
  const open = useQuery(inboxCountQuery).data?.open ?? 0;
  return (
    <Link
      className="flex min-h-[26px] items-center gap-1 p-1.5"
      aria-label={open === 0 ? "Inbox" : `Inbox, ${open} open`}
      to="/inbox"
    >
      <InboxIcon size={16} aria-hidden="true" />
      {open > 0 && (
        <span className="figure text-sm" style={{ color: "var(--bar-brass)" }}>
          {open > 99 ? "99+" : open}
        </span>
      )}
    </Link>
  );
}

const rolesOf = ({ roles }: Me): string =>
  roles.map((role) => role.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`)).join(", ");

function Person({ me, children }: { me: Me; children: ReactNode }) {
  const theme = useTheme();
  const signOut = useSignOut();
  return (
    <div className="ml-auto flex items-center gap-1">
      {children}
      <InboxLink />
      <div className="hidden pl-2 text-right leading-tight sm:block">
        <div>{me.name}</div>
        <div className="max-w-[8rem] truncate text-xs" style={{ color: "var(--bar-muted)" }} title={rolesOf(me)}>
          {rolesOf(me)}
        </div>
      </div>
      <Link className="p-1.5" aria-label="Settings" to="/settings">
        <UserRoundCog size={16} aria-hidden="true" />
      </Link>
      <button
        type="button"
        className="p-1.5 cursor-pointer"
        aria-label={theme === "enamel" ? "Use the dark theme" : "Use the light theme"}
        onClick={() => setTheme(theme === "enamel" ? "nightwatch" : "enamel")}
      >
        {theme === "enamel" ? <Moon size={16} aria-hidden="true" /> : <Sun size={16} aria-hidden="true" />}
      </button>
      <button type="button" className="p-1.5 cursor-pointer" aria-label="Sign out" onClick={() => signOut.mutate()}>
        <LogOut size={16} aria-hidden="true" />
      </button>
    </div>
  );
}

/** Where the project in hand stands in the cycle, and who is waited for. */
function ProjectStrip({ project }: { project: string }) {
  const { data } = useQuery(projectCycleQuery(project));
  if (data === undefined || !data.takesPart) return null;
  const waits = [...new Set(data.steps.flatMap(({ waitsFor }) => waitsFor))];
  const next = data.steps.find(({ open }) => open > 0);
  return (
    <div
      role="region"
      aria-label="This project in the cycle"
      className="hidden w-full flex-wrap items-baseline gap-x-3.5 text-xs md:flex"
      style={{ color: "var(--bar-muted)" }}
    >
      <span>{data.code}</span>
      {data.steps.map(({ name, open, words }) => (
        <span key={name} style={open > 0 ? { color: "var(--bar-brass)" } : undefined}>
          {open > 0 ? `${name.toLowerCase()}: ${words}` : `✓ ${name.toLowerCase()}`}
        </span>
      ))}
      <Link className="ml-auto underline" style={{ color: "var(--bar-ink)" }} to={`/cycle?project=${project}`}>
        {next === undefined
          ? "all done"
          : `waits for ${waits.slice(0, 3).join(", ")}${waits.length > 3 ? ` and ${waits.length - 3} more` : ""}`}
      </Link>
    </div>
  );
}

/**
 * The data date, the period, the time left to issue, and the steps of the cycle with what is open in each; for a
 * contributor their own week; what else belongs in the head comes from the frame.
 */
export function PeriodBar({ me, children }: { me: Me; children: ReactNode }) {
  const { data } = useQuery(periodQuery);
  const mayOpen = (link: string): boolean => !link.startsWith("/time") || holds(me, "controller", "projectManager");
  const project = useMatch("/projects/:project/*")?.params.project;
  return (
    <header
      className="flex min-h-12 flex-wrap items-center gap-x-4 gap-y-1 px-5 py-1"
      style={{ background: "var(--bar-ground)", color: "var(--bar-ink)" }}
    >
      <div className="leading-tight">
        <Link to="/" className="figure text-lg">
          Chronometra
        </Link>
        <div className="hidden text-xs lg:block" style={{ color: "var(--bar-muted)" }}>
          {data?.organisation ?? "\u00a0"}
        </div>
      </div>
      {data !== undefined && <TimeLeft period={data} />}
      {data !== undefined && !mayLook(me) && me.person !== null && <OwnWeek period={data} />}
      {data !== undefined && data.steps.length > 0 && mayLook(me) && (
        <ul aria-label="The cycle" className="hidden gap-3.5 md:flex">
          {data.steps.map((step) => (
            <Step key={step.name} step={step} linked={mayOpen(step.link)} />
          ))}
        </ul>
      )}
      <Person me={me}>{children}</Person>
      {project !== undefined && mayLook(me) && <ProjectStrip project={project} />}
    </header>
  );
}
