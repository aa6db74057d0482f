import type { Register } from "@chronometra/contract";
import type { Person } from "@chronometra/core";
import { Plus } from "lucide-react";
import { useState } from "react";
import { amountText } from "../../shared/words/amounts.ts";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import type { Column } from "../../shared/table/column.ts";
import { DataTable } from "../../shared/table/DataTable.tsx";
import { todayHere } from "../../shared/words/today.ts";
import { useAddress } from "../../shared/page/useAddress.ts";
import { newId } from "../stored/newId.ts";
import { Rates } from "../Rates.tsx";
import { registerWay, SharedStore } from "../stored/SharedStore.tsx";
import { usedWords, type RegisterPartProps } from "./registerParts.ts";
import { RemoveRow } from "./RemoveRow.tsx";

type Entry = Register["people"][number];

/** A person with what an hour costs, as the register keeps them. */
const whole = ({ row }: Entry, rates: RegisterPartProps["rates"]): Person => {
  const own = rates?.[row.id] ?? [];
  return own.length === 0 ? row : { ...row, rates: own };
};

function PersonForm({
  register,
  person,
  entry,
  onDone,
}: {
  register: Register;
  person: Person;
  entry: Entry | null;
  onDone: () => void;
}) {
  const [draft, setDraft] = useState(person);
  const changed = entry === null || JSON.stringify(draft) !== JSON.stringify(person);
  const disabled = !register.mayWrite;
  const put = (field: "role" | "calendar", text: string): null => {
    const { [field]: _was, ...rest } = draft;
    setDraft(text.trim() === "" ? rest : { ...rest, [field]: text.trim() });
    return null;
  };
  const roles = [...new Set(register.people.flatMap(({ row }) => (row.role === undefined ? [] : [row.role])))];
  return (
    <div className="text-[13px]">
      <div className="mb-2 flex flex-wrap items-center gap-4">
        <label className="flex items-center gap-2">
          <span className="muted">Name</span>
          <CommitField
            label="Name"
            value={draft.name}
            width="w-52"
            disabled={disabled}
            onCommit={(text) => {
              if (text.trim() === "") return "A person needs a name.";
              setDraft({ ...draft, name: text.trim() });
              return null;
            }}
          />
        </label>
        <label className="flex items-center gap-2">
          <span className="muted">Role</span>
          <CommitField
            label="Role"
            value={draft.role ?? ""}
            width="w-40"
            offers={roles}
            disabled={disabled}
            onCommit={(text) => put("role", text)}
          />
        </label>
        <label className="flex items-center gap-2">
          <span className="muted">Works by</span>
          <select
            className="select select-xs w-52"
            disabled={disabled}
            value={draft.calendar ?? ""}
            onChange={(event) => put("calendar", event.target.value)}
          >
            <option value="">the calendar of each project</option>
            {register.calendars.map(({ row }) => (
              <option key={row.id} value={row.id}>
                {row.name}
              </option>
            ))}
          </select>
        </label>
        {entry !== null && register.mayWrite && <RemoveRow kept={{ table: "people", row: person }} onDone={onDone} />}
      </div>
      {register.mayWrite && (
        <div className="max-w-md">
          <Rates
            rates={draft.rates ?? []}
            onChange={(next) => {
              const { rates: _was, ...rest } = draft;
              setDraft(next.length === 0 ? rest : { ...rest, rates: next });
            }}
            minorDigits={register.minorDigits}
            currency={register.currency}
            disabled={false}
          />
        </div>
      )}
      {changed && register.mayWrite && (
        <SharedStore
          others={entry?.projects ?? []}
          way={registerWay({ table: "people", row: draft }, entry === null ? null : person)}
          what={draft.name}
          onDone={onDone}
          onLeave={() => (entry === null ? onDone() : setDraft(person))}
        />
      )}
    </div>
  );
}

function columnsOf(
  { register, rates }: RegisterPartProps,
  chosen: string | null,
  choose: (id: string) => void,
): readonly Column<Entry>[] {
  const calendars = new Map(register.calendars.map(({ row }) => [row.id, row.name]));
  const today = todayHere();
  const rateOf = ({ row }: Entry): number | null => {
    const own = rates?.[row.id] ?? [];
    return (own.findLast(({ from }) => from <= today) ?? own[0])?.perHourMinor ?? null;
  };
  const { currency, minorDigits } = register;
  return [
    {
      id: "name",
      head: "Name",
      value: ({ row }) => row.name,
      show: ({ row }) => (
        <button
          type="button"
          className="link-quiet cursor-pointer"
          aria-current={chosen === row.id}
          onClick={() => choose(row.id)}
        >
          {row.name}
        </button>
      ),
    },
    { id: "role", head: "Role", value: ({ row }) => row.role ?? "" },
    {
      id: "calendar",
      head: "Works by",
      value: ({ row }) => (row.calendar === undefined ? "" : (calendars.get(row.calendar) ?? "")),
    },
    ...(rates === null
      ? []
      : [
          {
            id: "rate",
            head: `${currency} an hour`,
            hint: "Today",
            money: () => ({ currency, minorDigits }),
            numeric: true,
            value: rateOf,
            show: (entry: Entry) => {
              const rate = rateOf(entry);
              return rate === null ? "–" : amountText(rate, minorDigits);
            },
          },
        ]),
    {
      id: "projects",
      head: "Used in",
      value: ({ projects }) => usedWords(projects),
      show: ({ projects }) => (
        <span
          className={projects.some(({ same }) => !same) ? "undecided" : ""}
          title={projects.map(({ code, same }) => `${code}${same ? "" : " (differs)"}`).join(", ")}
        >
          {usedWords(projects)}
        </span>
      ),
    },
  ];
}

/** The people of the installation, and whoever is selected above them. */
export function RegisterPeople(props: RegisterPartProps) {
  const { register, rates } = props;
  const [params, put] = useAddress();
  const [fresh, setFresh] = useState<Person | null>(null);
  const entry = fresh === null ? (register.people.find(({ row }) => row.id === params.get("person")) ?? null) : null;
  const person = fresh ?? (entry === null ? null : whole(entry, rates));
  const choose = (id: string | null): void => {
    setFresh(null);
    put({ person: id });
  };
  const begin = (): void => setFresh({ id: newId("person"), name: "New person" });
  return (
    <div>
      {person !== null && (
        <section aria-label={person.name} className="mb-4 border-b border-base-content pb-3">
          <div className="mb-1 flex items-center gap-3">
            <h2 className="text-base">{person.name}</h2>
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => choose(null)}>
              Close
            </button>
          </div>
          <PersonForm
            key={`${JSON.stringify(person)} ${fresh === null}`}
            register={register}
            person={person}
            entry={entry}
            onDone={() => choose(null)}
          />
        </section>
      )}
      <DataTable
        name="People of the register"
        rows={register.people}
        columns={columnsOf(props, person?.id ?? null, choose)}
        rowKey={({ row }) => row.id}
        empty={
          register.mayWrite ? (
            <>
              Nobody is in the register yet.{" "}
              <button type="button" className="btn btn-sm ml-2" onClick={begin}>
                Add the first person
              </button>
            </>
          ) : (
            "Nobody is in the register yet."
          )
        }
        tools={
          register.mayWrite && (
            <button type="button" className="btn btn-ghost btn-sm" onClick={begin}>
              <Plus size={14} aria-hidden="true" /> Person
            </button>
          )
        }
      />
    </div>
  );
}
