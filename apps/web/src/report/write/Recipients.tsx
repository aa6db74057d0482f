import type { BodyOf, ReportRecipients } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { call } from "../../shared/session/api.ts";
import { Failure, Loaded } from "../../shared/dialogs/Failure.tsx";
import { NameChoice } from "../../shared/fields/NameChoice.tsx";
import { RemoveButton } from "../../shared/fields/RemoveButton.tsx";
import { recipientsQuery } from "../queries.ts";

type Written = BodyOf<"PUT /api/status-reports/:of/recipients">;

interface OneProps {
  readonly name: string;
  readonly onRemove: (() => void) | null;
}

const One = ({ name, onRemove }: OneProps) => (
  <li className="flex items-center gap-1">
    {name}
    {onRemove !== null && <RemoveButton what={name} onRemove={onRemove} />}
  </li>
);

function List({ of, known }: { of: string; known: ReportRecipients }) {
  const client = useQueryClient();
  const [chosen, setChosen] = useState<string | null>(null);
  const [address, setAddress] = useState("");
  const write = useMutation({
    mutationFn: (body: Written) => call("PUT /api/status-reports/:of/recipients", { params: { of }, body }),
    onSuccess: () => {
      setAddress("");
      void client.invalidateQueries({ queryKey: recipientsQuery(of).queryKey });
    },
  });
  const may = known.mayEdit;
  return (
    <section aria-label="Who gets it" className="border-t rule py-3">
      <h2 className="text-lg">Who gets it when it is issued</h2>
      {known.accounts.length + known.addresses.length === 0 && (
        <p className="muted text-sm">Nobody yet. Whoever is named here gets a link and, by mail, the PDF.</p>
      )}
      <ul className="flex flex-wrap gap-x-5">
        {known.accounts.map(({ id, name }) => (
          <One key={id} name={name} onRemove={may ? () => write.mutate({ remove: { accounts: [id] } }) : null} />
        ))}
        {known.addresses.map((each) => (
          <One key={each} name={each} onRemove={may ? () => write.mutate({ remove: { addresses: [each] } }) : null} />
        ))}
      </ul>
      {may && (
        <div className="mt-1 flex flex-wrap items-center gap-2">
          <NameChoice
            key={known.accounts.length}
            label="Someone with an account"
            things={known.choices.filter(({ id }) => known.accounts.every((each) => each.id !== id))}
            onChoose={setChosen}
          />
          <button
            type="button"
            className="btn btn-sm"
            disabled={chosen === null || write.isPending}
            onClick={() => write.mutate({ add: { accounts: [chosen!] } })}
          >
            Add
          </button>
          <form
            className="flex gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              write.mutate({ add: { addresses: [address.trim()] } });
            }}
          >
            <input
              type="email"
              className="input input-sm w-64"
              aria-label="Address of mail"
              placeholder="or an address of mail"
              value={address}
              onChange={(event) => setAddress(event.target.value)}
            />
            <button className="btn btn-sm" disabled={address.trim() === "" || write.isPending}>
              Add address
            </button>
          </form>
        </div>
      )}
      {write.error !== null && <Failure error={write.error} />}
    </section>
  );
}

/** Who gets the reports of a project or a group when they are issued. */
export function Recipients({ of }: { of: string }) {
  const recipients = useQuery(recipientsQuery(of));
  return <Loaded query={recipients}>{(known) => <List of={of} known={known} />}</Loaded>;
}
