import { createHash } from "node:crypto";
import type { MigrationInterface, QueryRunner } from "typeorm";

interface Row {
  readonly id: string;
  readonly kind: string;
  readonly source: string;
  readonly saidProject: string;
  readonly saidActivity: string;
  readonly saidPerson: string;
  readonly date: string;
  readonly amount: number | null;
  readonly minutes: number | null;
  readonly category: string;
  readonly reference: string;
  readonly note: string;
}

/** What makes a line the same, as it was reckoned when this was made; it stays so, whatever becomes of it later. */
function contentOf(row: Row, system: string): unknown[] {
  const where = [row.saidProject, row.saidActivity, row.saidPerson, row.date];
  return row.reference !== ""
    ? [row.kind, system, "reference", row.reference, ...where]
    : [row.kind, system, "content", ...where, row.amount ?? row.minutes ?? null, row.category, row.note];
}

/** Lines of other systems are known by system and reference, and told apart within it; what is said anew of one corrects it. */
export class Corrections1813000000000 implements MigrationInterface {
  async up(runner: QueryRunner): Promise<void> {
    await runner.query("alter table outside_line add column if not exists corrects varchar(36) null");
    const rows = (await runner.query(
      `select id, kind, source, said_project as saidProject, said_activity as saidActivity, said_person as saidPerson, date, amount, minutes, category, reference, note
       from outside_line where corrects is null order by came_at, id`,
    )) as Row[];
    const files = new Set(
      ((await runner.query("select distinct name from outside_file")) as { name: string }[]).map(({ name }) => name),
    );
    const seen = new Map<string, number>();
    for (const row of rows) {
      const content = contentOf(row, files.has(row.source) ? "file" : row.source);
      const key = JSON.stringify(content);
      const place = (seen.get(key) ?? 0) + 1;
      seen.set(key, place);
      const print = createHash("sha256")
        .update(JSON.stringify([...content, place]))
        .digest("hex");
      await runner.query("update outside_line set fingerprint = ? where id = ?", [print, row.id]);
    }
  }

  async down(runner: QueryRunner): Promise<void> {
    await runner.query("delete from outside_line where corrects is not null");
    await runner.query("alter table outside_line drop column corrects");
  }
}
