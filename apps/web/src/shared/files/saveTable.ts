import { tableText, type FileTable } from "./tableText.ts";
import { FILE_TYPES, fileName, saveFile, type FileForm } from "./saveFile.ts";

/** As which files a table is kept. */
export const TABLE_FORMS = ["xlsx", "csv"] as const satisfies readonly FileForm[];

/** Hands a table to the browser as a file of that kind, named after what it holds. */
export async function saveTable(name: string, form: FileForm, table: FileTable): Promise<void> {
  // What writes workbooks is fetched once it is wanted.
  const content =
    form === "xlsx" ? await (await import("./workbook.ts")).workbookOf(name, table) : `\uFEFF${tableText(table, ",")}`;
  saveFile(fileName(name, form), content, FILE_TYPES[form]);
}
