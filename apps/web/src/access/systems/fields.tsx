import { useQuery } from "@tanstack/react-query";
import type { ReactNode } from "react";
import { inTreeOrder } from "../../project/programmeTree.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { SaveOrCancel } from "../../shared/dialogs/SaveOrCancel.tsx";
import { accountsQuery } from "../queries.ts";

interface ChecksProps<K extends string> {
  readonly legend: string;
  /** All that can be selected, by key, in words. */
  readonly choices: Readonly<Record<K, string>>;
  readonly chosen: readonly K[];
  readonly onChosen: (chosen: K[]) => void;
}

/** Several of a few, side by side. */
export function Checks<K extends string>({ legend, choices, chosen, onChosen }: ChecksProps<K>) {
  const all = Object.keys(choices) as K[];
  return (
    <fieldset className="flex flex-wrap gap-x-4">
      <legend className="sr-only">{legend}</legend>
      {all.map((each) => (
        <label key={each} className="flex min-h-[24px] items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={chosen.includes(each)}
            onChange={({ target }) =>
              onChosen(all.filter((other) => (other === each ? target.checked : chosen.includes(other))))
            }
          />
          {choices[each]}
        </label>
      ))}
    </fieldset>
  );
}

/** A group, with all below it, or the whole house. */
export function OfGroup({ value, onGroup }: { value: string; onGroup: (group: string) => void }) {
  const { data } = useQuery(accountsQuery);
  return (
    <select
      className="select select-sm w-56"
      aria-label="Of which group"
      value={value}
      onChange={({ target }) => onGroup(target.value)}
    >
      <option value="">the whole house</option>
      {inTreeOrder(data?.groups ?? []).map(({ programme, depth }) => (
        <option key={programme.id} value={programme.id}>
          {"\u2003".repeat(depth)}
          {programme.name}
        </option>
      ))}
    </select>
  );
}

/** What is told once and never again: to be selected and taken along. */
export const ToldOnce = ({ what, value }: { what: string; value: string }) => (
  <p className="my-2 border-l-4 border-accent pl-3" role="status">
    {what}, told this once: <code className="break-all select-all">{value}</code>
  </p>
);

interface EndProps {
  readonly title: string;
  /** What comes of it. */
  readonly children: ReactNode;
  readonly words: string;
  readonly onEnd: () => void;
  readonly onClose: () => void;
}

/** Asks before something ends that nothing brings back. */
export const EndFirst = ({ title, children, words, onEnd, onClose }: EndProps) => (
  <Dialog title={title} onClose={onClose}>
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onEnd();
        onClose();
      }}
    >
      <p>{children}</p>
      <SaveOrCancel fault={null} isReady words={words} onClose={onClose} />
    </form>
  </Dialog>
);
