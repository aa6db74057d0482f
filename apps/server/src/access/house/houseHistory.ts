import { NOTED, type HouseChange, type HouseHistory, type Noted } from "@chronometra/contract";
import { LessThan, type DataSource } from "typeorm";
import { HouseChangeEntity } from "../../shared/noted/notedEntity.ts";
import { accountNames } from "../accounts.ts";

const AT_ONCE = 200;

interface Asked {
  readonly about: string;
  readonly before: string;
}

/** What was changed of the house, the newest first. */
export async function houseHistory(database: DataSource, { about, before }: Asked): Promise<HouseHistory> {
  const of = NOTED.find((each) => each === about);
  const [rows, names] = await Promise.all([
    database.getRepository(HouseChangeEntity).find({
      where: {
        ...(of === undefined ? {} : { about: of as Noted }),
        ...(/^\d{1,9}$/.test(before) ? { id: LessThan(Number(before)) } : {}),
      },
      order: { id: "DESC" },
      take: AT_ONCE,
    }),
    accountNames(database),
  ]);
  return {
    changes: rows.map(({ id, at, accountId, about: kind, subject, lines }) => ({
      ...{ id, at: at.toISOString(), by: names.get(accountId) ?? "", about: kind, subject },
      lines: JSON.parse(lines) as HouseChange["lines"],
    })),
    older: rows.length < AT_ONCE ? null : rows.at(-1)!.id,
  };
}
