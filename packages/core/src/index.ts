export { analyse, type AnalyseOptions, type Computed, computePlan } from "./analyse.ts";
export { budgetOf, canonicalText, freezePlan, withoutProgress, type FrozenPlan } from "./baseline/freeze.ts";
export { minorOf, mulDivRound, ratio, restOf, shareOfPercent, takeShare } from "./budget/exact.ts";
export { plannedBudget, type PlannedBudget } from "./baseline/plannedBudget.ts";
export { approvedAlone, type ApprovedAlone } from "./baseline/approvedAlone.ts";
export { onceFrozen, type OnceFrozen } from "./baseline/onceFrozen.ts";
export {
  compareStates,
  stateOfBaseline,
  stateOfPlan,
  type ComparedRow,
  type Comparison,
  type FrozenLogic,
  type PlanState,
  type StateRow,
} from "./baseline/compare.ts";
export {
  commonMoney,
  exchangeRateSchema,
  exchangeSchema,
  rateOn,
  type CommonMoney,
  type Exchange,
  type ExchangeRate,
  type Money,
} from "./budget/exchange.ts";
export { minorUnits, minus, NO_MONEY, type MinorUnits } from "./budget/money.ts";
export { currencyDigits } from "./budget/currencyDigits.ts";
export { costOfMinutes, rateBook } from "./budget/rates.ts";
export { deadlineStandings, type DeadlineStanding } from "./drift/deadlines.ts";
export { conditionSchema, type Condition } from "./gates/conditionSchema.ts";
export {
  conditionWords,
  holdCondition,
  stageAt,
  type ConditionKind,
  type GateFacts,
  type Held,
} from "./gates/conditions.ts";
export {
  boxAfter,
  boxesInOrder,
  boxMoved,
  boxRemoved,
  boxSeries,
  carriedOver,
  MOST_BOXES,
  placedIn,
  standingIn,
  type BoxLength,
  type BoxSeries,
} from "./boxes/boxes.ts";
export { boxedWork, boxSums, burntDown, type BoxedWork, type BoxSums, type BurntDay } from "./boxes/boxFigures.ts";
export {
  gather,
  gatheredBy,
  gatheredSums,
  gatheredTrend,
  type GatheredSums,
  type GatheredWeek,
} from "./boxes/gathered.ts";
export { BOX_FATES, lookBack, type BoxFate, type BoxMove, type LookedBack } from "./boxes/lookBack.ts";
export { activityInBox, boxReason, takesBoxes, timeboxOf } from "./plan/boxed.ts";
export { beginAnew, type TakenAlong } from "./begin/beginAnew.ts";
export { branchAsPlan } from "./begin/branchAsPlan.ts";
export { emptyPlan } from "./begin/emptyPlan.ts";
export { joined, type Part } from "./begin/joined.ts";
export { movedTo } from "./begin/movedTo.ts";
export { planByHand, type HandMilestone, type HandStage } from "./begin/planByHand.ts";
export { planOfSteps, type Step } from "./begin/planOfSteps.ts";
export { repeated, type Repeat } from "./begin/repeated.ts";
export { startForFinish, type StartFound } from "./begin/startForFinish.ts";
export { slipsAgainst, slipsByPosition, type Slip } from "./drift/slip.ts";
export { decidingChain, explainActivity, type Explanation, type LinkedTo, type Reason } from "./network/explain.ts";
export { assignmentsByActivity, remainingWork, stateOf } from "./network/laid/nodeColumns.ts";
export { schedulePlan, type Schedule } from "./network/schedule.ts";
export type { ActivityState, ScheduledActivity } from "./network/scheduledActivity.ts";
export { figuresTogether } from "./performance/together/figuresTogether.ts";
export { addSums, figuresOf, NO_SUMS, type Figures, type Sums } from "./performance/figures.ts";
export { type EarnedSchedule, type PeriodKind } from "./performance/earnedSchedule.ts";
export { type Performance } from "./performance/performance.ts";
export { earnedTogether } from "./performance/together/earnedTogether.ts";
export { plannedByMonth, type PlannedMonth } from "./performance/plannedByMonth.ts";
export { plannedRows, totalPlannedValueAt, type BaselineContent } from "./performance/plannedValue.ts";
export { parseBundle, planIn, type Parsed } from "./plan/check/parseBundle.ts";
export { fromPlanFile, openPart, planFileSchema, toPlanFile, type PlanFile } from "./plan/file/planFile.ts";
export { valueAt, wordsOf } from "./plan/words/schemaWords.ts";
export { checkOwnTables, checkWholePlan } from "./plan/check/checkOwnTables.ts";
export { checkPlan } from "./plan/check/checkPlan.ts";
export { planTree, positionsOf, withBelow, type PlanTree } from "./plan/planTree.ts";
export { remembered } from "./plan/derived/remembered.ts";
export { succession, type Succession } from "./plan/derived/succession.ts";
export { formatProblem, PlanProblems, type Problem, type TableName } from "./plan/problem.ts";
export { bundleJsonSchema, planFileJsonSchema } from "./plan/check/jsonSchema.ts";
export {
  type Activity,
  type Assignment,
  type Baseline,
  type BaselineRow,
  bundleSchema,
  type Calendar,
  activitySchema,
  assignmentSchema,
  baselineSchema,
  calendarSchema,
  type CostLine,
  type Credit,
  dateSchema,
  idSchema,
  type Link,
  type Person,
  personSchema,
  type PlanBundle,
  type ProjectHead,
  projectSchema,
  type TimeEntry,
} from "./plan/schema.ts";
export { compileCalendars, type CalendarSet } from "./plan/compileCalendars.ts";
export {
  addDays,
  civilOf,
  closeOf,
  dayAfter,
  epochDay,
  type EpochDay,
  finishDayOf,
  formatDate,
  formatTime,
  type LocalMinute,
  localMinute,
  workMinutes,
  type WorkMinutes,
  openOf,
  parseDate,
  parseInstant,
  parseTime,
  startDayOf,
  weekdayOf,
} from "./time/instant.ts";
export { WEEKDAYS } from "./time/weekdays.ts";
export { WorkCalendar } from "./time/workCalendar.ts";
export { changesBefore, planBefore, type StoredChanges } from "./plan/differences/before.ts";
export { applyChanges, pathsMeet, valueAtPath, type Applied } from "./plan/applyChanges.ts";
export { arrange, type Arrangement } from "./plan/acts/arrange.ts";
export { activityNames, CallNames, couldBe, peopleNames } from "./plan/typed/callNames.ts";
export { linkNames, linkReader, linkTexts, readLinks, type ReadChanges } from "./plan/typed/linkText.ts";
export { readWork, workNames, workReader, workTexts } from "./plan/typed/workText.ts";
export {
  nameInAnyOrder,
  readCommonLinks,
  readCommonWork,
  type CommonLag,
  type CommonLink,
  type CommonRead,
  type CommonWork,
} from "./plan/typed/commonText.ts";
export { branchesSchema, copyBranches, pasteBranches, type Branches } from "./plan/acts/branches.ts";
export { brokenChains, parkRows, wakeRows, type BrokenChain } from "./plan/acts/parking.ts";
export { differencesTo } from "./plan/differences/difference.ts";
export { longestAscending, type RowDifference } from "./plan/differences/tableDifferences.ts";
export { fillPlaceholder, removeOwnField, removePerson, renameCategory } from "./plan/acts/staffing.ts";
export {
  type ActivityRange,
  type Alternates,
  type Category,
  categorySchema,
  OWN_FIELD_TYPES,
  type OwnField,
  ownFieldSchema,
  type OwnValue,
  type OwnValues,
  ownValueSchema,
  rangeSchema,
  type ActivityNote,
  noteSchema,
  PRIORITIES,
  type Risk,
  riskSchema,
  type Team,
  teamSchema,
  type Timebox,
  openRisks,
  type Meeting,
} from "./plan/ownTables.ts";
export { ownValueFault } from "./plan/check/ownValueFault.ts";
export { changeSchema, type Change, type ChangeType } from "./plan/change.ts";
export { emptyOwnTables, fromBundle, toBundle, type Plan, type Rows } from "./plan/plan.ts";
export type { PlanTables } from "./plan/rowSchemas.ts";
export { OWN_TABLES, PLAN_TABLES, SHOWN_TABLES, type PlanTable, type ShownTable } from "./plan/tables.ts";
export { effectBetween, effectOf, type Effect, type Movement, type Reckoned } from "./drift/effect.ts";
export { eitherThousandOrDecimal, formatDuration, formatHours, parseDuration, type BareUnit } from "./time/duration.ts";
export { postedKey, stageEarns, type ReportContent } from "./collect/report.ts";
export {
  acceptReports,
  type Acceptance,
  type Accepted,
  type Ending,
  type EndingAsked,
} from "./collect/acceptReports.ts";
export type { AssumedStart } from "./collect/beginning.ts";
export { holdWindows, type ActivityWindow, type Holding, type PersonsLoad } from "./collect/holdWindow.ts";
export { remarksOn, type Remark } from "./collect/remarks.ts";
export { overfullDays } from "./plan/acts/fullDays.ts";
export { addLeave, leaveCalendar, leaveId, leaveOf, worksBy, type Leave } from "./plan/acts/leave.ts";
export { blockedWays, type AlongBlock, type BlockedWays } from "./collect/blocked.ts";
export { compareAlternates, liveAlternate, makeAlternates, type Alternate } from "./drift/alternates.ts";
export { stageChanges, stagesFault, type StageEdit } from "./plan/acts/stages.ts";
export { noteChanges, type NoteParts } from "./plan/acts/notes.ts";
export { goesTo, isHeldOn, meetingsOf } from "./plan/acts/meetings.ts";
export { causeWords, GROUP_WORDS, progressWords } from "./drift/ledgerWords.ts";
export { DRIFT_GROUPS, driftLedger, type DriftGroup, type DriftLedger } from "./drift/driftLedger.ts";
export type { DriftCause } from "./drift/ledgerWalk.ts";
export { differenceLines, type DifferenceLine } from "./plan/words/differenceLines.ts";
export { changeWords, namesIn, type Naming } from "./plan/words/changeWords.ts";
export { problemInWords } from "./plan/words/problemWords.ts";
export { describePath, fieldWords, kindOfRow } from "./plan/words/pathWords.ts";
export { WISHES, wishText } from "./plan/words/wishWords.ts";
export { landing } from "./collect/landing.ts";
export { fitText, fitTexts, unfitness } from "./words/fitText.ts";
export { dateWords, daysWords, MONTHS, readDate, shortDateWords } from "./words/dateWords.ts";
export {
  countWords,
  dayWords,
  moneyWords,
  numberWords,
  percentWords,
  ratioWords,
  ungrouped,
} from "./words/numberWords.ts";
export { pushOut, type NotPushed } from "./drift/pushOut.ts";
export { demandsOf, loadByWeek, mondayOf, spreadOverWeeks, type LoadByWeek, type WeekLoad } from "./load/loadByWeek.ts";
export {
  brokenRules,
  LIMIT_RULES,
  DEFAULT_THRESHOLDS,
  type Broken,
  type Standing,
  limitedBy,
  limitsIn,
  type LimitedGroup,
  type Thresholds,
} from "./performance/thresholds.ts";
export {
  slipChoice,
  slipDays,
  slipMilestone,
  type Along,
  type SlipChoice,
  type Slipping,
} from "./drift/slipMilestone.ts";
export { performanceByShare, performanceByValue, NOBODY, type ShareKind } from "./performance/byShare.ts";
export { MEND_PLACES, type Check, type MendPlace, type Offence, type Rule } from "./quality/ground/check.ts";
export { thresholdsSchema } from "./performance/thresholdsSchema.ts";
export { qualityLimitsSchema } from "./quality/limitsSchema.ts";
export { failedChecks, valuesOf, type CheckValues } from "./quality/kept.ts";
export { mendMany, MENDS, type Mend, type NotMended } from "./quality/mends.ts";
export { ADDED_DAYS, lengthened, runPathTest, type PathTest } from "./quality/checks/criticalPathTest.ts";
export { SILENT_DAYS, type Finding, type Past, type PastPeriod } from "./quality/ground/finding.ts";
export { FINDINGS, type Found } from "./quality/findAll.ts";
export { groundOf, type Ground } from "./quality/ground/ground.ts";
export { CHECKS, measureChecks, type CheckResult, type QualityLimits } from "./quality/measureChecks.ts";
export { measureQuality, type Quality, type QualityOptions } from "./quality/measureQuality.ts";
export {
  FITNESS_WORDS,
  fitnessOf,
  GRAVE,
  limitWords,
  valueWords,
  type Fitness,
  type Verdict,
} from "./quality/verdict.ts";
export { blocksOf, chancesOf, simulate, type Chances } from "./chances/chances.ts";
export { prepare, RANGE_CLASSES, type RangeClass, type Uncertain } from "./chances/prepare.ts";
export { BLOCK_RUNS, simulateBlock, type Block as SimulatedBlock } from "./chances/simulate.ts";
export {
  DEADLINE_TONES,
  DEADLINE_WORDS,
  driftWords,
  marginWords,
  movedWords,
  roundedDays,
  sideWords,
  standingWords,
  varianceWords,
  type DeadlineState,
} from "./words/standingWords.ts";
export {
  ASPECT_WORDS,
  ASPECTS,
  RATING_WORDS,
  RATINGS,
  type Aspect,
  type Rating,
  type ReportFacts,
} from "./report/facts.ts";
export { expectedCost, triangularMean } from "./chances/expectedCost.ts";
export { beginTexts } from "./report/beginTexts.ts";
export { suggestRatings, type Suggested } from "./report/suggestRatings.ts";
export { drawCurve, drawTrend, type Drawing, type Ink, LETTER, type Shape, spread } from "./report/drawing.ts";
