import {
  MATTER_KIND_WORDS,
  matterStateWords,
  type Matter,
  type MatterKind,
  type MatterSettings,
} from "@chronometra/contract";
import { Link } from "react-router";
import { Toned } from "../shared/dialogs/Toned.tsx";
import type { Column } from "../shared/table/column.ts";
import { dateWords, money, percentWords } from "../shared/words/words.ts";

/** The place of a severity on the scale, from 1; 0 where none is said. */
export const rankOf = ({ severities }: MatterSettings, id: string | null): number =>
  severities.findIndex((step) => step.id === id) + 1;

/** A severity in words. */
export const severityName = ({ severities }: MatterSettings, id: string | null): string =>
  severities.find((step) => step.id === id)?.name ?? "–";

/** Where a matter lies, in words. */
export const placeOf = ({ project, group }: Matter): string => project?.code ?? group?.name ?? "the whole house";

interface Shown {
  readonly kind: MatterKind | null;
  readonly settings: MatterSettings;
  /** Left out of a project's own registers. */
  readonly places: boolean;
  readonly onOpen: (matter: Matter) => void;
}

const dueCell = ({ due, overdue }: Matter) => (
  <Toned tone={overdue ? "adverse" : "plain"} marked={overdue}>
    {dateWords(due)}
  </Toned>
);

/** Columns that risks alone have. */
const riskColumns = (settings: MatterSettings): Column<Matter>[] => [
  {
    id: "chance",
    head: "Probability",
    numeric: true,
    is: "share",
    value: ({ chance }) => chance,
    show: ({ chance }) => percentWords(chance, 1),
  },
  {
    id: "expected",
    head: "Expected cost",
    hint: "The mean of least, likeliest and most, times how likely it is; of a plan’s risk",
    numeric: true,
    value: ({ expected }) => expected?.minor ?? null,
    money: ({ expected }) => expected ?? { currency: "", minorDigits: 2 },
    show: ({ expected }) =>
      expected === null || expected.minor === 0 ? "–" : money(expected.minor, expected.minorDigits),
  },
  { id: "strategy", head: "Response", value: ({ strategy }) => strategy },
  {
    id: "residual",
    head: "After it",
    hint: "Probability and severity once the response has worked",
    value: ({ residual }) => residual?.chance ?? null,
    says: ({ residual }) =>
      residual === null ? null : `${percentWords(residual.chance, 1)}, ${severityName(settings, residual.severity)}`,
    show: ({ residual }) =>
      residual === null ? "–" : `${percentWords(residual.chance, 1)}, ${severityName(settings, residual.severity)}`,
  },
];

const ownColumns = (kind: MatterKind, settings: MatterSettings): Column<Matter>[] =>
  (settings.fields[kind] ?? []).map((field): Column<Matter> => ({
    id: `own-${field.id}`,
    head: field.name,
    numeric: field.type === "number",
    value: ({ values }) => {
      const value = values[field.id];
      return value === undefined ? null : typeof value === "boolean" ? (value ? "yes" : "no") : value;
    },
    ...(field.type === "date"
      ? { show: ({ values }: Matter) => dateWords((values[field.id] as string | undefined) ?? null) }
      : {}),
  }));

/** The columns of a register. */
export function matterColumns({ kind, settings, places, onOpen }: Shown): Column<Matter>[] {
  return [
    ...(kind === null
      ? [{ id: "kind", head: "Kind", value: (matter: Matter) => MATTER_KIND_WORDS[matter.kind][0] }]
      : []),
    {
      id: "title",
      head: "What",
      wraps: true,
      value: ({ title }) => title,
      show: (matter) => (
        <button type="button" className="link-quiet cursor-pointer text-left" onClick={() => onOpen(matter)}>
          {matter.title}
        </button>
      ),
    },
    ...(places
      ? [
          {
            id: "place",
            head: "Of",
            value: placeOf,
            show: (matter: Matter) =>
              matter.project === null ? (
                placeOf(matter)
              ) : (
                <Link
                  className="link-quiet"
                  title={matter.project.name}
                  to={`/projects/${matter.project.id}/registers`}
                >
                  {matter.project.code}
                </Link>
              ),
          },
        ]
      : []),
    {
      id: "severity",
      head: "Severity",
      value: ({ severity }) => rankOf(settings, severity) || null,
      says: ({ severity }) => severityName(settings, severity),
      show: ({ severity }) => severityName(settings, severity),
    },
    ...(kind === "risk" ? riskColumns(settings) : []),
    { id: "owner", head: "Owner", value: ({ owner }) => owner?.name ?? null },
    { id: "due", head: "Due", value: ({ due }) => due, show: dueCell, says: ({ due }) => dateWords(due) },
    { id: "state", head: "State", value: (matter) => matterStateWords(matter.kind, matter.state) },
    {
      id: "ties",
      head: "Tied to",
      wraps: true,
      value: ({ ties }) => (ties.length === 0 ? null : ties.map(({ name }) => name).join("; ")),
    },
    {
      id: "raisedOn",
      head: "Raised",
      value: ({ raisedOn }) => raisedOn,
      show: ({ raisedOn }) => dateWords(raisedOn),
      hidden: true,
    },
    ...(kind === null ? [] : ownColumns(kind, settings)),
  ];
}
