import type { LockedFigures, Portfolio, ProjectField, ProjectState } from "@chronometra/contract";
import {
  DEFAULT_THRESHOLDS,
  stageAt,
  thresholdsSchema,
  type Exchange,
  type OwnValue,
  type QualityLimits,
  type Thresholds,
} from "@chronometra/core";
import type { DataSource } from "typeorm";
import { EXCHANGE, readExchange } from "./exchange.ts";
import { QUALITY_LIMITS, readLimits } from "../cycle/limits/qualityLimits.ts";

/** What the portfolio page shows besides the figures kept of each project. */
export interface PortfolioFacts {
  readonly organisation: string;
  readonly thresholds: Thresholds;
  readonly qualityLimits: QualityLimits;
  readonly exchange: Exchange | null;
  readonly period: { readonly number: number; readonly fromDate: string; readonly dataDate: string } | null;
  /** Who has reported in the open period, as `project\0person`. */
  readonly reporters: ReadonlySet<string>;
  readonly names: ReadonlyMap<string, string>;
  readonly programmes: Portfolio["programmes"];
  readonly fields: ProjectField[];
  /** What people of the register are called whom values name. */
  readonly registered: ReadonlyMap<string, string>;
  readonly values: ReadonlyMap<string, Record<string, OwnValue>>;
  readonly says: ReadonlyMap<string, { rating: "well" | "care" | "trouble"; note: string; saidBy: string; at: string }>;
  readonly waiting: ReadonlyMap<string, number>;
  readonly closed: ReadonlySet<string>;
  /** How projects stand as such, of those that are not simply running. */
  readonly states: ReadonlyMap<string, ProjectState>;
  /** The stage that projects are in, of those that live by a life cycle. */
  readonly stages: ReadonlyMap<string, string>;
  /** The period last issued whose issue was not withdrawn by opening it again, and the drift it said; and the last one before the open period. */
  readonly issued: ReadonlyMap<string, { number: number; drift: number | null }>;
  readonly compared: ReadonlyMap<string, { number: number; drift: number | null }>;
  /** What the newest locked period says. */
  readonly locked: ReadonlyMap<string, LockedFigures>;
}

/**
 * All facts in one statement, a kind a row: a dozen small questions one after another would take longer than the page's
 * figures. The bench reads the same rows with it.
 */
export const FACTS_SQL = `
  with open_period as (select number, from_date, data_date from reporting_period order by number desc limit 1)
  select 'period' as kind, number as a, from_date as b, data_date as c, null as d, null as e from open_period
  union all select 'setting', name, value, null, null, null from setting where name in ('organisation', 'thresholds', 'qualityLimits', 'exchange')
  union all select 'name', id, name, null, null, null from account
  union all select 'programme', id, name, parent_id, position, thresholds from programme
  union all select 'field', id, definition, position, null, null from project_field
  union all select 'value', project_id, field_id, value, null, null from project_value
  union all select distinct 'registered', r.row_key, json_value(r.doc, '$.name'), null, null, null
    from project_field f join project_value v on v.field_id = f.id join register_row r on r.table_name = 'people' and r.row_key = json_value(v.value, '$')
    where json_value(f.definition, '$.type') = 'person'
  union all select 'says', project_id, rating, note, said_by, date_format(said_at, '%Y-%m-%dT%H:%i:%s.000Z') from project_says
  union all select 'closed', project_id, '', null, null, null from project_closing
  union all select 'state', project_id, state, null, null, null from project_charter where state <> 'running'
  union all select 'cycle', id, '', json_extract(content, '$.stages[*].id'), json_extract(content, '$.stages[*].name'), null from life_cycle
  union all select 'life', project_id, life_cycle_id, passed, null, null from project_life
  union all select 'waiting', project_id, count(*), null, null, null from report where state = 'submitted' group by project_id
  union all select 'issued', i.project_id, i.number, i.drift, null, null from issued_period i
    join (select w.project_id, max(w.number * 1000 + w.edition) as newest from issued_period w where not exists (select 1 from period_lock l where l.project_id = w.project_id and l.number = w.number and l.reopened_at >= w.issued_at) group by w.project_id) last
      on last.project_id = i.project_id and last.newest = i.number * 1000 + i.edition
  union all select 'compared', i.project_id, i.number, i.drift, null, null from issued_period i
    join (select project_id, max(number * 1000 + edition) as newest from issued_period where number < coalesce((select number from open_period), 1000000) group by project_id) last on last.project_id = i.project_id and last.newest = i.number * 1000 + i.edition
  union all select 'locked', i.project_id, i.number, json_object('number', i.number, 'dataDate', i.data_date, 'spi', i.spi, 'cpi', i.cpi, 'drift', i.drift, 'estimate', i.estimate), null, null from issued_period i
    join (select w.project_id, max(w.number * 1000 + w.edition) as newest from issued_period w join period_lock l on l.project_id = w.project_id and l.number = w.number and l.reopened_at is null group by w.project_id) last
      on last.project_id = i.project_id and last.newest = i.number * 1000 + i.edition
  union all select distinct 'reporter', r.project_id, convert(r.person_id using utf8mb4) collate utf8mb4_unicode_ci, null, null, null
    from report r join open_period o on r.date between o.from_date and o.data_date where r.state in ('submitted', 'posted')`;

