import type { CharterView, Deliverable, Gate } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { DocumentsButton } from "../documents/DocumentsButton.tsx";
import { gatesQuery } from "../gates/queries.ts";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { SaveOrCancel } from "../shared/dialogs/SaveOrCancel.tsx";
import { DateField } from "../shared/fields/DateField.tsx";
import { NameChoice } from "../shared/fields/NameChoice.tsx";
import { RemoveButton } from "../shared/fields/RemoveButton.tsx";
import { toast } from "../shared/messages/toast.ts";
import { dateWords } from "../shared/words/words.ts";
import { makersOf, NO_DELIVERABLE, rowsOf } from "./rows.ts";
import type { Charterer } from "./useCharter.ts";

interface DialogProps {
  readonly view: CharterView;
  readonly was: Deliverable | null;
  readonly stages: readonly Gate[];
  readonly onWrite: (value: Deliverable) => Promise<string | null>;
  readonly onClose: () => void;
}

interface StageProps {
  readonly stages: readonly Gate[];
  readonly now: Deliverable;
  readonly onChange: (now: Deliverable) => void;
}

/** The stage that a deliverable belongs to; nothing of a project without stages. */
function StageField({ stages, now, onChange }: StageProps) {
  const { stage: at, ...rest } = now;
  if (stages.length === 0 && at === undefined) return null;
  return (
    <label className="flex flex-col text-sm">
      Belongs to the stage
      <select
        className="select select-sm"
        value={at ?? ""}
        onChange={(event) => onChange(event.target.value === "" ? rest : { ...rest, stage: event.target.value })}
      >
        <option value="">none</option>
        {stages.map(({ stage, name }) => (
          <option key={stage} value={stage}>
            {name}
          </option>
        ))}
        {at !== undefined && !stages.some(({ stage }) => stage === at) && (
          <option value={at}>a stage that is no more</option>
        )}
      </select>
    </label>
  );
}

/** One deliverable, written as a whole. */
function DeliverableDialog({ view, was, stages, onWrite, onClose }: DialogProps) {
  const [now, setNow] = useState(was ?? NO_DELIVERABLE);
  const [fault, setFault] = useState<string | null>(null);
  const [picks, setPicks] = useState(0);
  const names = makersOf(view, now);
  const accepted = now.accepted ?? { by: "", on: "" };
  const accept = (part: Partial<typeof accepted>): void => {
    const next = { ...accepted, ...part };
    setNow({ ...now, accepted: next.by === "" && next.on === "" ? null : next });
  };
  return (
    <Dialog title={was === null ? "Something it brings forth" : "Deliverable"} onClose={onClose}>
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (now.accepted !== null && (now.accepted.by.trim() === "" || now.accepted.on === ""))
            return setFault("Say who accepted it and when, or neither.");
          void onWrite(now).then((answer) => (answer === null ? onClose() : setFault(answer)));
        }}
      >
        <label className="flex flex-col text-sm">
          Name
          <input
            className="input input-sm"
            maxLength={300}
            value={now.name}
            onChange={(event) => setNow({ ...now, name: event.target.value })}
          />
        </label>
        <label className="flex flex-col text-sm">
          Owner
          <input
            className="input input-sm"
            maxLength={200}
            value={now.owner}
            onChange={(event) => setNow({ ...now, owner: event.target.value })}
          />
        </label>
        <div className="flex flex-col gap-1 text-sm">
          Made by
          <ul>
            {now.makes.map((id, i) => (
              <li key={id} className="flex items-center gap-1">
                {names[i]}
                <RemoveButton
                  what={names[i]!}
                  onRemove={() => setNow({ ...now, makes: now.makes.filter((each) => each !== id) })}
                />
              </li>
            ))}
          </ul>
          <NameChoice
            key={picks}
            label="a milestone or activity"
            things={view.activities.filter(({ id }) => !now.makes.includes(id))}
            onChoose={(id) => {
              if (id === null) return;
              setNow({ ...now, makes: [...now.makes, id] });
              setPicks(picks + 1);
            }}
          />
        </div>
        <StageField stages={stages} now={now} onChange={setNow} />
        <div className="flex items-end gap-2">
          <label className="flex flex-col text-sm">
            Accepted by
            <input
              className="input input-sm w-60"
              maxLength={200}
              value={accepted.by}
              onChange={(event) => accept({ by: event.target.value })}
            />
          </label>
          <div className="flex flex-col text-sm">
            On
            <DateField label="Accepted on" small value={accepted.on} onDate={(on) => accept({ on })} />
          </div>
          {now.accepted !== null && (
            <button type="button" className="btn btn-sm" onClick={() => setNow({ ...now, accepted: null })}>
              Not accepted
            </button>
          )}
        </div>
        <SaveOrCancel fault={fault} isReady={now.name.trim() !== ""} onClose={onClose} />
      </form>
    </Dialog>
  );
}

