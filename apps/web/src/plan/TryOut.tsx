import { useMutation, useQueryClient } from "@tanstack/react-query";
import { GitFork } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { call } from "../shared/session/api.ts";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { ToolButton } from "../shared/fields/ToolButton.tsx";

/** Begins a what-if: a copy beside the live plan, to try changes in. */
export function TryOut({ project }: { project: string }) {
  const go = useNavigate();
  const client = useQueryClient();
  const [open, setOpen] = useState(false);
  const [name, setName] = useState("");
  const begin = useMutation({
    mutationFn: () => call("POST /api/projects/:project/whatifs", { params: { project }, body: { name } }),
    onSuccess: ({ id }) => {
      void client.invalidateQueries({ queryKey: ["project", project, "whatIfs"] });
      void go(`/projects/${project}/whatif/${id}`);
    },
  });
  return (
    <>
      <ToolButton
        icon={GitFork}
        name="What if"
        onClick={() => setOpen(true)}
        title="What if: try changes in a copy beside the live plan"
      />
      {open && (
        <Dialog title="What if …" onClose={() => setOpen(false)}>
          <form
            className="flex flex-col gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              begin.mutate();
            }}
          >
            <p className="muted text-sm">
              A copy beside the live plan. What it would move shows as you change it; keep it, drop it, or put it
              forward as a change request.
            </p>
            <label className="flex flex-col gap-1">
              <span className="font-semibold">What is tried</span>
              <input
                className="input w-full"
                value={name}
                onChange={(event) => setName(event.target.value)}
                placeholder="a second crew from March"
                autoFocus
              />
            </label>
            {begin.error !== null && <Failure error={begin.error} />}
            <button className="btn btn-primary" disabled={begin.isPending || name.trim() === ""}>
              Begin
            </button>
          </form>
        </Dialog>
      )}
    </>
  );
}