type Fact = readonly [kind: string, a: string, b: string, c: string | null, d: string | null, e: string | null];

const drifts = (rows: readonly Fact[]): Map<string, { number: number; drift: number | null }> =>
  new Map(
    rows.map(([, project, number, drift]) => [
      project,
      { number: Number(number), drift: drift === null ? null : Number(drift) },
    ]),
  );

/** The stage each project is in: the first of its life cycle that it has not passed. */
function stagesIn(cycles: readonly Fact[], lives: readonly Fact[]): Map<string, string> {
  const stagesOf = new Map(
    cycles.map(([, id, , ids, names]) => {
      const called = JSON.parse(names ?? "[]") as string[];
      return [id, (JSON.parse(ids ?? "[]") as string[]).map((stage, i) => ({ id: stage, name: called[i]! }))];
    }),
  );
  return new Map(
    lives.flatMap(([, project, cycle, passed]) => {
      const stage = stageAt(stagesOf.get(cycle) ?? [], JSON.parse(passed!) as string[]);
      return stage === null ? [] : [[project, stage.name]];
    }),
  );
}

const groupOf = ([, id, name, parent, , limits]: Fact): Portfolio["programmes"][number] => ({
  ...{ id, name, parent },
  thresholds: limits === null ? null : thresholdsSchema.parse(JSON.parse(limits)),
});

/** Reads the facts. */
export async function portfolioFacts(database: DataSource): Promise<PortfolioFacts> {
  const byKind = new Map<string, Fact[]>();
  for (const { kind, a, b, c, d, e } of (await database.query(FACTS_SQL)) as {
    kind: string;
    a: string;
    b: string;
    c: string | null;
    d: string | null;
    e: string | null;
  }[]) {
    const rows = byKind.get(kind);
    if (rows === undefined) byKind.set(kind, [[kind, a, b, c, d, e]]);
    else rows.push([kind, a, b, c, d, e]);
  }
  const of = (kind: string): readonly Fact[] => byKind.get(kind) ?? [];
  const settings = new Map(of("setting").map(([, name, value]) => [name, value]));
  const period = of("period")[0];
  const values = new Map<string, Record<string, OwnValue>>();
  for (const [, project, field, value] of of("value"))
    values.set(project, { ...values.get(project), [field]: JSON.parse(value!) as OwnValue });
  const byPosition = (rows: readonly Fact[], column: 3 | 4): Fact[] =>
    [...rows].sort((x, y) => Number(x[column]) - Number(y[column]));
  const thresholds = settings.get("thresholds");
  return {
    organisation: settings.get("organisation") ?? "Portfolio",
    thresholds: thresholds === undefined ? DEFAULT_THRESHOLDS : thresholdsSchema.parse(JSON.parse(thresholds)),
    exchange: readExchange(settings.get(EXCHANGE)),
    qualityLimits: readLimits(settings.get(QUALITY_LIMITS)),
    period: period === undefined ? null : { number: Number(period[1]), fromDate: period[2], dataDate: period[3]! },
    reporters: new Set(of("reporter").map(([, project, person]) => `${project}\0${person}`)),
    names: new Map(of("name").map(([, id, name]) => [id, name])),
    programmes: byPosition(of("programme"), 4).map(groupOf),
    fields: byPosition(of("field"), 3).map(([, , definition]) => JSON.parse(definition) as ProjectField),
    registered: new Map(of("registered").map(([, id, name]) => [id, name])),
    values,
    says: new Map(
      of("says").map(([, project, rating, note, saidBy, at]) => [
        project,
        { rating: rating as "well", note: note ?? "", saidBy: saidBy!, at: at! },
      ]),
    ),
    closed: new Set(of("closed").map(([, project]) => project)),
    states: new Map(of("state").map(([, project, state]) => [project, state as ProjectState])),
    stages: stagesIn(of("cycle"), of("life")),
    waiting: new Map(of("waiting").map(([, project, count]) => [project, Number(count)])),
    issued: drifts(of("issued")),
    compared: drifts(of("compared")),
    locked: new Map(of("locked").map(([, project, , figures]) => [project, JSON.parse(figures!) as LockedFigures])),
  };
}
