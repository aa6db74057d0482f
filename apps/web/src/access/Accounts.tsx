import type { Account, Accounts as AllAccounts } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import type { Column } from "../shared/table/column.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { fieldsOf, type Fields } from "../shared/fields/fieldsOf.ts";
import { accountsQuery } from "./queries.ts";
import { RolesField, type Given } from "./RolesField.tsx";
import { rolesInWords } from "./roleWords.ts";

interface EditProps {
  /** The account to change; left out for a new one. */
  readonly account: Account | null;
  readonly all: Pick<AllAccounts, "people" | "groups">;
  readonly onClose: () => void;
}

function EditAccount({ account, all: { people, groups }, onClose }: EditProps) {
  const [given, setGiven] = useState<Given>(account ?? { roles: [], only: {} });
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: ({ text }: Fields) => {
      const [person, password] = [text("person"), text("password")];
      const { roles, only } = given;
      const fields = { name: text("name"), roles, only, person: person === "" ? null : person };
      if (account === null) return call("POST /api/accounts", { body: { login: text("login"), ...fields, password } });
      return call("PUT /api/accounts/:account", {
        params: { account: account.id },
        body: { ...fields, ...(password === "" ? {} : { password }) },
      });
    },
    onSuccess: (saved) => {
      toast(`${saved.name} is saved.`);
      void client.invalidateQueries({ queryKey: accountsQuery.queryKey });
      onClose();
    },
  });
  return (
    <Dialog title={account === null ? "Add someone" : account.name} onClose={onClose}>
      <form className="flex flex-col gap-3" onSubmit={(event) => save.mutate(fieldsOf(event))}>
        {account === null && (
          <label className="flex flex-col">
            Signs in as
            <input className="input w-full" required name="login" />
          </label>
        )}
        <label className="flex flex-col">
          Name
          <input className="input w-full" required name="name" defaultValue={account?.name ?? ""} />
        </label>
        <RolesField given={given} groups={groups} onGive={setGiven} />
        <label className="flex flex-col">
          Person in the plans
          <select className="select w-full" name="person" defaultValue={account?.person ?? ""}>
            <option value="">none: no desk</option>
            {people.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <label className="flex flex-col">
          {account === null ? "First password, 10 characters or more" : "New password, left empty to keep the old"}
          <input
            className="input w-full"
            type="password"
            autoComplete="new-password"
            required={account === null}
            minLength={10}
            name="password"
          />
        </label>
        {save.error !== null && <Failure error={save.error} />}
        <button className="btn btn-primary" disabled={save.isPending}>
          Save
        </button>
      </form>
    </Dialog>
  );
}

function Table({ all }: { all: AllAccounts }) {
  const [editing, setEditing] = useState<Account | "new" | null>(null);
  const personName = new Map(all.people.map(({ id, name }) => [id, name]));
  const columns: Column<Account>[] = [
    {
      id: "name",
      head: "Name",
      value: ({ name }) => name,
      show: (account) => (
        <button type="button" className="link-quiet cursor-pointer" onClick={() => setEditing(account)}>
          {account.name}
        </button>
      ),
    },
    { id: "login", head: "Signs in as", value: ({ login }) => login },
    { id: "roles", head: "May act as", value: (account) => rolesInWords(account, all.groups) },
    {
      id: "person",
      head: "Person in the plans",
      value: ({ person }) => (person === null ? null : (personName.get(person) ?? person)),
    },
  ];
  return (
    <>
      <DataTable
        name="People"
        rows={all.accounts}
        columns={columns}
        rowKey={({ id }) => id}
        empty="Nobody can sign in."
        tools={
          <button type="button" className="btn btn-sm" onClick={() => setEditing("new")}>
            Add someone
          </button>
        }
      />
      {editing !== null && (
        <EditAccount account={editing === "new" ? null : editing} all={all} onClose={() => setEditing(null)} />
      )}
    </>
  );
}

/** Who can sign in, and what they may do. */
export function Accounts() {
  const query = useQuery(accountsQuery);
  return (
    <section>
      <h1 className="pb-1 text-xl">Accounts</h1>
      <Loaded query={query}>{(all) => <Table all={all} />}</Loaded>
    </section>
  );
}
