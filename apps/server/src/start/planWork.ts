/**
 * What a thread for plans runs: all that rooms have worked out over plans, and the writers of what is kept beside them.
 */
import { APPROVE_WORKS } from "../approve/works/approveWorks.ts";
import { BOX_WORKS } from "../boxes/boxWorks.ts";
import { COLLECT_WORKS } from "../collect/works/collectWorks.ts";
import { CYCLE_WORKS } from "../cycle/cycleWorks.ts";
import { DATES_WORKS } from "../dates/datesWorks.ts";
import { LOAD_WORKS } from "../load/loadWorks.ts";
import { LOOK_WORKS } from "../look/lookWorks.ts";
import { answering } from "../plan/held/planThread.ts";
import { planWorks } from "../plan/held/planWorks.ts";
import { QUALITY_WORKS } from "../quality/qualityWorks.ts";
import { REPORT_WORKS } from "../report/reportWorks.ts";
import { WATCH_WORKS } from "../watch/watchWorks.ts";
import { WRITERS } from "../writers/writers.ts";

export default answering({
  ...planWorks(WRITERS),
  ...APPROVE_WORKS,
  ...BOX_WORKS,
  ...COLLECT_WORKS,
  ...CYCLE_WORKS,
  ...DATES_WORKS,
  ...LOAD_WORKS,
  ...LOOK_WORKS,
  ...QUALITY_WORKS,
  ...REPORT_WORKS,
  ...WATCH_WORKS,
});
