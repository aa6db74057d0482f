import type { ImportView } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useEffectEvent, useRef, useState, type DragEvent } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { call } from "../shared/session/api.ts";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { importQuery } from "./queries.ts";
import { Understanding } from "./Understanding.tsx";

/** What pasted rows are called, and the project after them until it has a name. */
const PASTED = "Pasted plan.txt";

function Bring() {
  const navigate = useNavigate();
  const chooser = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const bring = useMutation({
    mutationFn: (files: File[]) => call("POST /api/imports", { files }),
    onSuccess: ({ id }) => navigate(`/import/${id}`),
  });
  // What is copied from a spreadsheet comes as a table; into a field it is pasted as ever.
  const paste = useEffectEvent((event: ClipboardEvent): void => {
    const into = event.target as HTMLElement | null;
    if (into?.closest("input, textarea, select, [contenteditable]") != null || bring.isPending) return;
    const files = [...(event.clipboardData?.files ?? [])];
    const text = event.clipboardData?.getData("text/plain") ?? "";
    if (files.length > 0) bring.mutate(files);
    else if (text.includes("\t") || text.includes("\n"))
      bring.mutate([new File([text], PASTED, { type: "text/plain" })]);
    else return;
    event.preventDefault();
  });
  useEffect(() => {
    document.addEventListener("paste", paste);
    return () => document.removeEventListener("paste", paste);
  }, []);
  const drop = (event: DragEvent): void => {
    event.preventDefault();
    setOver(false);
    if (event.dataTransfer.files.length > 0) bring.mutate([...event.dataTransfer.files]);
  };
  return (
    <div className="page max-w-3xl">
      <h1 className="text-xl">Bring a plan</h1>
      <p className="muted mt-1 max-w-prose">
        A workbook (.xlsx or .ods) or CSV as people keep their plans, with headings of their own, or a plan bundle
        (.json). You see how it is read, mend what is not understood, and only then is it stored.
      </p>
      <div
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
        className={`mt-4 flex flex-col items-center gap-3 border-2 border-dashed px-6 py-12 ${over ? "border-accent bg-base-200" : "rule"}`}
      >
        <input
          ref={chooser}
          type="file"
          multiple
          accept=".json,.xlsx,.ods,.csv,.txt,.zip"
          className="sr-only"
          aria-label="Files to bring"
          onChange={(event) =>
            event.target.files !== null && event.target.files.length > 0 && bring.mutate([...event.target.files])
          }
        />
        <button
          type="button"
          className="btn btn-primary"
          disabled={bring.isPending}
          onClick={() => chooser.current?.click()}
        >
          {bring.isPending ? "Sending …" : "Select files"}
        </button>
        <p className="muted text-sm">or drop them here, or paste rows copied from a spreadsheet (Ctrl+V)</p>
      </div>
      {bring.error !== null && <Failure error={bring.error} />}
      <p className="mt-4 text-sm">
        There is no file? <Link to="/begin">Begin a project</Link> in three steps, with a template, or with an empty
        plan.
      </p>
      <p className="muted mt-4 text-sm">
        One sheet is enough: a name and a duration for each activity, and whatever else there is of what comes before,
        people, dates, costs. A project's own export, a sheet for each table, comes in again as it was.
      </p>
    </div>
  );
}

function Reading({ view }: { view: ImportView }) {
  const navigate = useNavigate();
  const stop = useMutation({
    mutationFn: () => call("DELETE /api/imports/:import", { params: { import: view.id } }),
    onSuccess: () => navigate("/import"),
  });
  return (
    <div className="page max-w-3xl">
      <h1 className="text-xl">{view.fileName}</h1>
      <div className="mt-4 flex items-center gap-3">
        <progress className="h-2 w-72 accent-accent" value={view.progress} max={1} aria-label="Reading the file" />
        <span role="status">{view.step}</span>
        <button type="button" className="btn btn-sm" onClick={() => stop.mutate()}>
          Cancel
        </button>
      </div>
    </div>
  );
}

function Unreadable({ view }: { view: ImportView }) {
  return (
    <div className="page max-w-3xl">
      <h1 className="text-xl">{view.fileName}</h1>
      <div role="alert" className="my-3 border-l-4 border-error bg-base-200 px-3 py-2">
        {view.step}
      </div>
      <Link className="btn btn-sm" to="/import">
        Bring another file
      </Link>
    </div>
  );
}

function Stored({ view }: { view: ImportView }) {
  return (
    <div className="page">
      <h1 className="text-xl">{view.fileName} is stored</h1>
      <Link className="underline" to={`/projects/${view.storedAs}/plan`}>
        Go to the plan
      </Link>
    </div>
  );
}

function Brought({ id }: { id: string }) {
  const client = useQueryClient();
  const query = useQuery(importQuery(id));
  return (
    <Loaded query={query}>
      {(view) => {
        if (view.state === "reading") return <Reading view={view} />;
        if (view.state === "failed") return <Unreadable view={view} />;
        if (view.state === "stored") return <Stored view={view} />;
        return <Understanding view={view} onView={(next) => client.setQueryData(importQuery(id).queryKey, next)} />;
      }}
    </Loaded>
  );
}

/** A file comes in: chosen, read, looked at, stored. */
export function ImportPage() {
  const { import: id } = useParams();
  return id === undefined ? <Bring /> : <Brought key={id} id={id} />;
}
