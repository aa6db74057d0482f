import type { ReportBlock, ReportContent, ReportPart, ReportTone } from "@chronometra/contract";
import { drawCurve, drawTrend } from "@chronometra/core";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { RATING_TONES } from "../portfolio/SaysDialog.tsx";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { dateWords } from "../shared/words/words.ts";
import { Drawn } from "./Drawn.tsx";

/** What is read opens the rows behind it while it is live; once issued it says what was, and opens nothing. */
function Opens({ to, isLive, children }: { to: string | undefined; isLive: boolean; children: ReactNode }) {
  return isLive && to !== undefined ? (
    <Link className="link-quiet" to={to}>
      {children}
    </Link>
  ) : (
    <>{children}</>
  );
}

const toneOf = (tone: ReportTone | undefined) => tone ?? "plain";

interface OfBlock<K extends ReportBlock["is"]> {
  readonly block: Extract<ReportBlock, { is: K }>;
  readonly isLive: boolean;
}

const Figures = ({ block, isLive }: OfBlock<"figures">) => (
  <dl className="grid grid-cols-[repeat(auto-fill,minmax(10.5rem,1fr))] gap-x-4 gap-y-2">
    {block.items.map(({ name, value, change, tone, link }) => (
      <div key={name} className="border-t rule pt-0.5">
        <dt className="muted text-sm">{name}</dt>
        <dd>
          <span className="figure text-lg">
            <Opens to={link} isLive={isLive}>
              <Toned tone={toneOf(tone)} marked>
                {value.text}
              </Toned>
            </Opens>
          </span>
          {change !== "" && <span className="muted block text-sm">{change}</span>}
        </dd>
      </div>
    ))}
  </dl>
);

const Table = ({ block: { caption, columns, rows, none }, isLive }: OfBlock<"table">) => (
  <div className="max-w-full overflow-x-auto">
    {caption !== undefined && <h3 className="mt-2 font-sans text-[15px] font-semibold">{caption}</h3>}
    {rows.length === 0 ? (
      none !== "" && <p className="muted">{none}</p>
    ) : (
      <table className="ledger panel-table w-full" aria-label={caption ?? columns[0]!.name}>
        <thead>
          <tr>
            {columns.map(({ name, number }) => (
              <th key={name} className={number ? "num" : ""}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ cells, tone, link }, i) => (
            <tr key={i}>
              {cells.map(({ text }, place) => (
                <td key={place} className={columns[place]?.number === true ? "num whitespace-nowrap" : ""}>
                  {place > 0 ? (
                    text
                  ) : (
                    <Opens to={link} isLive={isLive}>
                      <Toned tone={toneOf(tone)} marked>
                        {text}
                      </Toned>
                    </Opens>
                  )}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    )}
  </div>
);

const Lines = ({ block: { items, none }, isLive }: OfBlock<"lines">) =>
  items.length === 0 ? (
    none !== "" && <p className="muted">{none}</p>
  ) : (
    <ul>
      {items.map(({ text, tone, link }, i) => (
        <li key={i} className="py-0.5">
          <Opens to={link} isLive={isLive}>
            <Toned tone={toneOf(tone)} marked>
              {text}
            </Toned>
          </Opens>
        </li>
      ))}
    </ul>
  );

const Said = ({ block: { name, rating, words, why, text } }: OfBlock<"said">) => (
  <div className="py-1">
    <h3 className="font-sans text-[15px]">
      <span className="font-semibold">{name}</span>{" "}
      <Toned tone={RATING_TONES[rating]} marked>
        {words}
      </Toned>{" "}
      <span className="muted text-sm font-normal">{why}</span>
    </h3>
    <p className="max-w-3xl whitespace-pre-line">{text}</p>
  </div>
);

function Block({ block, isLive }: { block: ReportBlock; isLive: boolean }) {
  switch (block.is) {
    case "figures":
      return <Figures block={block} isLive={isLive} />;
    case "table":
      return <Table block={block} isLive={isLive} />;
    case "lines":
      return <Lines block={block} isLive={isLive} />;
    case "said":
      return <Said block={block} isLive={isLive} />;
    case "curve":
      return <Drawn drawing={drawCurve(block)} name="Planned value, earned value and actual cost over time" />;
    case "trend":
      return <Drawn drawing={drawTrend(block)} name="Forecasts of the milestones, report by report" />;
  }
}

const Part = ({ part: { id, title, level, blocks }, isLive }: { part: ReportPart; isLive: boolean }) => (
  <section aria-labelledby={`part-${id}`} className={level === 1 ? "mt-5" : "mt-3"}>
    <h2 id={`part-${id}`} className={level === 1 ? "text-xl" : "text-base"}>
      {title}
    </h2>
    {blocks.map((block, i) => (
      <Block key={i} block={block} isLive={isLive} />
    ))}
  </section>
);

/** The projects of a group's report, to go to. */
const Contents = ({ parts }: Pick<ReportContent, "parts">) => (
  <nav aria-label="Contents" className="mt-3 text-sm">
    <ul className="columns-2 gap-6 md:columns-3">
      {parts
        .filter(({ level }) => level === 1)
        .map(({ id, title }) => (
          <li key={id}>
            <a className="link-quiet" href={`#part-${id}`}>
              {title}
            </a>
          </li>
        ))}
    </ul>
  </nav>
);

/** A report as it is read, on the page as on paper. */
export function ReportPaper({ content, isLive }: { content: ReportContent; isLive: boolean }) {
  const { organisation, title, under, manager, period, dataDate, parts, of } = content;
  return (
    <article className="max-w-4xl" aria-label={`Report of period ${period}: ${title}`}>
      <header>
        <p className="muted text-sm">{organisation}</p>
        <h1 className="text-2xl">{title}</h1>
        <p className="muted text-sm">
          {under} · report of period {period}, data date {dateWords(dataDate)}
          {manager !== "" && ` · manager ${manager}`}
          {isLive && " · draft, not issued"}
        </p>
      </header>
      {of === "group" && <Contents parts={parts} />}
      {parts.map((part) => (
        <Part key={part.id} part={part} isLive={isLive} />
      ))}
    </article>
  );
}
