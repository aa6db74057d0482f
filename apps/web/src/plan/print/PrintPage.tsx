import { useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { toast } from "../../shared/messages/toast.ts";
import { useProject } from "../../project/useProject.ts";
import { useWord } from "../../project/useWord.ts";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { drawPictures, PICTURE_FORMS, type PictureForm } from "../../shared/charts/pictures.ts";
import { saveFile } from "../../shared/files/saveFile.ts";
import { useAddress } from "../../shared/page/useAddress.ts";
import { countWords } from "../../shared/words/words.ts";
import type { PlanSession } from "../engine/session/planSession.ts";
import type { Sheet } from "../engine/sheet.ts";
import { useChartLook } from "../look/useChartLook.ts";
import { usePlanColumns } from "../grid/columns/usePlanColumns.ts";
import { usePlanSession } from "../engine/session/usePlanSession.ts";
import { layOutPages, PAPERS, type Paper } from "./pages.ts";
import { PageSvg } from "./PageSvg.tsx";

const MOST_WIDE = 8;

function Pages({ sheet, session }: { sheet: Sheet; session: PlanSession }) {
  const look = useProject();
  const [params, put] = useAddress();
  const { columns } = usePlanColumns(sheet.fields, useWord()("parked"));
  const looks = useChartLook(sheet, session);
  const holder = useRef<HTMLDivElement>(null);
  const stopped = useRef(false);
  const [drawn, setDrawn] = useState<number | null>(null);
  const paper = (Object.keys(PAPERS) as Paper[]).find((each) => each === params.get("paper")) ?? "a4";
  const wide = Math.min(MOST_WIDE, Math.max(1, Math.round(Number(params.get("wide") ?? "1")) || 1));
  const pages = useMemo(
    () => layOutPages({ rows: sheet.rows, start: sheet.start, dataDate: sheet.dataDate, paper, wide, columns }),
    [sheet, paper, wide, columns],
  );
  const tables = 1 + pages.filter(({ down, scale }) => down === 0 && scale === null).length;
  const set = (name: string, value: string): void => put({ [name]: value });
  const save = async (form: PictureForm): Promise<void> => {
    stopped.current = false;
    setDrawn(0);
    try {
      const svgs = [...holder.current!.querySelectorAll<SVGSVGElement>("svg.print-sheet")];
      const pictures = await drawPictures(svgs, `${look.code.replace(/[^\w.-]+/g, "-")}-plan`, form, (done) => {
        setDrawn(done);
        return !stopped.current;
      });
      if (pictures !== null) saveFile(pictures.name, pictures.data, pictures.type);
    } catch (error) {
      toast.error((error as Error).message);
    }
    setDrawn(null);
  };
  const back = new URLSearchParams([...params].filter(([name]) => name !== "paper" && name !== "wide"));
  return (
    <div className="print-root">
      <style>{`@page { size: ${PAPERS[paper].css}; margin: 10mm; @bottom-right { content: none; } }`}</style>
      <div
        role="toolbar"
        aria-label="Print"
        className="print-hidden sticky top-0 z-10 flex flex-wrap items-center gap-3 border-b rule bg-base-100 px-5 py-1.5 text-sm"
      >
        <Link
          className="btn btn-ghost btn-sm"
          to={`/projects/${look.id}/plan${back.size > 0 ? `?${back.toString()}` : ""}`}
        >
          Back to the plan
        </Link>
        <label className="flex items-center gap-2">
          Paper
          <select
            className="select select-xs w-24"
            value={paper}
            onChange={(event) => set("paper", event.target.value)}
          >
            {(Object.keys(PAPERS) as Paper[]).map((each) => (
              <option key={each} value={each}>
                {PAPERS[each].name}
              </option>
            ))}
          </select>
        </label>
        <label className="flex items-center gap-2">
          Time over{" "}
          <input
            type="number"
            className="input input-sm h-6 w-16"
            min={1}
            max={MOST_WIDE}
            value={wide}
            onChange={(event) => set("wide", event.target.value)}
          />{" "}
          pages across
        </label>
        <span className="muted">
          {countWords(pages.length, "page", "pages")}; the columns are those of the plan
          {tables > 1 && `, over ${tables} pages`}
        </span>
        <button type="button" className="btn btn-primary btn-sm" onClick={() => print()}>
          Print
        </button>
        {drawn === null ? (
          (Object.keys(PICTURE_FORMS) as PictureForm[]).map((form) => (
            <button key={form} type="button" className="btn btn-sm" onClick={() => void save(form)}>
              Save as {form.toUpperCase()}
            </button>
          ))
        ) : (
          <span className="flex items-center gap-2">
            <progress
              className="h-2 w-32 accent-accent"
              max={pages.length}
              value={drawn}
              aria-label="Drawing the pictures"
            />{" "}
            {drawn} of {pages.length}{" "}
            <button type="button" className="btn btn-sm" onClick={() => (stopped.current = true)}>
              Cancel
            </button>
          </span>
        )}
      </div>
      <div ref={holder} data-theme="enamel" className="print-pages flex flex-col items-center gap-4 bg-base-200 p-4">
        {pages.map((page, i) => (
          <PageSvg
            key={`${page.down}-${page.across}`}
            page={page}
            number={i + 1}
            count={pages.length}
            paper={paper}
            title={`${look.code} ${look.name}`}
            sheet={sheet}
            columns={columns}
            look={looks.look}
          />
        ))}
      </div>
    </div>
  );
}

/** The plan on paper, over as many pages as it needs: to be printed, or saved as pictures. */
export function PrintPage() {
  const opened = usePlanSession(useProject().id);
  if (opened?.state.sheet == null)
    return opened?.state.failure == null ? (
      <p className="page muted" role="status">
        Loading the plan …
      </p>
    ) : (
      <div className="page">
        <Failure error={opened.state.failure} onAgain={() => void opened.session.open()} />
      </div>
    );
  return <Pages sheet={opened.state.sheet} session={opened.session} />;
}
