import type { MatterSettings } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { namablesQuery } from "../project/queries.ts";
import { DateField } from "../shared/fields/DateField.tsx";
import { NameChoice } from "../shared/fields/NameChoice.tsx";

interface Props {
  readonly settings: MatterSettings;
  readonly severity: string;
  readonly onSeverity: (id: string) => void;
  /** Said besides, of who owns it if nobody is named. */
  readonly ownerNote?: string;
  readonly onOwner: (id: string | null) => void;
  readonly due: string;
  readonly onDue: (date: string) => void;
}

const NOBODY: { id: string; name: string }[] = [];

/** How severe something is, who sees to it and by when, as it is typed in a form. */
export function WhoWhen({ settings, severity, onSeverity, ownerNote = "", onOwner, due, onDue }: Props) {
  const people = useQuery(namablesQuery).data ?? NOBODY;
  return (
    <>
      <label className="flex flex-col">
        Severity
        <select className="select select-sm w-36" value={severity} onChange={(event) => onSeverity(event.target.value)}>
          <option value="">none yet</option>
          {settings.severities.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <div className="flex flex-col">
        Owner{ownerNote}
        <NameChoice label="Owner" things={people} width="w-48" onChoose={onOwner} />
      </div>
      <div className="flex flex-col">
        Due
        <DateField label="Due" small value={due} onDate={onDue} />
      </div>
    </>
  );
}
