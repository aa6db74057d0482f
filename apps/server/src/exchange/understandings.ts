import { randomUUID } from "node:crypto";
import type { ImportAnswers, ImportView, Me, ResponseOf } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { orNotFound } from "../shared/failure.ts";
import { UnderstandingEntity } from "./importEntities.ts";

type Kept = ResponseOf<"GET /api/understandings">;

/** How files were understood before, by name. */
export async function keptUnderstandings(database: DataSource): Promise<Kept> {
  const rows = await database.getRepository(UnderstandingEntity).find({ order: { name: "ASC" } });
  const names = await accountNames(database);
  return rows.map(({ id, name, keptBy, keptAt }) => ({
    id,
    name,
    by: names.get(keptBy) ?? "",
    at: keptAt.toISOString(),
  }));
}

/** What of the answers to one file serves the next: not its single cells and rows, nor which project it is. */
function forTheNext(
  { project, changesTo: _changesTo, sheets, ...rest }: ImportAnswers,
  view: ImportView,
): ImportAnswers {
  // What was matched without being asked is kept as well: the next file is to be read as this one was.
  const kept = view.sheets.map(({ name, table, headings }) => {
    const { alike, fixed } = sheets?.[name] ?? {};
    const columns = Object.fromEntries(headings.map(({ heading, column }) => [heading, column ?? ""]));
    return [
      name,
      {
        table: table ?? "",
        columns,
        ...(alike === undefined ? {} : { alike }),
        ...(fixed === undefined ? {} : { fixed }),
      },
    ] as const;
  });
  const { currency, calendar } = project ?? {};
  const head = {
    ...(currency === undefined ? {} : { currency }),
    ...(calendar === undefined ? {} : { calendar }),
  };
  return {
    ...rest,
    ...(kept.length === 0 ? {} : { sheets: Object.fromEntries(kept) }),
    ...(Object.keys(head).length === 0 ? {} : { project: head }),
  };
}

/** Keeps how a file was understood; what was kept under the name is replaced. */
export async function keepUnderstanding(database: DataSource, me: Me, view: ImportView, name: string): Promise<Kept> {
  const rows = database.getRepository(UnderstandingEntity);
  const id = (await rows.findOneBy({ name }))?.id ?? randomUUID();
  const answers = JSON.stringify(forTheNext(view.answers, view));
  await rows.upsert({ id, name, answers, keptBy: me.id, keptAt: new Date() }, ["name"]);
  return keptUnderstandings(database);
}

export async function dropUnderstanding(database: DataSource, id: string): Promise<void> {
  await database.getRepository(UnderstandingEntity).delete({ id });
}

/**
 * The answers to a file that is to be understood as another was. Sheets are the same by their names; where a file has
 * one sheet, and what was kept one, they are the same whatever they are called.
 */
export async function answersAs(database: DataSource, id: string, view: ImportView): Promise<ImportAnswers> {
  const kept = orNotFound(
    await database.getRepository(UnderstandingEntity).findOneBy({ id }),
    "understanding of that name",
  );
  const { sheets = {}, project, ...rest } = JSON.parse(kept.answers) as ImportAnswers;
  const names = view.sheets.map(({ name }) => name);
  const taken = Object.entries(sheets).filter(([, { table }]) => table !== "");
  const plans = view.sheets.filter(({ table }) => table !== null);
  const renamed =
    taken.length === 1 && plans.length === 1 && !names.includes(taken[0]![0])
      ? { [plans[0]!.name]: taken[0]![1] }
      : Object.fromEntries(Object.entries(sheets).filter(([name]) => names.includes(name)));
  return {
    ...view.answers,
    ...rest,
    people: { ...rest.people, ...view.answers.people },
    sheets: { ...renamed, ...view.answers.sheets },
    project: { ...project, ...view.answers.project },
  };
}
