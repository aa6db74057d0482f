import { offences } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";
import { underWay } from "./news.ts";

export const nothingLeft: Finding = {
  key: "nothingLeft",
  about: "reporting",
  name: "Nothing remains, not finished",
  why: "It counts as finishing by the data date, whatever day that is: say when it was finished, or what remains of it.",
  mend: "ended",
  find: (ground) =>
    offences(
      underWay(ground).filter(({ row }) => ground.close !== null && row.finish <= ground.close),
      ({ activity }) =>
        activity.percent === undefined ? "no work remaining" : `${activity.percent}%, no work remaining`,
    ),
};
