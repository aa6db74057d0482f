import type { Approval } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { dateWords } from "../shared/words/words.ts";

/** On which day a plan was approved before it came here, where it was. */
export function AgreedWords({ approval: { agreedOn, askedBy } }: { approval: Approval }) {
  if (agreedOn === null) return null;
  return (
    <p className="max-w-prose text-sm">
      {askedBy} says that it was approved on {dateWords(agreedOn)}, before it came here; the baseline will bear that
      day.
    </p>
  );
}

/** An approver's word on a plan: approve it, which freezes a baseline, or send it back; either with a reason. */
export function Decide({ approval }: { approval: Approval }) {
  const client = useQueryClient();
  const [reason, setReason] = useState("");
  const decide = useMutation({
    mutationFn: (decision: "approve" | "sendBack") =>
      call("POST /api/approvals/:approval/decision", { params: { approval: approval.id }, body: { decision, reason } }),
    onSuccess: (decided) => {
      toast(
        decided.state === "approved"
          ? `Baseline ${decided.baseline} of ${decided.projectName} is frozen.`
          : `${decided.projectName} was sent back.`,
      );
      void client.invalidateQueries();
    },
  });
  return (
    <form className="mt-2 flex max-w-2xl flex-col gap-2" onSubmit={(event) => event.preventDefault()}>
      <label className="flex flex-col gap-1">
        <span className="font-semibold">Your reason</span>
        <textarea
          className="textarea w-full"
          rows={2}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          placeholder="What was agreed, or what is missing"
        />
      </label>
      {decide.error !== null && <Failure error={decide.error} />}
      <div className="flex gap-2">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={decide.isPending || reason.trim() === ""}
          onClick={() => decide.mutate("approve")}
        >
          Approve and freeze
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={decide.isPending || reason.trim() === ""}
          onClick={() => decide.mutate("sendBack")}
        >
          Send back
        </button>
        {reason.trim() === "" && (
          <span className="muted self-center text-sm">Say why first; the reason stays with the baseline.</span>
        )}
      </div>
    </form>
  );
}
