import { projectValueFault, type ProjectField, type WriteProjectFields } from "@chronometra/contract";
import type { OwnValue } from "@chronometra/core";
import { In, IsNull, Not, type DataSource, type EntityManager } from "typeorm";
import { namables } from "../resources/namables.ts";
import { ProjectFieldEntity, ProjectValueEntity } from "../project/projectEntity.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import { isNews } from "../shared/seen.ts";

/** Why a value of a project cannot be written; `null` where it can. */
export async function valueFault(
  manager: EntityManager,
  field: ProjectField,
  value: OwnValue,
  minorDigits: number,
): Promise<string | null> {
  const fault = projectValueFault(field, value, minorDigits);
  if (fault !== null || field.type !== "person") return fault;
  return (await namables(manager)).some(({ id }) => id === value) ? null : "must be somebody who is known here";
}

/** Has values say what the choice that they say is called now. */
async function rename(manager: EntityManager, renamed: NonNullable<WriteProjectFields["renamed"]>): Promise<void> {
  const values = manager.getRepository(ProjectValueEntity);
  const of = new Map<string, Map<OwnValue, string>>();
  for (const { field, from, to } of renamed)
    of.set(field, (of.get(field) ?? new Map<OwnValue, string>()).set(from, to));
  // All at once, so that two choices can take each other's name.
  const changed = (await values.findBy({ fieldId: In([...of.keys()]) })).flatMap((row) => {
    const value = of.get(row.fieldId)?.get(row.value);
    return value === undefined ? [] : [{ ...row, value }];
  });
  if (changed.length > 0) await values.upsert(changed, ["projectId", "fieldId"]);
}

/**
 * Writes the fields of one's own that every project has. A field whose values would no longer fit is refused.
 * @throws {Failure} invalid; conflict, where somebody else wrote them since they were seen
 */
export async function writeFields(
  database: DataSource,
  { fields, seen, renamed = [] }: WriteProjectFields,
): Promise<void> {
  const twice = fields.find(({ id, name }, i) =>
    fields.some((other, j) => j < i && (other.id === id || other.name === name)),
  );
  if (twice !== undefined)
    throw new Failure("invalid", `There are two fields called "${twice.name}"; give one another name.`);
  await inTransaction(database, async (manager) => {
    const rows = manager.getRepository(ProjectFieldEntity);
    const now = await rows.find({ order: { position: "ASC" }, lock: { mode: "pessimistic_write" } });
    const stored = now.map(({ definition }) => definition);
    if (seen !== undefined && !isNews(stored, { was: seen, value: fields }, "What own fields there are")) return;
    await rename(manager, renamed);
    const all = manager.getRepository(ProjectValueEntity);
    for (const field of fields) {
      const values = await all.findBy({ fieldId: field.id });
      const fault = values.flatMap(({ value }) => projectValueFault(field, value, null) ?? [])[0];
      if (fault !== undefined)
        throw new Failure(
          "invalid",
          `"${field.name}" has values that would no longer fit: it ${fault}. Change those first.`,
        );
    }
    const ids = fields.map(({ id }) => id);
    await rows.delete(ids.length === 0 ? { id: Not(IsNull()) } : { id: Not(In(ids)) });
    await all.delete(ids.length === 0 ? { fieldId: Not(IsNull()) } : { fieldId: Not(In(ids)) });
    if (fields.length > 0)
      await rows.upsert(
        fields.map((definition, position) => ({ id: definition.id, position, definition })),
        ["id"],
      );
  });
}
