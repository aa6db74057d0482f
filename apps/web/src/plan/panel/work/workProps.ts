import type { ActivityWork } from "../../engine/activityWork.ts";
import type { PlanSession } from "../../engine/session/planSession.ts";
import type { Sheet, SheetRow } from "../../engine/sheet.ts";
import type { Commit } from "../useCommit.ts";

/** The activity whose people and costs are shown, and how a change of them is sent. */
export interface WorkProps {
  readonly row: SheetRow;
  readonly work: ActivityWork;
  readonly sheet: Sheet;
  readonly session: PlanSession;
  readonly commit: Commit;
  readonly mayEdit: boolean;
}
