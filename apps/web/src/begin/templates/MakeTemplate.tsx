import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { planValue } from "../../plan/engine/planValue.ts";
import { planQuery } from "../../resources/stored/queries.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { SaveOrCancel } from "../../shared/dialogs/SaveOrCancel.tsx";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { AlongFields } from "../said/AlongFields.tsx";
import { templatesQuery } from "../seen/queries.ts";
import { TemplateForm, type TemplateWords } from "./TemplateForm.tsx";
import { ALL_ALONG } from "../useBegin.ts";

interface Props {
  readonly project: { readonly id: string; readonly name: string };
  readonly onClose: () => void;
}

/** Makes a template of a project, or of a branch of it. */
export function MakeTemplate({ project, onClose }: Props) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const plan = useQuery(planQuery(project.id)).data;
  const summaries = useMemo(
    () => (plan === undefined ? [] : [...planValue(plan).activities.values()].filter(({ kind }) => kind === "summary")),
    [plan],
  );
  const [branch, setBranch] = useState("");
  const [along, setAlong] = useState({ ...ALL_ALONG, people: "roles" as (typeof ALL_ALONG)["people"] });
  const [words, setWords] = useState<TemplateWords>({ name: project.name, description: "", repeats: [] });
  const make = useMutation({
    mutationFn: () =>
      call("POST /api/templates", {
        body: {
          ...words,
          name: words.name.trim(),
          repeats: [...words.repeats],
          project: project.id,
          branch: branch === "" ? null : branch,
          along,
        },
      }),
    onSuccess: (list) => {
      client.setQueryData(templatesQuery.queryKey, list);
      toast(`The template “${words.name.trim()}” is made.`, {
        action: { label: "Templates", onClick: () => void navigate("/set-up/templates") },
      });
      onClose();
    },
  });
  return (
    <Dialog title={`A template of ${project.name}`} onClose={onClose}>
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          make.mutate();
        }}
      >
        <label className="flex flex-col text-sm">
          Of what
          <select
            className="select select-sm"
            value={branch}
            onChange={(event) => {
              setBranch(event.target.value);
              setWords({ ...words, repeats: [] });
            }}
          >
            <option value="">the whole project</option>
            {summaries.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <TemplateForm words={words} branches={summaries} onChange={setWords} />
        <AlongFields along={along} onChange={setAlong} />
        <SaveOrCancel
          fault={make.error?.message ?? null}
          isReady={words.name.trim() !== "" && plan !== undefined && !make.isPending}
          onClose={onClose}
        />
      </form>
    </Dialog>
  );
}
