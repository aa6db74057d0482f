import type { Approval, QualityView, Summary } from "@chronometra/contract";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { projectQuery } from "../project/queries.ts";
import { FITNESS_TONES, FITNESS_WORDS } from "../quality/fitnessWords.ts";
import { qualityQuery } from "../quality/queries.ts";
import { countWords, dateWords, money, standingWords } from "../shared/words/words.ts";
import { OnceFrozen } from "./OnceFrozen.tsx";
import { comparisonQuery } from "./queries.ts";
import { summaryWords } from "./words/comparedWords.ts";

type Verdict = QualityView["verdict"];

const REASONS_SHOWN = 3;
const SHORT_SHOWN = 6;

/** What a plan falls short of, in words. */
const shortOf = ({ unscheduled, activities, deadlines }: Summary): string[] => [
  ...(unscheduled > 0
    ? [`${countWords(unscheduled, "activity has", "activities have")} no dates, and would be in no baseline`]
    : []),
  ...(activities === 0 ? ["no activity has dates yet: there is nothing to freeze"] : []),
  ...deadlines
    .filter(({ state }) => state === "willBreach" || state === "breached" || state === "tight")
    .map(({ name, state, marginDays }) => `${name} ${standingWords(state, marginDays)}`),
];

function ShortOf({ short }: { short: readonly string[] }) {
  if (short.length === 0) return <p className="favourable">✓ All work has dates, and no deadline is in danger.</p>;
  return (
    <ul className="undecided">
      {short.slice(0, SHORT_SHOWN).map((words) => (
        <li key={words}>{words}</li>
      ))}
      {short.length > SHORT_SHOWN && <li>and {short.length - SHORT_SHOWN} more</li>}
    </ul>
  );
}

/** How far the plan can be believed, with the first reasons. */
function VerdictLine({ verdict, project }: { verdict: Verdict; project: string }) {
  const { fitness, reasons } = verdict;
  const told = reasons.slice(0, REASONS_SHOWN).map(({ words }) => words);
  if (reasons.length > REASONS_SHOWN) told.push(`and ${reasons.length - REASONS_SHOWN} more`);
  return (
    <p>
      <span className={FITNESS_TONES[fitness]}>{FITNESS_WORDS[fitness]}</span>
      {told.length > 0 && `: ${told.join("; ")}`}.{" "}
      <Link className="underline" to={`/projects/${project}/trust`}>
        Why, and how to mend it
      </Link>
    </p>
  );
}

/**
 * How a plan stands that is to be approved: its dates and budget, what falls short, and what it changes against the
 * baseline.
 */
export function PlanState({ project, asked }: { project: string; asked?: Approval }) {
  const { data: look } = useQuery(projectQuery(project));
  const baseline = look?.summary.baseline ?? null;
  const as = asked === undefined || asked.changedSince === 0 ? "plan" : `asked-${asked.id}`;
  const quality = useQuery(qualityQuery(project));
  const compared = useQuery({
    ...comparisonQuery(project, `baseline-${baseline}`, as),
    enabled: baseline !== null,
    placeholderData: keepPreviousData,
  });
  if (look === undefined)
    return (
      <p className="muted text-sm" role="status">
        Loading …
      </p>
    );
  const { summary } = look;
  return (
    <section aria-label="The plan as it stands" className="my-1 max-w-3xl border-l-4 border-current pl-3 text-sm">
      {asked !== undefined && asked.changedSince > 0 && (
        <p className="undecided">
          The plan was changed {asked.changedSince === 1 ? "once" : `${asked.changedSince} times`} since approval was
          asked for. What you approve is the plan as it was asked for; whoever wants the changes in it asks anew.{" "}
          <Link className="underline" to={`/projects/${project}/compare?from=asked-${asked.id}&to=plan`}>
            What changed since
          </Link>
        </p>
      )}
      <p>
        {as === "plan" ? "" : "As it stands now: "}
        {countWords(summary.activities, "activity", "activities")} with dates,{" "}
        {countWords(summary.milestones.length, "milestone", "milestones")}
        {summary.finish !== null && `, finishes ${dateWords(summary.finish)}`}
        {compared.data !== undefined &&
          `, ${money(compared.data.budgetMinor.to, summary.minorDigits)} ${summary.currency} of budget`}
        .
      </p>
      {compared.data !== undefined && (
        <p>
          Against baseline {baseline}: {summaryWords(compared.data).join(" ")}{" "}
          <Link className="underline" to={`/projects/${project}/compare?from=baseline-${baseline}&to=${as}`}>
            By activity
          </Link>
        </p>
      )}
      <OnceFrozen project={project} state={as} />
      {quality.data !== undefined && <VerdictLine verdict={quality.data.verdict} project={project} />}
      <ShortOf short={shortOf(summary)} />
    </section>
  );
}
