import type { ResponseOf } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "sonner";
import { call } from "../shared/api.ts";
import { Failure } from "../shared/Failure.tsx";
import { DateField } from "../shared/DateField.tsx";
import { Dialog } from "../shared/Dialog.tsx";
import { useAddress } from "../shared/useAddress.ts";
import { countWords, dateWords } from "../shared/words.ts";
import { calendarQuery, periodQuery } from "./queries.ts";

/** A controller's steps of the cycle: move every data date to the period's, open the next period. */
export function CycleTools() {
  const { data: period } = useQuery(periodQuery);
  const [params, put] = useAddress();
  const [open, setOpen] = useState<"dataDate" | "period" | null>(params.get("next") === "open" ? "period" : null);
  const close = (): void => {
    setOpen(null);
    put({ next: null });
  };
  return (
    <div className="flex gap-2">
      <button type="button" className="btn btn-sm" onClick={() => setOpen("dataDate")}>Move data dates</button>
      <button type="button" className="btn btn-sm" onClick={() => setOpen("period")}>Open next period</button>
      {open === "dataDate" && <MoveDataDates suggested={period?.dataDate ?? ""} onClose={close} />}
      {open === "period" && <OpenPeriod after={period?.dataDate ?? null} onClose={close} />}
    </div>
  );
}

function MoveDataDates({ suggested, onClose }: { suggested: string; onClose: () => void }) {
  const client = useQueryClient();
  const [date, setDate] = useState(suggested);
  const move = useMutation({
    mutationFn: () => call("POST /api/portfolio/data-date", { body: { date } }),
    onSuccess: ({ moved, refused }) => {
      void client.invalidateQueries();
      if (moved.length > 0 || refused.length === 0) toast(moved.length === 0 ? "Every project stood at that date already." : `${countWords(moved.length, "project", "projects")} recalculated as of ${dateWords(date)}.`);
      if (refused.length === 0) onClose();
    },
  });
  return (
    <Dialog title="Move the data date of every project" onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => { event.preventDefault(); move.mutate(); }}>
        <p className="text-sm muted">Remaining work is laid out from the close of this day on; earned value and cost are measured at it.</p>
        <div className="flex flex-col gap-1"><span className="font-semibold">Data date</span><DateField label="Data date" value={date} onDate={setDate} /></div>
        {move.error !== null && <Failure error={move.error} />}
        {move.data !== undefined && move.data.refused.length > 0 && <Moved result={move.data} date={date} />}
        <button className="btn btn-primary" disabled={move.isPending || date === ""}>{move.isPending ? "Recalculating …" : "Move and recalculate"}</button>
      </form>
    </Dialog>
  );
}

/** Which data dates were moved, and which were not and why. */
function Moved({ result: { moved, already, refused }, date }: { result: ResponseOf<"POST /api/portfolio/data-date">; date: string }) {
  return (
    <section aria-label="What was moved" className="max-h-64 overflow-auto border-l-4 border-current pl-3 text-sm">
      <p>{moved.length === 0 ? "None was moved." : `Moved to ${dateWords(date)}: ${moved.join(", ")}.`}{already.length > 0 && ` There already: ${already.join(", ")}.`}</p>
      <p className="adverse mt-1">Not moved:</p>
      <ul>{refused.map(({ project, why }) => <li key={project} className="adverse">{project}: {why}</li>)}</ul>
    </section>
  );
}

function OpenPeriod({ after, onClose }: { after: string | null; onClose: () => void }) {
  const client = useQueryClient();
  const { data: calendar } = useQuery(calendarQuery);
  const next = calendar?.periods.find(({ state }) => state === "planned");
  const [typedDate, setDataDate] = useState<string | null>(null);
  const [typedDay, setIssueDay] = useState<string | null>(null);
  const [anyway, setAnyway] = useState(false);
  const dataDate = typedDate ?? next?.dataDate ?? "";
  const issueDay = typedDay ?? next?.issueBy.slice(0, 10) ?? "";
  const open = useMutation({
    mutationFn: () => call("POST /api/periods", { body: { dataDate, issueBy: `${issueDay}T12:00`, anyway } }),
    onSuccess: (period) => {
      void client.invalidateQueries();
      toast(`Period ${period.number} is open.`);
      onClose();
    },
  });
  return (
    <Dialog title="Open the next reporting period" onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => { event.preventDefault(); open.mutate(); }}>
        {after !== null && <p className="text-sm muted">The period now open ends on {dateWords(after)}. What is not issued for it by then stays open.</p>}
        <div className="flex flex-col gap-1"><span className="font-semibold">Data date</span><DateField label="Data date" value={dataDate} onDate={setDataDate} /></div>
        <div className="flex flex-col gap-1"><span className="font-semibold">Reports issued by noon of</span><DateField label="Day of issue" value={issueDay} onDate={setIssueDay} /></div>
        {open.error !== null && <Failure error={open.error} />}
        {open.error !== null && <label className="flex items-center gap-2 text-sm"><input type="checkbox" className="checkbox checkbox-xs" checked={anyway} onChange={(event) => setAnyway(event.target.checked)} />Open it anyway, and leave what is not locked behind</label>}
        <button className="btn btn-primary" disabled={open.isPending || dataDate === "" || issueDay === ""}>Open the period</button>
      </form>
    </Dialog>
  );
}
