import type { ProjectLook } from "@chronometra/contract";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { lockedPeriod } from "../shared/sinceLock.ts";
import { Toned } from "../shared/Toned.tsx";
import {
  dateWords,
  driftTone,
  indexTone,
  money,
  percentWords,
  ratioWords,
  varianceTone,
  varianceWords,
  type Tone,
} from "../shared/words.ts";

interface Reading {
  readonly name: string;
  /** What it opens: the activities that it is made of, by that figure; or where it is worked out. */
  readonly to: string;
  readonly hint: string;
  readonly value: string;
  readonly words?: ReactNode;
  readonly tone?: Tone;
}

const oneDigit = (value: number | null): string =>
  value === null ? "–" : (Math.round(Math.abs(value) * 10) / 10).toLocaleString();

function readings({ summary }: Pick<ProjectLook, "summary">): Reading[][] {
  const f = summary.figures!;
  const d = summary.minorDigits;
  const es = summary.earnedSchedule;
  return [
    [
      {
        name: "BAC",
        to: "?sort=bac",
        hint: "Budget at completion",
        value: money(f.bac, d),
        words: `${percentWords(f.percentComplete)} earned, ${percentWords(f.percentSpent)} spent`,
      },
      {
        name: "PV",
        to: "?sort=pv",
        hint: "Planned value: what should have been done by the data date",
        value: money(f.pv, d),
      },
      { name: "EV", to: "?sort=ev", hint: "Earned value: what has been done, at its budget", value: money(f.ev, d) },
      { name: "AC", to: "?sort=ac", hint: "Actual cost: what was spent on it", value: money(f.ac, d) },
    ],
    [
      {
        name: "SV",
        to: "?sort=sv",
        hint: "Schedule variance, EV − PV",
        value: money(Math.abs(f.sv), d),
        words: varianceWords(f.sv, d, "behind", "ahead").replace(/^\S+ /, ""),
        tone: varianceTone(f.sv),
      },
      {
        name: "SPI",
        to: "?sort=spi",
        hint: "Schedule performance index, EV / PV",
        value: ratioWords(f.spi),
        tone: indexTone(f.spi),
        words: indexWords(f.spi, "behind plan", "ahead of plan"),
      },
      {
        name: "CV",
        to: "?sort=cv",
        hint: "Cost variance, EV − AC",
        value: money(Math.abs(f.cv), d),
        words: varianceWords(f.cv, d, "over", "under").replace(/^\S+ /, ""),
        tone: varianceTone(f.cv),
      },
      {
        name: "CPI",
        to: "?sort=cpi",
        hint: "Cost performance index, EV / AC",
        value: ratioWords(f.cpi),
        tone: indexTone(f.cpi),
        words: indexWords(f.cpi, "costs more than it earns", "earns more than it costs"),
      },
    ],
    [
      {
        name: "EAC",
        to: "?sort=eac",
        hint: "Estimate at completion, BAC / CPI",
        value: money(f.eac, d),
        words: `${money(f.eacRemaining, d)} at plan, ${money(f.eacBottomUp, d)} from what is left`,
      },
      {
        name: "VAC",
        to: "?sort=vac",
        hint: "Variance at completion, BAC − EAC",
        value: f.vac === null ? "–" : money(Math.abs(f.vac), d),
        words: varianceWords(f.vac, d, "over", "under").replace(/^\S+ /, ""),
        tone: varianceTone(f.vac),
      },
      {
        name: "TCPI",
        to: "?sort=bac",
        hint: "To-complete performance index: what the rest must earn for its cost to keep the BAC",
        value: ratioWords(f.tcpiBac),
        words: `${ratioWords(f.tcpiEac)} to keep the EAC`,
      },
      {
        name: "ES",
        to: "performance",
        hint: "Earned schedule: the working day on which what is earned was to be earned (Lipke)",
        value: `${oneDigit(es?.es ?? null)} d`,
        words:
          es?.svt == null ? (
            ""
          ) : (
            <>
              of {oneDigit(es.at)} d,{" "}
              <Toned tone={driftTone(-es.svt)}>
                {oneDigit(es.svt)} d {es.svt < 0 ? "behind" : "ahead"}
              </Toned>
              , SPI(t) {ratioWords(es.spit)}, points to {dateWords(es.forecastFinish)}
            </>
          ),
      },
    ],
  ];
}

function indexWords(value: number | null, adverse: string, favourable: string): string {
  const tone = indexTone(value);
  return value === null ? "not defined" : tone === "adverse" ? adverse : tone === "favourable" ? favourable : "on plan";
}

/** The project's figures, large enough to be read from across the desk. */
export function Instruments({ look }: { look: ProjectLook }) {
  const then = lockedPeriod(look)?.figures ?? null;
  const locked = then === null ? null : readings({ summary: { ...look.summary, figures: then } });
  return (
    <div className="grid grid-cols-1 gap-y-1 md:grid-cols-3 md:gap-x-8">
      {readings(look).map((column, i) => (
        <dl key={i} className="flex flex-col">
          {column.map(({ name, to, hint, value, words, tone = "plain" }, j) => (
            <div key={name} className="flex items-baseline gap-2 border-b rule py-0.5" title={hint}>
              <dt className="muted w-14 shrink-0 text-sm leading-tight">{name}</dt>
              <dd className="figure w-28 shrink-0 text-right text-[17px] leading-tight whitespace-nowrap">
                <Link className="link-quiet" to={to}>
                  <Toned tone={tone}>{value}</Toned>
                </Link>
              </dd>
              <dd className="text-[12.5px] leading-tight">
                <Toned tone={tone}>{words}</Toned>
                {locked !== null && locked[i]![j]!.value !== value && (
                  <span className="undecided"> ({locked[i]![j]!.value} as locked)</span>
                )}
              </dd>
            </div>
          ))}
        </dl>
      ))}
    </div>
  );
}
