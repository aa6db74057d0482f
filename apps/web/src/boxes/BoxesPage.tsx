import type { BoxedRow, Boxes, PlanView } from "@chronometra/contract";
import { boxAfter, placedIn, type Plan, type Timebox } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useHeardAnew } from "../plan/engine/news/useHeardAnew.ts";
import { planValue } from "../plan/engine/planValue.ts";
import { useProject } from "../project/useProject.ts";
import { planQuery } from "../resources/stored/queries.ts";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { Foldable } from "../shared/page/Foldable.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { countWords } from "../shared/words/words.ts";
import { BoxCarrying } from "./BoxCarrying.tsx";
import { BoxDialog } from "./asked/BoxDialog.tsx";
import { BoxPart, keptIn, Lines } from "./BoxPart.tsx";
import { PutDialog } from "./asked/PutDialog.tsx";
import { boxesQuery } from "./queries.ts";
import { SeriesDialog } from "./asked/SeriesDialog.tsx";
import { boxesAskedIn, shownBoxes, type BoxesAsked, type ShownBox } from "./standing.ts";
import { useBoxActs } from "./useBoxActs.ts";
import { useLines } from "./useLines.ts";
import { WordsField } from "../shared/page/WordsField.tsx";

/** What stands before the page: nothing, or a question. */
type Open =
  | { readonly what: "series" }
  | { readonly what: "box"; readonly box: Timebox }
  | {
      readonly what: "put";
      readonly title: string;
      readonly rows: readonly BoxedRow[];
      readonly to: string | null;
      readonly first: boolean;
    };

interface WorkProps {
  readonly view: PlanView;
  readonly told: Boxes;
}

const unfinished = (rows: readonly BoxedRow[]): BoxedRow[] =>
  rows.filter(({ state, parked }) => state !== "complete" && !parked);

interface FiltersProps {
  readonly told: Boxes;
  readonly asked: BoxesAsked;
  readonly put: ReturnType<typeof useAddress>[1];
}