interface RowProps {
  readonly view: CharterView;
  readonly id: string;
  readonly row: Deliverable;
  readonly stages: readonly Gate[];
  readonly onOpen: () => void;
  readonly onRemove: () => void;
}

/** One deliverable as it is read. */
function Row({ view, id, row, stages, onOpen, onRemove }: RowProps) {
  return (
    <tr>
      <td className="max-w-72">
        {view.mayEdit ? (
          <button type="button" className="link-quiet cursor-pointer text-left" onClick={onOpen}>
            {row.name}
          </button>
        ) : (
          row.name
        )}
      </td>
      <td>{row.owner || "–"}</td>
      <td className="max-w-80">
        {row.makes.length === 0
          ? "–"
          : makersOf(view, row).map((name, i) => (
              <span key={row.makes[i]}>
                {i > 0 && ", "}
                <Link className="link-quiet" to={`../plan?at=${encodeURIComponent(row.makes[i]!)}`}>
                  {name}
                </Link>
              </span>
            ))}
      </td>
      {stages.length > 0 && <td>{stages.find(({ stage }) => stage === row.stage)?.name ?? "–"}</td>}
      <td>{row.accepted === null ? "not yet" : `${row.accepted.by}, ${dateWords(row.accepted.on)}`}</td>
      <td className="whitespace-nowrap">
        <DocumentsButton
          project={view.id}
          place={{ about: "deliverable", aboutId: id }}
          of={row.name}
          ask="what it has to be, and how it was accepted"
        />
        {view.mayEdit && <RemoveButton what={`the deliverable ${row.name}`} onRemove={onRemove} />}
      </td>
    </tr>
  );
}

/** What the project brings forth: made by what, accepted by whom. */
export function Deliverables({ view, charterer }: { view: CharterView; charterer: Charterer }) {
  const [open, setOpen] = useState<{ id: string; was: Deliverable | null; told?: true } | null>(null);
  const rows = rowsOf(view.charter.deliverables);
  const stages = useQuery(gatesQuery(view.id)).data?.gates ?? [];
  const write = (id: string, was: Deliverable | null, value: Deliverable | null, words: string) =>
    charterer.write({ field: "deliverables", id, was, value }, words);
  return (
    <section className="pt-4">
      <h2 className="pb-1 text-base">Deliverables</h2>
      {rows.length === 0 ? (
        <p className="muted text-sm">None is written down yet.</p>
      ) : (
        <table className="ledger max-w-5xl" aria-label="Deliverables">
          <thead>
            <tr>
              <th>What</th>
              <th>Owner</th>
              <th>Made by</th>
              {stages.length > 0 && <th>Stage</th>}
              <th>Accepted</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {rows.map(({ id, row }) => (
              <Row
                key={id}
                view={view}
                id={id}
                row={row}
                stages={stages}
                onOpen={() => setOpen({ id, was: row })}
                onRemove={() =>
                  void write(id, row, null, `“${row.name}” is removed.`).then(
                    (fault) => fault !== null && toast.error(fault),
                  )
                }
              />
            ))}
          </tbody>
        </table>
      )}
      {view.mayEdit && (
        <button
          type="button"
          className="btn btn-xs mt-1"
          onClick={() => setOpen({ id: crypto.randomUUID(), was: null })}
        >
          <Plus size={12} aria-hidden="true" /> Add a deliverable
        </button>
      )}
      {open !== null && (
        <DeliverableDialog
          key={open.id}
          view={view}
          was={open.was}
          stages={stages}
          onWrite={async (value) => {
            // Whoever was told of another's word writes over it knowingly.
            const was = open.told === true ? (view.charter.deliverables[open.id] ?? null) : open.was;
            const fault = await write(open.id, was, value, `“${value.name}” is written.`);
            if (fault !== null) setOpen({ ...open, told: true });
            return fault;
          }}
          onClose={() => setOpen(null)}
        />
      )}
    </section>
  );
}
