import type { Load } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { moveCellFocus } from "../shared/table/cellFocus.ts";
import { dateWords, numberWords, shortDateWords } from "../shared/words/words.ts";
import { fullness, overAndRoom, type LoadLine } from "./loadLines.ts";

export type LoadMeasure = "hours" | "things" | "actual";

interface Props {
  readonly weeks: Load["weeks"];
  readonly lines: readonly LoadLine[];
  readonly measure: LoadMeasure;
  readonly today: string;
  readonly chosen: { readonly key: string; readonly monday: string } | null;
  readonly onChoose: (key: string, monday: string) => void;
}

const whole = (minutes: number): string => numberWords(minutes / 60, 0);

/** How a week reads: hours of work in hours of time, things, or booked against planned. */
function cellWords(line: LoadLine, i: number, measure: LoadMeasure): { text: string; words: string } {
  const [demand, capacity, things, planned, posted] = [
    line.demand[i]!,
    line.capacity[i]!,
    line.things[i]!,
    line.planned[i]!,
    line.posted[i]!,
  ];
  if (measure === "things") return { text: things === 0 ? "" : String(things), words: `${things} things to do` };
  if (measure === "actual")
    return {
      text: planned === 0 && posted === 0 ? "" : `${whole(posted)}/${whole(planned)}`,
      words: `${formatHours(posted)} booked of ${formatHours(planned)} planned`,
    };
  return {
    text: demand === 0 ? (capacity === 0 ? "off" : "") : whole(demand),
    words: `${formatHours(demand)} of work in ${formatHours(capacity)}${demand > capacity ? `, ${formatHours(demand - capacity)} too much` : `, ${formatHours(capacity - demand)} of room`}`,
  };
}

/** A week as a vessel: the work fills it from below; what runs over stands above the brim, barred. */
function Vessel({ line, i, measure }: { line: LoadLine; i: number; measure: LoadMeasure }) {
  const part =
    measure === "actual"
      ? line.planned[i] === 0
        ? line.posted[i]! > 0
          ? Infinity
          : null
        : line.posted[i]! / line.planned[i]!
      : fullness(line.demand[i]!, line.capacity[i]!);
  if (part === null) return null;
  const over = part > 1.005;
  const height = Math.min(1, part) * 100;
  return (
    <span
      aria-hidden="true"
      className={`absolute inset-x-px bottom-px ${over ? "load-over" : "load-fill"}`}
      style={{ height: `calc(${over ? 100 : height}% - 2px)` }}
    />
  );
}

/** Who has how much to do, week by week. */
export function LoadTable({ weeks, lines, measure, today, chosen, onChoose }: Props) {
  return (
    <table className="ledger load" aria-label="Load by week" onKeyDown={moveCellFocus}>
      <thead>
        <tr>
          <th scope="col">Who</th>
          {weeks.map((monday, i) => (
            <th
              key={monday}
              scope="col"
              className={`num ${monday <= today && (weeks[i + 1] ?? "9") > today ? "font-bold underline decoration-accent decoration-2 underline-offset-4" : ""}`}
              title={`Week of ${dateWords(monday)}`}
            >
              {shortDateWords(monday)}
            </th>
          ))}
          <th scope="col" className="num" title="Hours of work beyond what there is time for">
            Over
          </th>
          <th scope="col" className="num" title="Hours without work">
            Room
          </th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => {
          const { over, room } = overAndRoom(line);
          return (
            <tr key={line.key}>
              <th
                scope="row"
                className="max-w-44 truncate text-left font-normal"
                title={
                  line.people.length === 1
                    ? [line.people[0]!.role, ...line.people[0]!.teams].filter(Boolean).join(", ")
                    : line.people.map(({ name }) => name).join(", ")
                }
              >
                {line.name}
                {line.people.length > 1 && <span className="muted"> {line.people.length}</span>}
                {line.people.every(({ placeholder }) => placeholder) && (
                  <span className="undecided"> to be filled</span>
                )}
              </th>
              {weeks.map((monday, i) => {
                const { text, words } = cellWords(line, i, measure);
                const here = chosen?.key === line.key && chosen.monday === monday;
                return (
                  <td key={monday} className="relative p-0">
                    <Vessel line={line} i={i} measure={measure} />
                    <button
                      type="button"
                      className={`relative block h-[25px] w-full min-w-9 cursor-pointer px-1 text-right tabular-nums ${here ? "outline-2 outline-accent" : ""} ${text === "off" ? "muted" : ""}`}
                      aria-pressed={here}
                      aria-label={`${line.name}, week of ${dateWords(monday)}: ${words}`}
                      title={words}
                      onClick={() => onChoose(line.key, monday)}
                    >
                      {text}
                    </button>
                  </td>
                );
              })}
              <td className="num">{over === 0 ? "" : <span className="adverse">{whole(over)} h over</span>}</td>
              <td className="num muted">{room === 0 ? "" : `${whole(room)} h`}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
