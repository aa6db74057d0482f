import type { Template } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { SaveOrCancel } from "../../shared/dialogs/SaveOrCancel.tsx";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { countWords, momentWords } from "../../shared/words/words.ts";
import { templatesQuery } from "../seen/queries.ts";
import { TemplateForm, type TemplateWords } from "./TemplateForm.tsx";

/** What a template is called and asks, to be changed. */
function Change({ template, onClose }: { readonly template: Template; readonly onClose: () => void }) {
  const client = useQueryClient();
  const [words, setWords] = useState<TemplateWords>(template);
  const write = useMutation({
    mutationFn: ({ name, description, repeats }: TemplateWords) =>
      call("PUT /api/templates/:template", {
        params: { template: template.id },
        body: { name: name.trim(), description, repeats: [...repeats] },
      }),
    onSuccess: (list) => {
      client.setQueryData(templatesQuery.queryKey, list);
      onClose();
    },
  });
  return (
    <Dialog title={`Template ${template.name}`} onClose={onClose}>
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          write.mutate(words);
        }}
      >
        <TemplateForm words={words} branches={template.branches} onChange={setWords} />
        <SaveOrCancel
          fault={write.error?.message ?? null}
          isReady={words.name.trim() !== "" && !write.isPending}
          onClose={onClose}
        />
      </form>
    </Dialog>
  );
}

interface LineProps {
  readonly template: Template;
  readonly onChange: () => void;
  readonly onRemove: () => void;
}

const Line = ({ template, onChange, onRemove }: LineProps) => {
  const { id, name, description, activities, milestones, roles, repeats, by, at, mayEdit } = template;
  return (
    <li className="border-b rule py-2">
      <div className="flex items-center gap-2">
        <Link className="flex-1 text-base" to={`/begin/from?with=template:${id}`}>
          {name}
        </Link>
        {mayEdit && (
          <>
            <button type="button" className="btn btn-xs" aria-label={`Change ${name}`} onClick={onChange}>
              Change
            </button>
            <button type="button" className="btn btn-xs" aria-label={`Remove ${name}`} onClick={onRemove}>
              Remove
            </button>
          </>
        )}
      </div>
      {description !== "" && <p className="max-w-prose text-sm whitespace-pre-line">{description}</p>}
      <p className="muted text-sm">
        {countWords(activities, "activity", "activities")}, {countWords(milestones, "milestone", "milestones")},{" "}
        {countWords(roles, "role", "roles")}
        {repeats.map(({ ask }) => ` · ${ask}`)} · by {by}, {momentWords(at)}
      </p>
    </li>
  );
};

/** Plans that others begin with. */
export function TemplatesPage() {
  const client = useQueryClient();
  const query = useQuery(templatesQuery);
  const [open, setOpen] = useState<Template | null>(null);
  const [doomed, setDoomed] = useState<Template | null>(null);
  const remove = useMutation({
    mutationFn: (template: string) => call("DELETE /api/templates/:template", { params: { template } }),
    onSuccess: (list) => {
      client.setQueryData(templatesQuery.queryKey, list);
      setDoomed(null);
    },
    onError: (error) => toast.error(error.message),
  });
  return (
    <div className="page max-w-4xl">
      <h1 className="text-xl">Templates</h1>
      <p className="muted pb-3 text-sm">
        Plans to begin with. One is made of a project, or of a branch of it, on the project’s page Charter; each opens
        as the plan it would be.
      </p>
      <Loaded query={query}>
        {(templates) =>
          templates.length === 0 ? (
            <p>There is none yet.</p>
          ) : (
            <ul>
              {templates.map((template) => (
                <Line
                  key={template.id}
                  template={template}
                  onChange={() => setOpen(template)}
                  onRemove={() => setDoomed(template)}
                />
              ))}
            </ul>
          )
        }
      </Loaded>
      {open !== null && <Change key={open.id} template={open} onClose={() => setOpen(null)} />}
      {doomed !== null && (
        <Dialog title={`Remove the template ${doomed.name}`} onClose={() => setDoomed(null)}>
          <p className="text-sm">What was begun with it stays. The template itself cannot be brought back.</p>
          <div className="flex justify-end gap-2 pt-3">
            <button type="button" className="btn btn-sm" onClick={() => setDoomed(null)}>
              Cancel
            </button>
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={remove.isPending}
              onClick={() => remove.mutate(doomed.id)}
            >
              Remove
            </button>
          </div>
        </Dialog>
      )}
    </div>
  );
}
