import { inOrder, type Offence } from "./ground/check.ts";
import type { Finding, Past } from "./ground/finding.ts";
import { afterFinish } from "./findings/afterFinish.ts";
import { danglingFinishes, danglingStarts } from "./findings/dangling.ts";
import { hoursWithoutProgress, progressWithoutHours } from "./findings/hoursAndProgress.ts";
import { linksFromLevelOfEffort } from "./findings/linksFromLevelOfEffort.ts";
import { manyLinks } from "./findings/manyLinks.ts";
import { nearlyDone } from "./findings/nearlyDone.ts";
import { neverShrinks } from "./findings/neverShrinks.ts";
import { nothingLeft } from "./findings/nothingLeft.ts";
import { noEstimate } from "./findings/noEstimate.ts";
import { noOwner } from "./findings/noOwner.ts";
import { noUpdate } from "./findings/noUpdate.ts";
import { outOfSequence } from "./findings/outOfSequence.ts";
import { percentFell } from "./findings/percentFell.ts";
import { redundantLinks } from "./findings/redundantLinks.ts";
import { unscheduled } from "./findings/unscheduled.ts";
import { wishesWithoutReason } from "./findings/wishesWithoutReason.ts";
import type { Ground } from "./ground/ground.ts";

/** All of them, those about the plan first. */
export const FINDINGS: readonly Finding[] = [
  unscheduled,
  danglingStarts,
  danglingFinishes,
  redundantLinks,
  linksFromLevelOfEffort,
  wishesWithoutReason,
  manyLinks,
  outOfSequence,
  noOwner,
  noEstimate,
  noUpdate,
  percentFell,
  nearlyDone,
  nothingLeft,
  hoursWithoutProgress,
  progressWithoutHours,
  neverShrinks,
  afterFinish,
];

export interface Found {
  readonly finding: Finding;
  readonly offences: readonly Offence[];
}

/** What besides the fourteen checks is odd about a plan (calculations.md section 6; mostly common practice, no source). */
export const findAll = (ground: Ground, past: Past): Found[] =>
  FINDINGS.map((finding) => ({ finding, offences: inOrder(finding.find(ground, past)) }));
