import { LIMIT_WORDS } from "@chronometra/contract";
import { CHECKS, numberWords, type QualityLimits, type Thresholds } from "@chronometra/core";
import type { NotedField } from "../../shared/noted/noteHouse.ts";

/** Limits as they are noted; `null` of a group that takes those from above. */
export const limitFields = (limits: Thresholds | null): NotedField[] =>
  limits === null
    ? [{ field: "limits", words: "taken from above" }]
    : [
        ...LIMIT_WORDS.map(([rule, field, unit]) => ({
          field,
          words: limits[rule] === null ? "none" : `${numberWords(limits[rule], 2)} ${unit}`.trim(),
        })),
        { field: "a deadline that is broken or will be", words: limits.deadlines ? "is to be explained" : "is not" },
      ];

/** Limits of the checks as they are noted, where they differ from the published ones. */
export const qualityFields = (limits: QualityLimits): NotedField[] =>
  CHECKS.flatMap(({ number, name }) => {
    const own = limits[number];
    const share = number < 13;
    return own === undefined
      ? []
      : [{ field: name, words: share ? `${numberWords(own * 100, 2)} %` : numberWords(own, 2) }];
  });
