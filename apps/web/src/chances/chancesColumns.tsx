import type { ChancesView } from "@chronometra/contract";
import { Link } from "react-router";
import type { usePlanChange } from "../resources/stored/usePlanChange.ts";
import type { Column } from "../shared/table/column.ts";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { dateWords, numberWords } from "../shared/words/words.ts";
import { chancePercent, chanceTone, chanceWords, CLASS_WORDS, rangeWords, readRange } from "./chanceWords.ts";

type Varying = ChancesView["activities"][number];

interface RangeProps {
  readonly varying: Varying;
  /** What holds for those without a range of their own. */
  readonly otherwise: string;
  readonly change: ReturnType<typeof usePlanChange>;
}

/** The range of an activity, typed in place. */
function RangeField({ varying: { id, name, range }, otherwise, change }: RangeProps) {
  const onCommit = async (text: string): Promise<string | null> => {
    const read = readRange(text);
    if (read === null && text.trim() !== "")
      return "Three percents that do not fall, as 90 100 135, or narrow, usual, wide.";
    return change(
      [
        ...(range === null ? [] : [{ type: "removeRow", table: "ranges", key: id } as const]),
        ...(read === null ? [] : [{ type: "addRow", table: "ranges", key: id, row: read } as const]),
      ],
      `The range of ${name} is ${read === null ? "removed" : rangeWords(read)}.`,
    );
  };
  return (
    <CommitField
      label={`Range of ${name}`}
      width="w-28"
      placeholder={otherwise}
      value={range === null ? "" : rangeWords(range)}
      onCommit={onCommit}
    />
  );
}

/** What varies, and how far it moves the finish. */
export function varyingColumns(
  view: ChancesView,
  project: string,
  mayEdit: boolean,
  change: ReturnType<typeof usePlanChange>,
): readonly Column<Varying>[] {
  const otherwise = CLASS_WORDS[view.asked.otherwise];
  const shown = ({ range }: Varying) =>
    range === null ? <span className="muted">{otherwise}</span> : rangeWords(range);
  return [
    {
      id: "name",
      head: "Activity",
      value: ({ name }) => name,
      show: ({ id, name }) => (
        <Link className="link-quiet" to={`/projects/${project}/plan?at=${encodeURIComponent(id)}&about=why`}>
          {name}
        </Link>
      ),
    },
    {
      id: "sensitivity",
      head: "Moves the finish",
      hint: "Correlation of its duration with the finish",
      numeric: true,
      value: ({ sensitivity }) => sensitivity,
      show: ({ sensitivity }) => (sensitivity === null ? "–" : numberWords(sensitivity, 2, 2)),
    },
    {
      id: "criticality",
      head: "On the longest path",
      is: "share",
      hint: "Share of runs",
      numeric: true,
      value: ({ criticality }) => criticality,
      show: ({ criticality }) => chancePercent(criticality),
    },
    {
      id: "range",
      head: "Range, % of what remains",
      value: ({ range }) => (range === null ? "" : rangeWords(range)),
      show: (varying) =>
        mayEdit ? <RangeField varying={varying} otherwise={otherwise} change={change} /> : shown(varying),
    },
  ];
}

/** How likely each promise is kept. */
export const promiseColumns = (project: string): readonly Column<ChancesView["deadlines"][number]>[] => [
  {
    id: "name",
    head: "Milestone or activity",
    value: ({ name }) => name,
    show: ({ id, name }) => (
      <Link className="link-quiet" to={`/deadlines?project=${project}&at=${encodeURIComponent(`${project}:${id}`)}`}>
        {name}
      </Link>
    ),
  },
  {
    id: "deadline",
    head: "Deadline",
    value: ({ deadline }) => deadline,
    show: ({ deadline }) => dateWords(deadline),
  },
  {
    id: "chance",
    head: "Is kept",
    is: "share",
    numeric: true,
    value: ({ chance }) => chance,
    show: ({ chance }) => (
      <Toned tone={chanceTone(chance)} marked>
        {chanceWords(chance)}
      </Toned>
    ),
  },
];
