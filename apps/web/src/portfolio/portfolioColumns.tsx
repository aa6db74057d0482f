import type { Paths, Portfolio, ProjectLine } from "@chronometra/contract";
import { RATING_WORDS } from "@chronometra/core";
import { Link } from "react-router";
import type { Column } from "../shared/table/column.ts";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { DriftLine } from "./DriftLine.tsx";
import { FITNESS_TONES, FITNESS_WORDS } from "../quality/fitnessWords.ts";
import { rulesBroken, trustOf } from "../project/logLines.ts";
import { ownFieldColumn } from "./OwnFieldCell.tsx";
import { RATING_TONES } from "./SaysDialog.tsx";
import { countWords, dateWords } from "../shared/words/words.ts";
import { baseColumns } from "./baseColumns.tsx";
import { to, opens, changedSinceLock } from "./shownFigures.tsx";

/** The columns of the portfolio's table: the figures, what managers say, how drift went, and own fields. */
export function portfolioColumns(
  portfolio: Portfolio,
  paths: Paths,
  onSays: (line: ProjectLine) => void,
): readonly Column<ProjectLine>[] {
  const base = baseColumns(portfolio);
  const at = base.findIndex(({ id }) => id === "drift");
  const says: Column<ProjectLine> = {
    id: "says",
    head: "Manager's note",
    hint: "A rating and a word of the manager",
    value: ({ says: said }) =>
      said === null ? null : `${RATING_WORDS[said.rating]}${said.note === "" ? "" : `: ${said.note}`}`,
    show: (line) => {
      const words =
        line.says === null ? (
          <span className="muted">{line.mayEdit ? "say" : "–"}</span>
        ) : (
          <Toned tone={RATING_TONES[line.says.rating]} marked>
            {RATING_WORDS[line.says.rating]}
          </Toned>
        );
      const title =
        line.says === null
          ? "Nothing said yet"
          : `${line.says.note}\n${line.says.by}, ${dateWords(line.says.at.slice(0, 10))}`;
      return line.mayEdit ? (
        <button
          type="button"
          className="link-quiet min-h-[24px] min-w-[24px] cursor-pointer text-left"
          title={title}
          onClick={() => onSays(line)}
        >
          {words}
        </button>
      ) : (
        <span title={title}>{words}</span>
      );
    },
  };
  const trust: Column<ProjectLine> = {
    id: "trust",
    head: "Trust",
    hint: "Whether its plan is fit, by the fourteen checks",
    value: (line) => ["fit", "mend", "unfit"].indexOf(trustOf(line, portfolio.qualityLimits).fitness),
    says: (line) => FITNESS_WORDS[trustOf(line, portfolio.qualityLimits).fitness],
    show: (line) => {
      const { fitness, failed } = trustOf(line, portfolio.qualityLimits);
      return opens(
        to(line, "/trust"),
        <Toned tone={FITNESS_TONES[fitness]} marked>
          {FITNESS_WORDS[fitness]}
          {failed.length > 0 && `, ${failed.length}`}
        </Toned>,
      );
    },
    hidden: true,
  };
  const path: Column<ProjectLine> = {
    id: "path",
    head: "Drift by period",
    value: ({ id, summary }) =>
      [...(paths[id] ?? []).map(({ drift }) => drift), summary.drift]
        .map((drift) => (drift === null ? "–" : Math.round(drift * 10) / 10))
        .join(" "),
    show: ({ id, summary }) => <DriftLine path={paths[id] ?? []} now={summary.drift} />,
  };
  const rules: Column<ProjectLine> = {
    id: "rules",
    head: "Limits broken",
    hint: "Limits of the portfolio that it breaks, each to be explained",
    numeric: true,
    value: (line) => rulesBroken(line, portfolio).length,
    show: (line) => {
      const count = rulesBroken(line, portfolio).length;
      return count === 0
        ? "–"
        : opens(
            `/cycle?step=Explain&project=${line.id}`,
            <Toned tone="undecided">{countWords(count, "limit", "limits")}</Toned>,
          );
    },
    total: (lines) => lines.reduce((sum, line) => sum + rulesBroken(line, portfolio).length, 0),
    hidden: true,
  };
  const sinceLock: Column<ProjectLine> = {
    id: "sinceLock",
    head: "Since lock",
    hint: "What has changed since the period was locked whose figures these are",
    value: (line) => changedSinceLock(line).join(" · ") || null,
    show: (line) => {
      const words = changedSinceLock(line);
      return line.locked === null ? (
        "–"
      ) : words.length === 0 ? (
        <span className="muted">as locked</span>
      ) : (
        <Link
          className="undecided link-quiet inline-flex min-h-[24px] items-center"
          title={words.join("\n")}
          to={to(line, `/compare?from=period-${line.locked.number}&to=plan&why=finish`)}
        >
          {words.length} changed
        </Link>
      );
    },
    hidden: portfolio.projects.every((line) => changedSinceLock(line).length === 0),
  };
  return [
    ...base.slice(0, at + 1),
    path,
    ...base.slice(at + 1),
    sinceLock,
    trust,
    rules,
    says,
    ...portfolio.fields.map((field) => ownFieldColumn(field, portfolio)),
  ];
}
