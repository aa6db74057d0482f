import type { Groups, Portfolio } from "@chronometra/contract";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useState, type ReactNode } from "react";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { RemoveButton } from "../../shared/fields/RemoveButton.tsx";
import { inTreeOrder } from "../../project/programmeTree.ts";
import { usePortfolioWrite } from "../usePortfolioWrite.ts";
import { Part } from "./Part.tsx";

type Group = Groups["groups"][number];

interface LineProps {
  readonly group: Group;
  readonly depth: number;
  readonly options: ReactNode;
  readonly managers: Groups["managers"];
  /** The groups of the same level before and after it. */
  readonly before: Group | null;
  readonly after: Group | null;
  /** The one after the next, before which it is put to stand after the next. */
  readonly beyond: Group | null;
  /** Why it cannot be removed. */
  readonly stays: string | undefined;
}

/** One portfolio or programme: its name, who answers for it, what it is part of, and where it stands. */
function ProgrammeLine({ group, depth, options, managers, before, after, beyond, stays }: LineProps) {
  const write = usePortfolioWrite("PUT /api/programmes/:programme");
  const remove = usePortfolioWrite("DELETE /api/programmes/:programme");
  const { id, name, parent, manager } = group;
  const body = { name, parent };
  const move = (words: string, isEnd: boolean, to: string | null, icon: ReactNode) => (
    <button
      type="button"
      className="btn btn-ghost btn-xs btn-square"
      aria-label={`Move ${name} ${words}`}
      disabled={isEnd || write.isPending}
      onClick={() => write.mutate({ params: { programme: id }, body: { ...body, before: to } })}
    >
      {icon}
    </button>
  );
  return (
    <li className="flex min-h-9 flex-wrap items-center gap-2 border-b rule py-1" style={{ paddingLeft: `${depth}rem` }}>
      <CommitField
        label={`Name of ${name}`}
        width="w-44"
        value={name}
        onCommit={async (text) => {
          try {
            await write.mutateAsync({ params: { programme: id }, body: { ...body, name: text } });
            return null;
          } catch (error) {
            return error instanceof Error ? error.message : String(error);
          }
        }}
      />
      <select
        className="select select-sm w-36"
        aria-label={`Who answers for ${name}`}
        value={manager?.id ?? ""}
        onChange={(event) =>
          write.mutate({ params: { programme: id }, body: { ...body, manager: event.target.value || null } })
        }
      >
        <option value="">nobody yet</option>
        {managers.map((each) => (
          <option key={each.id} value={each.id}>
            {each.name}
          </option>
        ))}
        {manager !== null && !managers.some((each) => each.id === manager.id) && (
          <option value={manager.id}>{manager.name}</option>
        )}
      </select>
      <label className="muted ml-auto">
        part of{" "}
        <select
          className="select select-sm w-36"
          aria-label={`${name} is part of`}
          value={parent ?? ""}
          onChange={(event) =>
            write.mutate({ params: { programme: id }, body: { ...body, parent: event.target.value || null } })
          }
        >
          <option value="">nothing</option>
          {options}
        </select>
      </label>
      {move("up", before === null, before?.id ?? null, <ArrowUp size={12} aria-hidden="true" />)}
      {move("down", after === null, beyond?.id ?? null, <ArrowDown size={12} aria-hidden="true" />)}
      <RemoveButton
        what={name}
        stays={stays}
        onRemove={() => remove.mutate({ params: { programme: id }, body: undefined as never })}
      />
    </li>
  );
}

/** The tree of portfolios and programmes, and which project is part of which. */
export function ProgrammesPart({ portfolio, groups }: { portfolio: Portfolio; groups: Groups }) {
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
        {tree.map(({ programme, depth }) => {
          const group = groups.groups.find(({ id }) => id === programme.id);
          if (group === undefined) return null;
          const level = groups.groups.filter(({ parent }) => parent === group.parent);
          const at = level.indexOf(group);
          const isEmpty =
            !groups.groups.some(({ parent }) => parent === group.id) &&
            !portfolio.projects.some((line) => line.programme === group.id);
          return (
            <ProgrammeLine
              key={group.id}
              {...{ group, depth, options }}
              managers={groups.managers}
              before={level[at - 1] ?? null}
              after={level[at + 1] ?? null}
              beyond={level[at + 2] ?? null}
              stays={isEmpty ? undefined : "It is not empty"}
            />
          );
        })}
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
