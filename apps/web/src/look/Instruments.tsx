import type { ProjectLook } from "@chronometra/contract";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { figureExplained, periods, scheduleExplained, scheduleMeaning } from "../shared/words/figureWords.ts";
import { lockedPeriod } from "../shared/words/sinceLock.ts";
import { Toned } from "../shared/dialogs/Toned.tsx";
import {
  dateWords,
  driftTone,
  indexTone,
  money,
  percentWords,
  ratioWords,
  sideWords,
  varianceTone,
  type Tone,
} from "../shared/words/words.ts";

interface Reading {
  readonly name: string;
  /** What it opens: the activities that it is made of, by that figure; or where it is worked out. */
  readonly to: string;
  readonly hint: string;
  readonly value: string;
  readonly words?: ReactNode;
  readonly tone?: Tone;
}

function readings({ summary }: Pick<ProjectLook, "summary">): Reading[][] {
  const f = summary.figures!;
  const d = summary.minorDigits;
  const es = summary.earnedSchedule;
  return [
    [
      {
        name: "BAC",
        to: "?sort=bac",
        hint: figureExplained("bac", f, d),
        value: money(f.bac, d),
        words: `${percentWords(f.percentComplete)} earned, ${percentWords(f.percentSpent)} spent`,
      },
      {
        name: "PV",
        to: "?sort=pv",
        hint: figureExplained("pv", f, d),
        value: money(f.pv, d),
      },
      { name: "EV", to: "?sort=ev", hint: figureExplained("ev", f, d), value: money(f.ev, d) },
      { name: "AC", to: "?sort=ac", hint: figureExplained("ac", f, d), value: money(f.ac, d) },
    ],
    [
      {
        name: "SV",
        to: "?sort=sv",
        hint: figureExplained("sv", f, d),
        value: money(Math.abs(f.sv), d),
        words: sideWords(f.sv, d, "behind", "ahead"),
        tone: varianceTone(f.sv),
      },
      {
        name: "SPI",
        to: "?sort=spi",
        hint: figureExplained("spi", f, d),
        value: ratioWords(f.spi),
        tone: indexTone(f.spi),
        words: indexWords(f.spi, "behind plan", "ahead of plan"),
      },
      {
        name: "CV",
        to: "?sort=cv",
        hint: figureExplained("cv", f, d),
        value: money(Math.abs(f.cv), d),
        words: sideWords(f.cv, d, "over", "under"),
        tone: varianceTone(f.cv),
      },
      {
        name: "CPI",
        to: "?sort=cpi",
        hint: figureExplained("cpi", f, d),
        value: ratioWords(f.cpi),
        tone: indexTone(f.cpi),
        words: indexWords(f.cpi, "the work done cost more than its budget", "the work done cost less than its budget"),
      },
    ],
    [
      {
        name: "EAC",
        to: "?sort=eac",
        hint: figureExplained("eac", f, d),
        value: money(f.eac, d),
        words: `${money(f.eacRemaining, d)} at plan, ${money(f.eacBottomUp, d)} from what remains`,
      },
      {
        name: "VAC",
        to: "?sort=vac",
        hint: figureExplained("vac", f, d),
        value: f.vac === null ? "–" : money(Math.abs(f.vac), d),
        words: sideWords(f.vac, d, "over", "under"),
        tone: varianceTone(f.vac),
      },
      {
        name: "TCPI",
        to: "?sort=bac",
        hint: figureExplained("tcpiBac", f, d),
        value: ratioWords(f.tcpiBac),
        words: `${ratioWords(f.tcpiEac)} to keep the EAC`,
      },
      {
        name: "ES",
        to: "performance",
        hint: es === null ? scheduleMeaning("es") : `${scheduleExplained("es", es)}; ${scheduleExplained("spit", es)}`,
        value: `${periods(es?.es ?? null)} d`,
        words:
          es?.svt == null ? (
            ""
          ) : (
            <>
              of {periods(es.at)} d,{" "}
              <Toned tone={driftTone(-es.svt)}>
                {periods(Math.abs(es.svt))} d {es.svt < 0 ? "behind" : "ahead"}
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
              <dd className="figure min-w-28 shrink-0 text-right text-[17px] leading-tight whitespace-nowrap">
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
