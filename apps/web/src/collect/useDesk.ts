import type { DeskActivity, ReportRequest } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";

/** What makes the desk and the period bar say what is true now. */
export function useDeskAgain(): () => Promise<unknown> {
  const client = useQueryClient();
  return () =>
    Promise.all([client.invalidateQueries({ queryKey: ["desk"] }), client.invalidateQueries({ queryKey: ["period"] })]);
}

/** Sends a report of one activity, and offers to take it back. */
export function useReport(activity: Pick<DeskActivity, "project" | "activity" | "name">, said: string) {
  const again = useDeskAgain();
  return useMutation({
    mutationFn: (report: Omit<ReportRequest, "project" | "activity">) =>
      call("POST /api/desk/reports", { body: { project: activity.project, activity: activity.activity, ...report } }),
    onSuccess: (report) => {
      toast(`${said}: ${activity.name}`, {
        action: {
          label: "Withdraw",
          onClick: () =>
            void call("DELETE /api/desk/reports/:report", { params: { report: report.id } }).then(
              again,
              (error: Error) => toast.error(error.message),
            ),
        },
      });
      void again();
    },
  });
}

/** A call of the desk's own that says its failure, and after which the desk is read again. */
export function useDeskCall<T>(work: (given: T) => Promise<unknown>) {
  const again = useDeskAgain();
  return useMutation({ mutationFn: work, onSuccess: () => again(), onError: (error) => toast.error(error.message) });
}
