import type { QualityView } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { useProject } from "../project/useProject.ts";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { dateWords } from "../shared/words/words.ts";
import { FITNESS_TONES, FITNESS_WORDS } from "./fitnessWords.ts";
import { OffencePanel } from "./OffencePanel.tsx";
import { qualityQuery } from "./queries.ts";
import { TrendMarks } from "./TrendMarks.tsx";

/** The verdict with its reasons, and what would help most. */
export function VerdictWords({ verdict: { fitness, reasons, best } }: Pick<QualityView, "verdict">) {
  return (
    <>
      <p className={`figure text-lg ${FITNESS_TONES[fitness]}`}>
        {FITNESS_WORDS[fitness]}.
        {fitness === "mend" && ` ${reasons.length === 1 ? "One thing falls" : `${reasons.length} things fall`} short.`}
      </p>
      {reasons.length === 0 ? (
        <p className="text-sm">Every check that has something to count holds.</p>
      ) : (
        <ul className="columns-2 gap-6 text-sm">
          {reasons.map(({ words, grave }) => (
            <li key={words} className={grave ? "adverse" : "undecided"}>
              {grave ? "▾ " : "◦ "}
              {words}
            </li>
          ))}
        </ul>
      )}
      {best !== null && (
        <p className="pt-1 text-sm">
          <span className="muted">What would help most:</span> {best.words}.
        </p>
      )}
    </>
  );
}

interface LineProps {
  readonly name: string;
  readonly words: string;
  readonly limit?: string;
  readonly passes: boolean | null;
  readonly number?: number;
  readonly trend?: QualityView["checks"][number]["trend"];
  readonly isAt: boolean;
  readonly onOpen: () => void;
}

function Line({ name, words, limit, passes, number, trend, isAt, onOpen }: LineProps) {
  return (
    <tr className={`cursor-pointer border-b rule hover:bg-base-200 ${isAt ? "bg-base-200" : ""}`} onClick={onOpen}>
      <td className="muted w-7 pr-2 text-right">{number}</td>
      <th scope="row" className="py-0 text-left font-normal">
        <button
          type="button"
          className="min-h-[24px] cursor-pointer text-left"
          aria-pressed={isAt}
          onClick={(event) => {
            event.stopPropagation();
            onOpen();
          }}
        >
          {name}
        </button>
      </th>
      <td className={passes === false ? "adverse" : passes === true ? "favourable" : "muted"}>
        {passes === false ? "▾ " : passes === true ? "✓ " : ""}
        {words}
      </td>
      {limit !== undefined && <td className="muted">{limit}</td>}
      {trend !== undefined && (
        <td>
          <TrendMarks name={name} trend={trend} />
        </td>
      )}
    </tr>
  );
}

const HEAD = "border-b rule bg-base-100 text-left text-xs font-semibold";

function Findings({
  title,
  findings,
  at,
  onAt,
}: {
  title: string;
  findings: QualityView["findings"];
  at: string;
  onAt: (key: string) => void;
}) {
  return (
    <section className="min-w-0 flex-1">
      <h2 className="pt-3 text-base">{title}</h2>
      <table className="w-full text-sm">
        <thead>
          <tr className={HEAD}>
            <th aria-label="Number" />
            <th scope="col">Finding</th>
            <th scope="col">Named</th>
          </tr>
        </thead>
        <tbody>
          {findings.map(({ key, name, offences }) => (
            <Line
              key={key}
              name={name}
              words={offences.length === 0 ? "none" : String(new Set(offences.map(({ id }) => id)).size)}
              passes={offences.length === 0 ? null : false}
              isAt={at === key}
              onOpen={() => onAt(key)}
            />
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Trust({ quality }: { quality: QualityView }) {
  const { id: project } = useProject();
  const [params, setParams] = useSearchParams();
  const chosen = params.get("at");
  const at =
    chosen ??
    String(quality.verdict.best?.check ?? quality.verdict.reasons.find(({ check }) => check !== null)?.check ?? 1);
  const onAt = (key: string): void => setParams({ at: key }, { replace: true });
  const about =
    quality.checks.find(({ number }) => String(number) === at) ??
    quality.findings.find(({ key }) => key === at) ??
    quality.checks[0]!;
  return (
    <div className="beside">
      <div className="min-w-0 flex-1 overflow-auto px-5 py-3" tabIndex={0} aria-label="How far the plan can be trusted">
        <VerdictWords verdict={quality.verdict} />
        <h2 className="pt-3 text-base">
          The fourteen checks{" "}
          <span className="muted font-sans text-sm">
            {quality.asOf === null ? "without a data date" : `as of ${dateWords(quality.asOf)}`},{" "}
            {quality.baseline === null ? "no baseline yet" : `against baseline ${quality.baseline}`}
          </span>
        </h2>
        <table className="w-full text-sm">
          <thead>
            <tr className={HEAD}>
              <th aria-label="Number" />
              <th scope="col">Check</th>
              <th scope="col">Comes to</th>
              <th scope="col">Limit</th>
              <th scope="col">By period</th>
            </tr>
          </thead>
          <tbody>
            {quality.checks.map((check) => (
              <Line key={check.number} {...check} isAt={about === check} onOpen={() => onAt(String(check.number))} />
            ))}
          </tbody>
        </table>
        <div className="flex flex-wrap gap-6">
          <Findings
            title="Further, of the plan"
            findings={quality.findings.filter((each) => each.about === "plan")}
            at={at}
            onAt={onAt}
          />
          <Findings
            title="Further, of its reporting"
            findings={quality.findings.filter((each) => each.about === "reporting")}
            at={at}
            onAt={onAt}
          />
        </div>
        <p className="muted max-w-2xl pt-3 text-xs">
          The fourteen checks are those of the DCMA 14-point assessment, as the GAO Schedule Assessment Guide
          (GAO-16-89G) has them; the further findings are common practice. A check with nothing to count does not pass.
        </p>
      </div>
      <OffencePanel key={at} project={project} quality={quality} about={about} />
    </div>
  );
}

/** How far a project's plan can be trusted, why, where, and how to mend it. */
export function TrustPage() {
  const { id: project } = useProject();
  const query = useQuery(qualityQuery(project));
  return <Loaded query={query}>{(quality) => <Trust quality={quality} />}</Loaded>;
}
