import { dateWords, dayWords } from "@chronometra/core";
import type { Me, Summary } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import type { CalendarDay } from "./calendarText.ts";
import { seenSql } from "../../project/reach.ts";

/** Every deadline that someone sees and that is not met yet, on its day, with how it stands in words. */
export async function deadlineDays(database: DataSource, me: Me): Promise<CalendarDay[]> {
  const seen = seenSql(me, "p");
  const rows = (await database.query(
    `select p.id, p.code, json_value(p.head, '$.name') as name, f.summary from project p join figures f on f.project_id = p.id and f.revision = p.revision where ${seen.sql} order by p.code`,
    [...seen.values],
  )) as { id: string; code: string; name: string; summary: string }[];
  return rows.flatMap(({ id, code, name, summary }) =>
    (JSON.parse(summary) as Summary).deadlines.flatMap((line): CalendarDay[] => {
      if (line.marginDays === null || line.state === "metOnTime" || line.state === "metLate") return [];
      return [
        {
          id: `deadline-${id}-${line.id}`,
          from: line.deadline,
          to: line.deadline,
          title: line.name,
          path: `/projects/${id}/plan?at=${encodeURIComponent(line.id)}`,
          words: `${code} ${name}. Forecast ${dateWords(line.finish)}, ${dayWords(Math.abs(line.marginDays))} ${line.marginDays < 0 ? "short" : "in hand"}.`,
        },
      ];
    }),
  );
}
