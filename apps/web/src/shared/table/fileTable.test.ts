import { parse } from "csv-parse/sync";
import type { Column } from "../table/column.ts";
import { tableText } from "../files/tableText.ts";
import { fileTable } from "./fileTable.ts";

interface Row {
  readonly name: string;
  readonly minor: number | null;
  readonly currency: string;
  readonly minorDigits: number;
  readonly minutes: number;
  readonly share: number;
  readonly state: "late" | "kept";
}

const COLUMNS: readonly Column<Row>[] = [
  { id: "name", head: "Name", value: ({ name }) => name },
  { id: "cost", head: "Cost", value: ({ minor }) => minor, money: (row) => row },
  { id: "hours", head: "Work", value: ({ minutes }) => minutes, is: "minutes" },
  { id: "done", head: "Done", value: ({ share }) => share, is: "share" },
  { id: "state", head: "State", value: ({ state }) => ["late", "kept"].indexOf(state), says: ({ state }) => state },
  { id: "drop", head: "Drop it", value: () => null, tool: true },
];
const row = (rest: Partial<Row>): Row => ({
  name: "A",
  minor: 8_714_400,
  currency: "EUR",
  minorDigits: 2,
  minutes: 1128,
  share: 0.188,
  state: "late",
  ...rest,
});

describe("a table in a file", () => {
  it("has whole units with their currency, hours, percent, and words where the screen has words", () => {
    expect(fileTable(COLUMNS, [row({})])).toEqual({
      heads: ["Name", "Cost", "Work (h)", "Done (%)", "State", "Currency"],
      data: [["A", 87_144, 18.8, 18.8, "late", "EUR"]],
    });
  });

  it("takes the digits of each row's own currency: none, two, three", () => {
    const { data } = fileTable(COLUMNS, [
      row({ minor: 5_280_624, currency: "JPY", minorDigits: 0 }),
      row({ minor: 1_125, currency: "KWD", minorDigits: 3 }),
      row({ minor: null }),
    ]);
    expect(data.map(([, cost, , , , currency]) => [cost, currency])).toEqual([
      [5_280_624, "JPY"],
      [1.125, "KWD"],
      [null, "EUR"],
    ]);
  });

  it("shows no rests of how a computer counts", () => {
    expect(fileTable(COLUMNS, [row({ share: 0.07 * 4 })]).data[0]![3]).toBe(28);
  });

  it("has no currency where no amount is shown", () => {
    expect(fileTable(COLUMNS.slice(0, 1), [row({})]).heads).toEqual(["Name"]);
  });

  it("is read back by another reader, and nothing typed is run", () => {
    expect(parse(tableText(fileTable(COLUMNS, [row({ name: '=1+1;"x"\ty' })]), "\t"), { delimiter: "\t" })).toEqual([
      ["Name", "Cost", "Work (h)", "Done (%)", "State", "Currency"],
      ['\'=1+1;"x"\ty', "87144", "18.8", "18.8", "late", "EUR"],
    ]);
  });
});
