import type { Portfolio } from "@chronometra/contract";
import { useState, type ReactNode } from "react";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { inTreeOrder } from "../programmeTree.ts";
import { usePortfolioWrite } from "../usePortfolioWrite.ts";
import { Part } from "./Part.tsx";

/** One portfolio or programme: its name, and what it is part of. */
function ProgrammeLine({
  programme,
  depth,
  options,
}: {
  programme: Portfolio["programmes"][number];
  depth: number;
  options: ReactNode;
}) {
  const write = usePortfolioWrite("PUT /api/programmes/:programme");
  return (
    <li className="flex items-center gap-2 border-b rule py-1" style={{ paddingLeft: `${depth}rem` }}>
      <CommitField
        label={`Name of ${programme.name}`}
        width="w-44"
        value={programme.name}
        onCommit={async (text) => {
          try {
            await write.mutateAsync({
              params: { programme: programme.id },
              body: { name: text, parent: programme.parent },
            });
            return null;
          } catch (error) {
            return error instanceof Error ? error.message : String(error);
          }
        }}
      />
      <label className="muted ml-auto">
        part of{" "}
        <select
          className="select select-sm w-40"
          aria-label={`${programme.name} is part of`}
          value={programme.parent ?? ""}
          onChange={(event) =>
            write.mutate({
              params: { programme: programme.id },
              body: { name: programme.name, parent: event.target.value === "" ? null : event.target.value },
            })
          }
        >
          <option value="">nothing</option>
          {options}
        </select>
      </label>
    </li>
  );
}

/** The tree of portfolios and programmes, and which project is part of which. */
export function ProgrammesPart({ portfolio }: { portfolio: Portfolio }) {
  const add = usePortfolioWrite("POST /api/programmes");
  const place = usePortfolioWrite("PUT /api/projects/:project/standing");
  const [name, setName] = useState("");
  const tree = inTreeOrder(portfolio.programmes);
  const options = tree.map(({ programme, depth }) => (
    <option key={programme.id} value={programme.id}>
      {"  ".repeat(depth)}
      {programme.name}
    </option>
  ));
  return (
    <Part title="Portfolios and programmes">
      <ul className="text-sm">
        {tree.map(({ programme, depth }) => (
          <ProgrammeLine key={programme.id} programme={programme} depth={depth} options={options} />
        ))}
      </ul>
      <form
        className="flex gap-2 py-2 text-sm"
        onSubmit={(event) => {
          event.preventDefault();
          add.mutate({ body: { name } }, { onSuccess: () => setName("") });
        }}
      >
        <input
          className="input input-sm flex-1"
          aria-label="Name of a new portfolio or programme"
          placeholder="A new portfolio or programme"
          required
          maxLength={200}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <button className="btn btn-sm" disabled={add.isPending}>
          Add
        </button>
      </form>
      <h3 className="pt-1 text-sm">Projects</h3>
      {portfolio.projects.length === 0 && (
        <p className="muted text-sm">No project is here yet; each will be put into its programme here.</p>
      )}
      <ul className="text-sm" aria-label="Projects and their programmes">
        {portfolio.projects.map((line) => (
          <li key={line.id} className="flex items-center gap-2 border-b rule py-0.5">
            <span className="flex-1 truncate">
              {line.code} {line.name}
            </span>
            <select
              className="select select-sm w-44"
              aria-label={`Programme of ${line.name}`}
              disabled={!line.mayEdit}
              value={line.programme ?? ""}
              onChange={(event) =>
                place.mutate({
                  params: { project: line.id },
                  body: { programme: event.target.value === "" ? null : event.target.value },
                })
              }
            >
              <option value="">none</option>
              {options}
            </select>
          </li>
        ))}
      </ul>
    </Part>
  );
}
