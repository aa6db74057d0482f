import Papa from "papaparse";

export type Cell = string | number | null;

/** A table as it stands in a file. */
export interface FileTable {
  readonly heads: string[];
  readonly data: Cell[][];
}

/** A table as text: signs and plain numbers; nothing in it is run by a spreadsheet. */
export function tableText({ heads, data }: FileTable, delimiter: string): string {
  return Papa.unparse({ fields: heads, data }, { delimiter, escapeFormulae: /^[=@\t\r]|^[+-](?![\d.,]+$)/ });
}
