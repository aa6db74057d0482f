import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";

/** Takes up a what-if again that was dropped, and goes there. */
export function useRestore() {
  const client = useQueryClient();
  const go = useNavigate();
  return useMutation({
    mutationFn: (id: string) => call("POST /api/whatifs/:whatif/restore", { params: { whatif: id } }),
    onSuccess: ({ id, project, name }) => {
      toast(`“${name}” is as it was left.`);
      void client.invalidateQueries();
      void go(`/projects/${project}/whatif/${id}`);
    },
    onError: ({ message }) => toast.error(message),
  });
}
