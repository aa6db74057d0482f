/** @jest-environment jsdom */
import { act, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useRef, useState } from "react";
import { PlanEngine } from "../engine/planEngine.ts";
import { patched } from "../engine/sheetPatch.ts";
import type { Sheet } from "../engine/sheet.ts";
import { slipway, viewOf } from "../testing/plans.ts";
import { show } from "../../testing/fakePage.tsx";
import { SheetCell } from "./cells/SheetCell.tsx";
import { SHEET_COLUMNS } from "./columns/sheetColumns.ts";
import { useGrid } from "./cells/useGrid.ts";

const NAME = SHEET_COLUMNS[0]!;
const SHEET: Sheet = patched(null, new PlanEngine().open(viewOf(slipway())));
const nothing = (): void => undefined;

interface Handle {
  hold: ReturnType<typeof useGrid>["hold"];
  /** Takes a row out as someone else does. */
  remove: (id: string) => void;
}

/** The plan's rows with their names alone, and a grid over them that takes what is typed. */
function Names({
  handle,
  taken,
  refuse,
}: {
  handle: { current: Handle | null };
  taken: string[];
  refuse?: string | undefined;
}) {
  const [names, setNames] = useState<Record<string, string>>({});
  const [gone, setGone] = useState<string | null>(null);
  const rows = SHEET.rows.filter(({ id }) => id !== gone).map((row) => ({ ...row, name: names[row.id] ?? row.name }));
  const source = useRef(SHEET);
  const grid = useGrid({
    rows,
    standsFor: () => null,
    gone: new Map(),
    columns: [NAME],
    page: 5,
    mayEdit: true,
    textAt: (row) => row.name,
    onCommit: (row, _column, text) => {
      if (text === refuse) return "That cannot be.";
      taken.push(`${row.id}: ${text}`);
      setNames((former) => ({ ...former, [row.id]: text }));
      return null;
    },
    onCommand: () => false,
    onPastEnd: nothing,
    onFreshLeft: nothing,
  });
  handle.current = { hold: grid.hold, remove: setGone };
  return (
    <div
      role="treegrid"
      onKeyDown={grid.onKey}
      onKeyDownCapture={grid.onKeyCapture}
      onFocus={grid.onFocus}
      onBlur={grid.onBlur}
    >
      {rows.map((row, index) => (
        <SheetCell
          key={row.id}
          row={row}
          column={NAME}
          source={source}
          minorDigits={2}
          width={200}
          index={0}
          active={grid.cursor.row === index}
          chosen={false}
          editing={grid.state.typing?.id === row.id ? grid.state.typing : null}
          refused={grid.state.refused.find(({ id }) => id === row.id) ?? null}
          folded={null}
          holdsFocus={grid.holdsFocus}
          onFocus={(extend) => grid.press({ id: row.id, column: 0, extend, twice: false })}
          onBegin={() => grid.press({ id: row.id, column: 0, extend: false, twice: true })}
          onFold={nothing}
          onText={grid.setText}
          onLeave={grid.leave}
          onEditKey={grid.onEditKey}
        />
      ))}
    </div>
  );
}

/** Begins to work in the first row's name. */
async function atWork(refuse?: string) {
  const handle: { current: Handle | null } = { current: null };
  const taken: string[] = [];
  show(<Names handle={handle} taken={taken} refuse={refuse} />);
  const user = userEvent.setup();
  await user.click(screen.getAllByRole("rowheader")[0]!);
  return { handle, taken, user };
}

/** Keeps a row on its way until it is let go. */
function onItsWay(handle: { current: Handle | null }): () => Promise<void> {
  let arrive = nothing;
  const held = handle.current!.hold(() => new Promise<void>((resolve) => (arrive = resolve)));
  return async () =>
    act(async () => {
      arrive();
      await held;
    });
}

describe("typing while a row is on its way", () => {
  it("goes on behind a text that was reached by keys that waited, and not over it", async () => {
    const { handle, taken, user } = await atWork();
    const arrive = onItsWay(handle);
    await user.keyboard("{F2}{End}");
    expect(screen.queryByRole("textbox")).toBeNull();
    await arrive();
    await user.keyboard("!{Enter}");
    expect(taken).toEqual([`${SHEET.rows[0]!.id}: ${SHEET.rows[0]!.name}!`]);
  });

  it("takes all of what was typed meanwhile, in its order", async () => {
    const { handle, taken, user } = await atWork();
    const arrive = onItsWay(handle);
    await user.keyboard("First{Enter}Sec");
    await arrive();
    await user.keyboard("ond{Enter}");
    expect(taken).toEqual([`${SHEET.rows[0]!.id}: First`, `${SHEET.rows[1]!.id}: Second`]);
  });

  it("a press on another cell waits for its turn, and what was typed before it stays where it was meant", async () => {
    const { handle, taken, user } = await atWork();
    const arrive = onItsWay(handle);
    await user.keyboard("First");
    await user.click(screen.getAllByRole("rowheader")[3]!);
    await user.keyboard("Fourth{Enter}");
    await arrive();
    expect(taken).toEqual([`${SHEET.rows[0]!.id}: First`, `${SHEET.rows[3]!.id}: Fourth`]);
  });

  it("a press on a row that someone else removed meanwhile leads nothing typed after it into another row", async () => {
    const { handle, taken, user } = await atWork();
    const arrive = onItsWay(handle);
    await user.click(screen.getAllByRole("rowheader")[3]!);
    await user.keyboard("Fourth{Enter}");
    act(() => handle.current!.remove(SHEET.rows[3]!.id));
    await arrive();
    expect(taken).toEqual([]);
  });

  it("types over what stood there where nothing came between", async () => {
    const { handle, taken, user } = await atWork();
    const arrive = onItsWay(handle);
    await user.keyboard("{F2}");
    await arrive();
    await user.keyboard("New{Enter}");
    expect(taken).toEqual([`${SHEET.rows[0]!.id}: New`]);
  });
});

describe("what is refused", () => {
  it("stays in its field with why, until it is mended", async () => {
    const { taken, user } = await atWork("bad");
    await user.keyboard("bad{Enter}");
    expect(screen.getByRole("alert").textContent).toBe("That cannot be.");
    expect(screen.getByRole<HTMLInputElement>("textbox").value).toBe("bad");
    await user.keyboard(" no more{Enter}");
    expect(taken).toEqual([`${SHEET.rows[0]!.id}: bad no more`]);
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("stays in its own cell, marked, when the pointer goes elsewhere, and is given up by Escape", async () => {
    const { taken, user } = await atWork("bad");
    await user.keyboard("bad{Enter}");
    await user.click(screen.getAllByRole("rowheader")[2]!);
    expect(screen.getAllByRole("rowheader")[0]!.textContent).toBe("bad: That cannot be.");
    await user.keyboard("{ArrowUp}{ArrowUp}{Escape}");
    expect(screen.getAllByRole("rowheader")[0]!.textContent).toBe(SHEET.rows[0]!.name);
    expect(taken).toEqual([]);
  });
});
