import type { Desk, Report } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { call } from "../shared/api.ts";
import { DateField } from "../shared/DateField.tsx";
import { Loaded } from "../shared/Failure.tsx";
import { dateWords } from "../shared/words.ts";
import { DeskCard } from "./DeskCard.tsx";
import { byDue } from "./dueGroups.ts";
import { deskQuery } from "./queries.ts";
import { reportWords } from "./reportWords.ts";

const STATE_WORDS: Record<Report["state"], string> = { submitted: "waits to be accepted", posted: "accepted", returned: "returned", withdrawn: "taken back" };

function Sent({ report }: { report: Report }) {
  const client = useQueryClient();
  const takeBack = useMutation({
    mutationFn: () => call("DELETE /api/desk/reports/:report", { params: { report: report.id } }),
    onSettled: () => client.invalidateQueries({ queryKey: ["desk"] }),
    onError: (error) => toast.error(error.message),
  });
  return (
    <li className="border-b rule py-1 text-sm">
      <span className="whitespace-nowrap">{dateWords(report.date)}</span> · <span className="font-semibold">{reportWords(report)}</span> on {report.activityName}
      {report.note !== "" && <span className="muted"> “{report.note}”</span>}{" "}
      <span className={report.state === "returned" ? "adverse" : report.state === "submitted" ? "undecided" : "muted"}>
        {STATE_WORDS[report.state]}{report.word !== null && report.word !== "" && `: “${report.word}”`}
      </span>
      {report.state === "submitted" && <button type="button" className="btn btn-xs ml-2" disabled={takeBack.isPending} onClick={() => takeBack.mutate()}>Take back</button>}
    </li>
  );
}

const SENT_SHOWN = 20;

function Work({ desk }: { desk: Desk }) {
  const [day, setDay] = useState(desk.today);
  const bookedToday = desk.reports.filter((report) => report.date === day && (report.state === "submitted" || report.state === "posted")).reduce((sum, { minutes }) => sum + (minutes ?? 0), 0);
  const groups = byDue(desk.activities, desk.today);
  const sent = desk.reports.filter(({ state }) => state !== "withdrawn").slice(0, SENT_SHOWN);
  return (
    <div className="page grid gap-x-8 lg:grid-cols-[1fr_20rem]">
      <section>
        <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <h1 className="text-xl">Your work</h1>
          <span className="flex items-center gap-2 text-sm">Booking on <DateField label="Day to book on" small value={day} max={desk.today} onDate={setDay} /></span>
          <span className="muted text-sm">{bookedToday === 0 ? "nothing booked on this day yet" : `${formatHours(bookedToday)} booked on this day`}</span>
        </div>
        {groups.length === 0 && <p className="muted py-6">{desk.person === null ? "Your account is tied to no person in the plans; an administrator can do that under Settings." : "You have no open activities. When a project manager puts you on one, it appears here."}</p>}
        {groups.map(({ group, activities }) => (
          <section key={group} aria-label={group}>
            <h2 className={`mt-3 border-b-2 border-current pb-0.5 text-base ${group === "Overdue" ? "adverse" : ""}`}>{group}</h2>
            <ul>{activities.map((activity) => <DeskCard key={`${activity.project} ${activity.activity}`} activity={activity} day={day} />)}</ul>
          </section>
        ))}
      </section>
      <aside aria-label="What you sent" className="max-lg:mt-6">
        <h2 className="border-b-2 border-current pb-0.5 text-base">What you sent</h2>
        {sent.length === 0 ? <p className="muted py-2 text-sm">Nothing yet. Type “1.5h” beside an activity and press Enter.</p> : <ul>{sent.map((report) => <Sent key={report.id} report={report} />)}</ul>}
      </aside>
    </div>
  );
}

/** A contributor's own page. */
export function DeskPage() {
  const query = useQuery(deskQuery);
  return <Loaded query={query}>{(desk) => <Work desk={desk} />}</Loaded>;
}
