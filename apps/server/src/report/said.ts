import type { BodyOf, DraftAspect, IssuedReport, Me, ReportContent } from "@chronometra/contract";
import { ASPECT_WORDS, ASPECTS, type Aspect, type Rating, type Suggested } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { ReportSaidEntity } from "./reportEntities.ts";

/** From what the sides of a report begin: the suggested rating, sentences that are true, and what was said before. */
export interface Beginning {
  readonly suggested: Readonly<Record<Aspect, Suggested>>;
  readonly texts: Readonly<Record<Aspect, string>>;
  readonly last: IssuedReport["content"] | null;
}

type Said = Readonly<Partial<Record<Aspect, { readonly rating: Rating; readonly text: string }>>>;

/** What a report says on each side. */
export const saidIn = (content: ReportContent | null): Said =>
  Object.fromEntries(
    (content?.parts ?? [])
      .filter(({ id }) => id === "ratings" || id === "said")
      .flatMap(({ blocks }) => blocks)
      .flatMap((block) => (block.is === "said" ? [[block.aspect, { rating: block.rating, text: block.text }]] : [])),
  );

/** The sides of the report of a period as they stand. */
export async function aspectsOf(
  manager: DataSource | EntityManager,
  subjectId: string,
  number: number,
  { suggested, texts, last }: Beginning,
): Promise<DraftAspect[]> {
  const rows = await manager.getRepository(ReportSaidEntity).findBy({ subjectId, number });
  const names = rows.length === 0 ? new Map<string, string>() : await accountNames(manager);
  const before = saidIn(last);
  return ASPECTS.map((aspect) => {
    const row = rows.find((each) => each.aspect === aspect);
    return {
      aspect,
      version: row?.version ?? 0,
      suggested: suggested[aspect].rating,
      rules: [...suggested[aspect].rules],
      rating: row?.rating ?? null,
      reason: row?.reason ?? "",
      text: row?.text ?? null,
      begun: texts[aspect],
      last: before[aspect] ?? null,
      by: row === undefined ? null : (names.get(row.saidBy) ?? ""),
      at: row?.saidAt.toISOString() ?? null,
    };
  });
}

/** Which versions the sides of a report have: whether somebody wrote since. */
export const saidVersions = (manager: EntityManager, subjectId: string, number: number): Promise<unknown> =>
  manager.query("select aspect, version from report_said where subject_id = ? and number = ? order by aspect", [
    subjectId,
    number,
  ]);

/**
 * Writes what is said on one side.
 * @throws {Failure} conflict, where someone else wrote it since
 */
export async function writeSaid(
  database: DataSource,
  me: Me,
  { subjectId, number, aspect }: { readonly subjectId: string; readonly number: number; readonly aspect: Aspect },
  { version, rating, reason, text }: BodyOf<"PUT /api/status-reports/:of/said/:aspect">,
): Promise<void> {
  await inTransaction(database, async (manager) => {
    const said = manager.getRepository(ReportSaidEntity);
    const written = { rating, reason, text, version: version + 1, saidBy: me.id, saidAt: new Date() };
    const of = { subjectId, number, aspect };
    // One statement each: of two who write at once, one finds the version that they saw.
    const stored =
      version === 0
        ? await said
            .createQueryBuilder()
            .insert()
            .values({ ...of, ...written })
            .orIgnore()
            .execute()
        : await said.update({ ...of, version }, written);
    const rows = "affected" in stored ? stored.affected : (stored.raw as { affectedRows: number }).affectedRows;
    if (rows === 1) return;
    const known = await said.findOneBy(of);
    const by = (await accountNames(manager)).get(known?.saidBy ?? "") ?? "Someone";
    throw new Failure("conflict", `${by} wrote on "${ASPECT_WORDS[aspect]}" meanwhile.`);
  });
}

/** Why what is said cannot be issued so: a rating that differs from what the limits suggest needs a reason. */
export function faultOf(aspects: readonly DraftAspect[]): string | null {
  const bare = aspects.filter(
    ({ rating, suggested, reason }) => rating !== null && rating !== suggested && reason.trim() === "",
  );
  if (bare.length === 0) return null;
  const named = bare.map(({ aspect }) => ASPECT_WORDS[aspect]).join(", ");
  const [ratings, differ] = bare.length === 1 ? ["rating", "differs"] : ["ratings", "differ"];
  return `Say why the ${ratings} of ${named} ${differ} from what the limits suggest.`;
}
