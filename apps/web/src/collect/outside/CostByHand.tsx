import type { OutsideTargets } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { AMOUNT_FAULT, readAmountAbove0 } from "../../shared/words/amounts.ts";
import { call } from "../../shared/session/api.ts";
import { DateField } from "../../shared/fields/DateField.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { money } from "../../shared/words/words.ts";
import { ActivityChoice } from "./ActivityChoice.tsx";
import { todayHere } from "../../shared/words/today.ts";

/** One invoice or expense, entered and posted by hand; a credit note takes cost back. */
export function CostByHand({ targets }: { targets: OutsideTargets }) {
  const client = useQueryClient();
  const [project, setProject] = useState<OutsideTargets[number] | null>(null);
  const [activity, setActivity] = useState<string | null>(null);
  const [date, setDate] = useState(() => todayHere());
  const [amount, setAmount] = useState("");
  const [credit, setCredit] = useState(false);
  const [category, setCategory] = useState("");
  const [reference, setReference] = useState("");
  const digits = project?.minorDigits ?? 2;
  const minor = readAmountAbove0(amount, digits);
  const enter = useMutation({
    mutationFn: () =>
      call("POST /api/outside/costs", {
        body: {
          project: project!.id,
          activity: activity!,
          date,
          amountMinor: (credit ? -1 : 1) * minor!,
          category,
          reference,
        },
      }),
    onSuccess: () => {
      toast(
        `${money(minor, digits)} ${project!.currency} ${credit ? "taken back from" : "posted on"} ${project!.activities.find(({ id }) => id === activity)?.name ?? ""}.`,
      );
      setAmount("");
      setReference("");
      void client.invalidateQueries();
    },
  });
  return (
    <form
      className="flex flex-wrap items-center gap-2 py-1 text-sm"
      aria-label="A cost by hand"
      onSubmit={(event) => {
        event.preventDefault();
        enter.mutate();
      }}
    >
      <ActivityChoice
        targets={targets}
        start={null}
        onChoose={(found, id) => {
          setProject(found);
          setActivity(id);
        }}
      />
      <DateField label="Date of the cost" small value={date} onDate={setDate} />
      <input
        className="input input-sm w-28 text-right"
        inputMode="decimal"
        aria-label="Amount"
        placeholder={project?.currency ?? "amount"}
        value={amount}
        title={amount !== "" && minor === null ? AMOUNT_FAULT : undefined}
        aria-invalid={amount !== "" && minor === null}
        onChange={(event) => setAmount(event.target.value)}
      />
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={credit}
          onChange={(event) => setCredit(event.target.checked)}
        />
        credit note
      </label>
      <input
        className="input input-sm w-32"
        aria-label="Category"
        placeholder="category"
        list="cost-categories"
        value={category}
        onChange={(event) => setCategory(event.target.value)}
      />
      <datalist id="cost-categories">
        {project?.categories.map((each) => (
          <option key={each} value={each} />
        ))}
      </datalist>
      <input
        className="input input-sm w-36"
        aria-label="Reference"
        placeholder="invoice no."
        value={reference}
        onChange={(event) => setReference(event.target.value)}
      />
      <button
        className="btn btn-primary btn-sm"
        disabled={enter.isPending || project === null || activity === null || minor === null || date === ""}
      >
        Post the cost
      </button>
      {enter.error !== null && <Failure error={enter.error} />}
    </form>
  );
}
