import type { OutsideTargets } from "@chronometra/contract";
import { useState } from "react";
import { NameChoice } from "../../shared/fields/NameChoice.tsx";

/** Chooses a project, and an activity of it. */
export function ActivityChoice({
  targets,
  start,
  onChoose,
}: {
  targets: OutsideTargets;
  start: string | null;
  onChoose: (project: OutsideTargets[number] | null, activity: string | null) => void;
}) {
  const [project, setProject] = useState(start ?? "");
  const found = targets.find(({ id }) => id === project) ?? null;
  return (
    <>
      <select
        className="select select-sm w-52"
        aria-label="Project"
        value={project}
        onChange={(event) => {
          setProject(event.target.value);
          onChoose(targets.find(({ id }) => id === event.target.value) ?? null, null);
        }}
      >
        <option value="">a project</option>
        {targets.map(({ id, code, name }) => (
          <option key={id} value={id}>
            {code} {name}
          </option>
        ))}
      </select>
      {found !== null && (
        <NameChoice
          key={found.id}
          label="Activity"
          things={found.activities}
          onChoose={(activity) => onChoose(found, activity)}
        />
      )}
    </>
  );
}
