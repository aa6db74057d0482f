export { RECORD_KEYS, RECORD_ROWS, RECORD_TABLES, recordKinds, recordSchema } from "./record.ts";
export { type ProjectRecord, type RecordTable } from "./record.ts";
export { type HouseChange, type HouseHistory } from "./houseHistory.ts";
export { LIMIT_WORDS, NOTED, NOTED_WORDS, type Noted } from "./houseWords.ts";
export { type Account, type Accounts, type Me, type SessionView } from "./access.ts";
export {
  type Benefit,
  type Charter,
  type CharterField,
  type CharterView,
  type Deliverable,
  type WriteCharter,
} from "./charter.ts";
export {
  type BeginAsked,
  type BeginEffectAsked,
  type BeginSource,
  type BegunEffect,
  type DateWish,
  type NewTemplate,
  type OutlineRow,
  type RepeatAsked,
  type TakenAlongWish,
  type Template,
} from "./begin.ts";
export { PROJECT_FIELD_TYPES, type ProjectFieldType, projectValueFault } from "./projectFields.ts";
export { DOCUMENT_PLACES, type DocumentPlace, LARGEST_FILE, PREVIEWS } from "./documentWords.ts";
export { type DocumentVersion, type ProjectDocument, type ProjectDocuments } from "./documents.ts";
export { type RoadGate, type RoadLine, type Roadmap } from "./roadmap.ts";
export {
  type AskedGate,
  type DecideGate,
  type Gate,
  type GateAction,
  type GateDue,
  type GateEvent,
  type HeldCondition,
  type LifeCycle,
  type LifeCycles,
  type ProjectGates,
  type Stage,
  type WriteGates,
  type WriteLifeCycle,
} from "./gates.ts";
export { GATE_ACT_WORDS, GATE_DECISIONS, isPassed, type GateAct, type GateDecision } from "./gateWords.ts";
export {
  HOUSE_WORDS,
  PROJECT_STATE_WORDS,
  PROJECT_STATES,
  WORDED,
  wordFor,
  type OwnWords,
  type ProjectState,
  type Worded,
} from "./charterWords.ts";
export { type ComparisonView, type DriftLedgerView, type OnceFrozenView, STATE_NAME } from "./compare.ts";
export { type BodyOf, type Endpoint, type EndpointKey, endpoints, type ResponseOf } from "./endpoints.ts";
export { type Clash, type ErrorBody, type ErrorCode, ERRORS, errorSchema } from "./errors.ts";
export {
  DATE_ORDERS,
  type DateOrder,
  type FileChanges,
  type ImportAnswers,
  type ImportProblem,
  type ImportView,
  NUMBER_STYLES,
  type NumberStyle,
  type SheetView,
  ROW_KEYS,
  type RowKeys,
} from "./exchange.ts";
export { A_ROLE, NEW_PERSON, NOBODY, OWN_COLUMN } from "./exchangeWords.ts";
export {
  type Accepted,
  type ActivityLook,
  type DeadlineLine,
  type LineSummary,
  type LockedFigures,
  type MilestoneLine,
  type Paths,
  type Portfolio,
  type ProjectField,
  type ProjectLine,
  type ProjectLook,
  type Summary,
  type WriteProjectFields,
} from "./look.ts";
export { type GroupPeriods, type GroupPlanned, type Groups } from "./groups.ts";
export {
  CHANCE_BANDS,
  DEFAULT_SEVERITIES,
  MATTER_FIELD_WORDS,
  MATTER_KIND_WORDS,
  MATTER_KINDS,
  MATTER_STATES,
  LIST_COLUMNS,
  MOST_LISTED,
  type ListColumn,
  matterStateWords,
  OWNERS_FIELDS,
  RESPONSE_WORDS,
  STRATEGIES,
  TIE_PLACES,
  type MatterField,
  type MatterKind,
  type MatterState,
  type Strategy,
  type TiePlace,
} from "./matterWords.ts";
export {
  matterSettingsSchema,
  type BroughtList,
  type Matter,
  type MatterCounts,
  type MatterEvents,
  type Matters,
  type MatterSettings,
  type MatterView,
  type MatterWrite,
  type NewMatter,
  type Tie,
} from "./matters.ts";
export { type SummedIn } from "./money.ts";
export {
  type ChangeResult,
  type ChangesSince,
  type EffectView,
  type History,
  type ActivityHistory,
  type HistoryEntry,
  type PlanNews,
  type PlanView,
  type Present,
  RESERVED_CHANGES,
  type TakeBack,
} from "./plan.ts";
export { PROGRESS_TYPE } from "./progress.ts";
export { SHARED_SCHEMAS } from "./shared.ts";
export {
  type HolidayCountries,
  type Holidays,
  type OtherProject,
  type SharedEffect,
  type SharedResult,
  type SharedRows,
  type SharedUse,
} from "./resources.ts";
export { type Approval, type Ledger } from "./approve.ts";
export {
  type Blocked,
  type Endings,
  type PeopleWeek,
  type QueuedReport,
  type Report,
  type ReportRequest,
  type ReportsEffect,
  type WeeksEffect,
  type WeekSheet,
  type WindowsHeld,
} from "./collect.ts";
export { type Desk, type DeskActivity, type DeskNews, type WeekCell, type WeekView } from "./desk.ts";
export { HISTORY_LENGTH, THROUGH, THROUGH_WORDS, type Through } from "./historyWords.ts";
export {
  type Announcement,
  type Followed,
  type Talk,
  type TalkFile,
  type TalkMessage,
  type TalkThread,
  type TalkThreads,
} from "./talk.ts";
export {
  LONGEST_MESSAGE,
  MOST_TALK_FILES,
  TALK_PLACES,
  talkAddress,
  type TalkAbout,
  type TalkPlace,
} from "./talkWords.ts";
export { type BackView } from "./plan.ts";
export { type OwnPlan, type OwnPlanActivity, type OwnPlans, type PlanThen } from "./ownPlans.ts";
export { type Inbox, type Mail, type Notice, type Telling } from "./tell.ts";
export {
  MAIL_WAY_WORDS,
  MAIL_WAYS,
  NOTICE_KINDS,
  NOTICE_WORDS,
  USUAL_WAYS,
  type MailWay,
  type NoticeKind,
} from "./noticeWords.ts";
export {
  type BrokenLimit,
  type Closing,
  type Cycle,
  type Owing,
  type PeriodBar,
  type ProjectCycle,
  type ReportingCalendar,
  type Someone,
} from "./cycle.ts";
export { type RequestAlone, type Reserves, type WhatIf, type WhatIfView } from "./whatIf.ts";
export {
  type FeedLine,
  type FeedTakenIn,
  LINE_COLUMNS,
  LINE_KINDS,
  type LineKind,
  type OutsideFile,
  type OutsideLine,
  type OutsideTargets,
  type TakenIn,
} from "./outside.ts";
export {
  type CalendarFeed,
  type WatchAct,
  type WatchAnswer,
  type WatchChoices,
  type WatchCondition,
  watchConditionSchema,
  type Watchlist,
  type WatchQuestion,
  watchQuestionSchema,
  type WatchRow,
} from "./watch.ts";
export {
  type Chain,
  type Load,
  type LoadCell,
  type MilestoneTrend,
  type PerformanceView,
  type Promised,
  type SlipChoiceView,
  type SlipEffect,
} from "./dates.ts";
export { type QualityView } from "./quality.ts";
export { type ChancesRequest, type ChancesView } from "./chances.ts";
export { CYCLE_STEPS, type CycleStep, shortfalls } from "./cycleSteps.ts";
export {
  HOOK_EVENTS,
  type HookBody,
  type HookCalls,
  type HookEvent,
  hookUrlFault,
  type Hooks,
  TRIAL,
} from "./hooks.ts";
export { type FeedFigure, type FeedProject, TOKEN_PURPOSES, type TokenPurpose, type Tokens } from "./systems.ts";
export { PLACED_ROLES, type Role, ROLES } from "./roles.ts";
export { lineSummaryOf, standingOf } from "./standing.ts";
export {
  OWN_PREFIX,
  SHARED_ROLES,
  WATCH_ABOUT,
  WATCH_FIELDS,
  type WatchAbout,
  type WatchField,
  type WatchType,
} from "./watchFields.ts";
export { type Found } from "./find.ts";
export {
  type Register,
  type RegisterRates,
  REGISTER_TABLES,
  type RegisterTable,
  type TakeOver,
  type WriteRegister,
} from "./register.ts";
export {
  type DraftAspect,
  type IssuedLine,
  type IssuedReport,
  type ReportBlock,
  type ReportCell,
  type ReportContent,
  type ReportDraft,
  type ReportGroups,
  type ReportLayout,
  type ReportPart,
  type ReportRecipients,
  type ReportTone,
  type WriteLayout,
} from "./report.ts";
export {
  GROUP_SECTION_WORDS,
  GROUP_SECTIONS,
  type GroupSection,
  type Paper,
  PAPERS,
  REPORT_SECTIONS,
  type ReportSection,
  SECTION_WORDS,
} from "./reportWords.ts";
export { type Box, type BoxedRow, type Boxes, type BoxLookBack, type GatheredView } from "./boxes.ts";
export { type CalendarEntry, type CalendarView } from "./calendar.ts";
export { CALENDAR_KIND_WORDS, CALENDAR_KINDS, LONGEST_CALENDAR, type CalendarKind } from "./calendarWords.ts";
