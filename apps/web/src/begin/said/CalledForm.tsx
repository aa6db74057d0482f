import type { BeginAsked } from "@chronometra/contract";
import type { ReactNode } from "react";
import { useGroupChoices } from "../../project/useGroupChoices.ts";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { fieldsOf } from "../../shared/fields/fieldsOf.ts";

/** What a new project is called, and where it belongs. */
export type Called = Pick<BeginAsked, "code" | "name" | "programme">;

interface Props {
  /** Whether all else that is needed was said. */
  readonly isReady: boolean;
  readonly isBusy: boolean;
  readonly error: Error | null;
  readonly onBegin: (called: Called) => void;
  readonly children?: ReactNode;
}

/** What the project is called and where it belongs; the last step of each way to begin. */
export function CalledForm({ isReady, isBusy, error, onBegin, children }: Props) {
  const { choices } = useGroupChoices();
  return (
    <form
      className="pt-4"
      onSubmit={(event) => {
        const { text } = fieldsOf(event);
        const programme = text("programme");
        onBegin({ code: text("code"), name: text("name"), programme: programme === "" ? null : programme });
      }}
    >
      <div className="flex flex-wrap items-end gap-3">
        <label className="flex flex-col text-sm">
          Code
          <input className="input input-sm w-28" required maxLength={64} name="code" />
        </label>
        <label className="flex flex-col text-sm">
          Name
          <input className="input input-sm w-80" required maxLength={400} name="name" />
        </label>
        <label className="flex flex-col text-sm">
          Belongs to
          <select className="select select-sm w-64" name="programme">
            {choices.map(({ id, words }) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
        </label>
        {children}
        <button className="btn btn-primary btn-sm" disabled={!isReady || isBusy}>
          {isBusy ? "Beginning …" : "Begin"}
        </button>
      </div>
      {error !== null && <Failure error={error} />}
    </form>
  );
}