/** Which branch is shown, and what of what waits. */
function Filters({ told, asked, put }: FiltersProps) {
  return (
    <>
      <WordsField
        label="Words in the name or the branch of what waits"
        value={asked.words}
        onWords={(words) => put({ words })}
      />
      <select
        className="select select-sm w-52"
        aria-label="Of which branch"
        value={asked.branch}
        onChange={({ target }) => put({ branch: target.value })}
      >
        <option value="">the whole project</option>
        {told.branches.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </>
  );
}

interface ToolsProps {
  readonly shown: ShownBox;
  readonly plan: Plan;
  readonly today: string;
  readonly ask: (open: Open) => void;
}

/** What can be done with a timebox. */
function BoxTools({ shown: { box, rows }, plan, today, ask }: ToolsProps) {
  const left = unfinished(rows);
  const moveOn = (): void =>
    ask({
      ...{ what: "put", title: `Move on what is not done in ${box.name}`, rows: left, first: true },
      to: boxAfter(plan, box)?.id ?? null,
    });
  return (
    <>
      {box.first <= today && left.length > 0 && (
        <button type="button" className="btn btn-ghost btn-xs min-h-[24px]" onClick={moveOn}>
          Move on {left.length} not done
        </button>
      )}
      <button
        type="button"
        className="btn btn-ghost btn-xs min-h-[24px]"
        aria-label={`Name and days of ${box.name}`}
        onClick={() => ask({ what: "box", box })}
      >
        Name and days
      </button>
    </>
  );
}

/** How many lines are selected, and what can be done with them. */
function Ticked({ count, onPut, onNone }: { count: number; onPut: () => void; onNone: () => void }) {
  if (count === 0) return null;
  return (
    <div className="sticky top-0 z-10 flex items-center gap-3 border rule bg-base-200 px-3 py-1 text-sm">
      {countWords(count, "activity is", "activities are")} selected
      <button type="button" className="btn btn-sm" onClick={onPut}>
        Put them elsewhere
      </button>
      <button type="button" className="btn btn-ghost btn-sm" onClick={onNone}>
        Select none
      </button>
    </div>
  );
}

/** The minutes that the widest timebox holds or has people for. */
const widestOf = (boxes: readonly ShownBox[]): number =>
  Math.max(
    1,
    ...boxes.map(({ counted }) =>
      counted === null ? 0 : Math.max(counted.capacityMinutes, counted.bookedMinutes + counted.leftMinutes),
    ),
  );

const idsOf = (rows: readonly BoxedRow[]): string[] => rows.map(({ id }) => id);

/** The page's timeboxes and what waits, and all that is done with them. */
function useBoxes({ view, told }: WorkProps, asked: BoxesAsked) {
  const stored = useMemo(() => planValue(view), [view]);
  const { plan, isSaving, act } = useBoxActs(view.id, stored);
  const { boxes, waiting } = shownBoxes(plan, told, asked);
  const rowOf = new Map([...waiting, ...boxes.flatMap(({ rows }) => rows)].map((row) => [row.id, row]));
  const putOne = (id: string, box: string | null, before: string | null): void => {
    const into = box === null ? "waits" : `stands in ${plan.timeboxes.get(box)?.name ?? ""}`;
    act({
      words: `“${rowOf.get(id)?.name ?? ""}” ${into}.`,
      changesOf: (at) => (at.activities.has(id) ? placedIn(at, [id], box, before) : []),
    });
  };
  const sections = [
    ...boxes.map(({ box, rows }) => ({ box: box.id, ids: idsOf(rows) })),
    { box: null, ids: idsOf(waiting) },
  ];
  const { chosen, chooseNone, keep, ...handlers } = useLines(sections, putOne);
  const chosenRows = [...chosen].flatMap((id) => rowOf.get(id) ?? []);
  return { stored, plan, isSaving, act, boxes, waiting, putOne, chosen, chooseNone, keep, chosenRows, handlers };
}

const NOTHING_WAITS = "Nothing waits: all that is not finished stands in a timebox.";

function Work({ view, told }: WorkProps) {
  const [params, putAddress] = useAddress();
  const asked = boxesAskedIn(params);
  const page = useBoxes({ view, told }, asked);
  const { plan, boxes, waiting, chosen, chosenRows } = page;
  const [open, setOpen] = useState<Open | null>(null);
  const { today, mayEdit } = told;
  const live = boxes.filter(({ box }) => box.last >= today);
  const over = boxes.filter(({ box }) => box.last < today);
  const putMany = (rows: readonly BoxedRow[], to: string | null): void => {
    const title = `Put ${countWords(rows.length, "activity", "activities")} elsewhere`;
    setOpen({ what: "put", title, rows, to, first: false });
  };
  const lines = { ...page.handlers, chosen, mayEdit };
  const part = (shown: ShownBox) => (
    <BoxPart key={shown.box.id} {...lines} shown={shown} today={today} widest={widestOf(boxes)}>
      {mayEdit && <BoxTools shown={shown} plan={plan} today={today} ask={setOpen} />}
    </BoxPart>
  );
  return (
    <div className="page">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-3 text-sm">
        {mayEdit && (
          <button type="button" className="btn btn-sm" onClick={() => setOpen({ what: "series" })}>
            Make a series
          </button>
        )}
        <Filters told={told} asked={asked} put={putAddress} />
        <span className="muted" role="status">
          {page.isSaving ? "Saving …" : ""}
        </span>
      </div>
      <p id="boxes-keys" className={mayEdit && boxes.length > 0 ? "muted pb-2 text-sm max-sm:hidden" : "hidden"}>
        Drag a line by its grip, or hold Alt and press an arrow key at its checkbox: it goes up or down, into the next
        timebox too. Select several to put them elsewhere at once.
      </p>
      <Ticked
        count={chosenRows.length}
        onPut={() => putMany(chosenRows, live[0]?.box.id ?? null)}
        onNone={page.chooseNone}
      />
      <BoxCarrying
        onCarry={page.keep}
        onPut={({ id, box, before }) =>
          chosen.has(id) && chosen.size > 1 ? putMany(chosenRows, box) : page.putOne(id, box, before)
        }
      >
        <div className="grid gap-x-8 lg:grid-cols-[3fr_2fr]">
          <div className="min-w-0">
            {over.length > 0 && (
              <Foldable
                name={countWords(over.length, "timebox that is over", "timeboxes that are over")}
                place="boxes-over"
                foldedAtFirst
              >
                {over.map(part)}
              </Foldable>
            )}
            {boxes.length === 0 && (
              <p className="muted pb-4">
                No timeboxes yet{mayEdit ? ": make a series, then drag what waits into the first." : "."}
              </p>
            )}
            {live.map(part)}
          </div>
          <section aria-label="Waits" className="min-w-0">
            <div className="border-b-2 border-current">
              <h2 className="text-base">
                Waits <span className="muted font-sans text-sm">{waiting.length}</span>
              </h2>
            </div>
            <Lines
              {...lines}
              box={null}
              rows={waiting}
              keeps={keptIn(waiting, lines.keeps)}
              empty={asked.words === "" && asked.branch === "" ? NOTHING_WAITS : "Nothing that waits is so."}
            />
          </section>
        </div>
      </BoxCarrying>
      <Question open={open} close={() => setOpen(null)} view={view} told={told} page={page} />
    </div>
  );
}

interface QuestionProps extends WorkProps {
  readonly open: Open | null;
  readonly close: () => void;
  readonly page: ReturnType<typeof useBoxes>;
}

/** What is asked before something is done. */
function Question({ open, close, view, told, page }: QuestionProps) {
  const asking = { project: view.id, revision: view.revision, plan: page.stored, onAct: page.act, onClose: close };
  switch (open?.what) {
    case "series":
      return <SeriesDialog {...asking} told={told} />;
    case "box":
      return <BoxDialog {...asking} box={open.box} />;
    case "put":
      return (
        <PutDialog
          {...asking}
          {...open}
          boxes={page.boxes.map(({ box }) => box)}
          onAct={(act) => {
            page.act(act);
            page.chooseNone();
          }}
        />
      );
    default:
      return null;
  }
}

/** A project worked by timeboxes: what stands in each, against the hours of its people, and what waits. */
export function BoxesPage() {
  const { id } = useProject();
  const [plan, boxes] = [useQuery(planQuery(id)), useQuery(boxesQuery(id))];
  useHeardAnew(id, plan.data?.revision ?? Infinity);
  return (
    <Loaded query={boxes}>
      {(told) => <Loaded query={plan}>{(view) => <Work view={view} told={told} />}</Loaded>}
    </Loaded>
  );
}
