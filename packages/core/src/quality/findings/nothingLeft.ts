import { offences } from "../check.ts";
import type { Finding } from "../finding.ts";
import { underWay } from "./news.ts";

export const nothingLeft: Finding = {
  key: "nothingLeft",
  about: "reporting",
  name: "Nothing left, not finished",
  why: "It counts as finishing by the data date, whatever day that is: say when it was finished, or what is left of it.",
  mend: "ended",
  find: (ground) =>
    offences(
      underWay(ground).filter(({ row }) => ground.close !== null && row.finish <= ground.close),
      ({ activity }) => (activity.percent === undefined ? "no work left" : `${activity.percent}%, no work left`),
    ),
};
