import { parseDuration } from "@chronometra/core";
import { Plus } from "lucide-react";
import { RemoveButton } from "../shared/fields/RemoveButton.tsx";

/** A step as it is typed. */
export interface TypedStep {
  readonly id: string;
  readonly name: string;
  readonly duration: string;
  readonly after: boolean;
  readonly who: string;
}

const DAY_MINUTES = 480;
let made = 0;
/** A step to be typed. */
export const newStep = (): TypedStep => ({ id: `step ${++made}`, name: "", duration: "", after: true, who: "" });

/** How long a step takes; `null` of what is no duration. A bare number is days. */
export const minutesOf = ({ duration }: TypedStep): number | null => parseDuration(duration, DAY_MINUTES, "days");

const isEmpty = ({ name, duration, who }: TypedStep): boolean =>
  [name, duration, who].every((each) => each.trim() === "");
/** Steps in which something is typed. */
export const typedSteps = (steps: readonly TypedStep[]): TypedStep[] => steps.filter((step) => !isEmpty(step));

/** What keeps a step from being understood; `null` where nothing does. */
export function stepFault(step: TypedStep): string | null {
  if (isEmpty(step)) return null;
  if (step.name.trim() === "") return "Say what is to be done.";
  return minutesOf(step) === null ? "Say how long it takes, as 3d or 4h." : null;
}

interface Props {
  readonly steps: readonly TypedStep[];
  /** Names to be offered for who does it. */
  readonly people: readonly string[];
  readonly onChange: (steps: TypedStep[]) => void;
}

const PEOPLE_LIST = "begin-people";

/** What has to be done, a line each; Enter goes on to the next. */
export function StepRows({ steps, people, onChange }: Props) {
  const set = (id: string, part: Partial<TypedStep>): void =>
    onChange(steps.map((step) => (step.id === id ? { ...step, ...part } : step)));
  return (
    <>
      <datalist id={PEOPLE_LIST}>
        {people.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      <table className="ledger max-w-5xl" aria-label="What has to be done">
        <thead>
          <tr>
            <th>What</th>
            <th>How long</th>
            <th>When</th>
            <th>By whom</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {steps.map((step, i) => {
            const fault = stepFault(step);
            const field = (of: "name" | "duration" | "who", label: string, width: string, ask: string) => (
              <input
                className={`input input-sm ${width}`}
                aria-label={`${label}, ${i + 1}`}
                placeholder={ask}
                maxLength={200}
                list={of === "who" ? PEOPLE_LIST : undefined}
                value={step[of]}
                onChange={(event) => set(step.id, { [of]: event.target.value })}
              />
            );
            return (
              <tr key={step.id}>
                <td>{field("name", "What", "w-80", i === 0 ? "as: draw the signs" : "")}</td>
                <td>
                  {field("duration", "How long", "w-20", i === 0 ? "3d" : "")}
                  {fault !== null && (
                    <span role="alert" className="adverse block text-sm">
                      {fault}
                    </span>
                  )}
                </td>
                <td>
                  {i === 0 ? (
                    <span className="muted">first</span>
                  ) : (
                    <select
                      className="select select-sm w-48"
                      aria-label={`When, ${i + 1}`}
                      value={step.after ? "after" : "beside"}
                      onChange={(event) => set(step.id, { after: event.target.value === "after" })}
                    >
                      <option value="after">after the one above</option>
                      <option value="beside">beside the one above</option>
                    </select>
                  )}
                </td>
                <td>{field("who", "By whom", "w-48", i === 0 ? "a name or a role" : "")}</td>
                <td>
                  <RemoveButton
                    what={`line ${i + 1}`}
                    stays={steps.length === 1 ? "One line is needed" : undefined}
                    onRemove={() => onChange(steps.filter(({ id }) => id !== step.id))}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <button type="button" className="btn btn-sm mt-1" onClick={() => onChange([...steps, newStep()])}>
        <Plus size={14} aria-hidden="true" /> A line
      </button>
    </>
  );
}
