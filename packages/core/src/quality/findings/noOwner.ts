import { offences } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";

export const noOwner: Finding = {
  key: "noOwner",
  about: "reporting",
  name: "No owner",
  why: "Nobody answers for it, so nobody is asked.",
  mend: "owner",
  find: ({ open }) =>
    offences(
      open.filter(({ isWork, activity }) => isWork && activity.owner === undefined),
      () => "no owner",
    ),
};
