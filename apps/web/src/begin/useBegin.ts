import type { BeginAsked, BeginEffectAsked } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";

/** All of what is planned; documents are for whoever asks for them. */
export const ALL_ALONG: BeginEffectAsked["along"] = {
  people: "people",
  costs: true,
  risks: true,
  deadlines: true,
  charter: true,
  documents: false,
};

/** Begins a project, and goes to its plan. */
export function useBegin() {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: (body: BeginAsked) => call("POST /api/begin", { body }),
    onSuccess: ({ project }, { code, name }) => {
      void client.invalidateQueries();
      toast(`${code} ${name} is begun.`);
      void navigate(`/projects/${project}/plan`);
    },
  });
}
