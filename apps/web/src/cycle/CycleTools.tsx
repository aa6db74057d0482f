import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { DateField } from "../shared/fields/DateField.tsx";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { dateWords } from "../shared/words/words.ts";
import { calendarQuery, periodQuery } from "./queries.ts";
import { holdsEverywhere, useMe } from "../shared/session/session.ts";

/** A controller's steps of the cycle: move every data date to the period's, open the next period. */
export function CycleTools() {
  const mayOpen = holdsEverywhere(useMe(), "controller");
  const { data: period } = useQuery(periodQuery);
  const [params, put] = useAddress();
  const [open, setOpen] = useState(params.get("next") === "open");
  const close = (): void => {
    setOpen(false);
    put({ next: null });
  };
  return (
    <div className="flex gap-2">
      <Link className="btn btn-sm" to="/cycle/data-dates">
        Move data dates
      </Link>
      {mayOpen && (
        <button type="button" className="btn btn-sm" onClick={() => setOpen(true)}>
          Open next period
        </button>
      )}
      {mayOpen && open && <OpenPeriod after={period?.dataDate ?? null} onClose={close} />}
    </div>
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
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          open.mutate();
        }}
      >
        {after !== null && (
          <p className="text-sm muted">
            The period now open ends on {dateWords(after)}. What is not issued for it by then stays open.
          </p>
        )}
        <div className="flex flex-col gap-1">
          <span className="font-semibold">Data date</span>
          <DateField label="Data date" value={dataDate} onDate={setDataDate} />
        </div>
        <div className="flex flex-col gap-1">
          <span className="font-semibold">Issue due at noon of</span>
          <DateField label="Day of issue" value={issueDay} onDate={setIssueDay} />
        </div>
        {open.error !== null && <Failure error={open.error} />}
        {open.error !== null && (
          <label className="flex items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={anyway}
              onChange={(event) => setAnyway(event.target.checked)}
            />
            Open it anyway, and leave what is not locked behind
          </label>
        )}
        <button className="btn btn-primary" disabled={open.isPending || dataDate === "" || issueDay === ""}>
          Open the period
        </button>
      </form>
    </Dialog>
  );
}
