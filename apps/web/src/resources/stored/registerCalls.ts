import type { WriteRegister } from "@chronometra/contract";
import { call } from "../../shared/session/api.ts";

type RegisterChange = WriteRegister["change"];

/** Keeps a row in the register alone. */
export const putRow = (change: RegisterChange, seen: object | null): Promise<unknown> =>
  call("POST /api/register", { body: { change, seen, projects: [] } });

export const removeRow = ({ table, row }: RegisterChange): Promise<unknown> =>
  call("DELETE /api/register/:table/:row", { params: { table, row: row.id } });

/**
 * Puts a row of the register back as it was before `change`; a new one goes. Refused where someone has changed it
 * since.
 */
export const takeBackRow = (change: RegisterChange, before: object | null): Promise<unknown> =>
  before === null ? removeRow(change) : putRow({ ...change, row: before } as RegisterChange, change.row);
