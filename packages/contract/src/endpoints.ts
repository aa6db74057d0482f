import { boxesSchema, gatheredSchema, lookBackSchema } from "./boxes.ts";
import { calendarSchema } from "./calendar.ts";
import { hookCallsSchema, hooksSchema, madeHookSchema, newHookSchema } from "./hooks.ts";
import { roadmapSchema } from "./roadmap.ts";
import {
  feedFiguresSchema,
  feedProjectsSchema,
  feedWatchlistsSchema,
  madeTokenSchema,
  newTokenSchema,
  tokensSchema,
} from "./systems.ts";
import {
  beginEffectSchema,
  beginSchema,
  begunEffectSchema,
  newTemplateSchema,
  templatesSchema,
  writeTemplateSchema,
} from "./begin.ts";
import {
  askGateSchema,
  askedGatesSchema,
  decideGateSchema,
  lifeCyclesSchema,
  projectGatesSchema,
  writeGatesSchema,
  writeLifeCycleSchema,
} from "./gates.ts";
import { changedDocumentSchema, documentSchema, documentsSchema, newLinkSchema } from "./documents.ts";
import {
  announcementsSchema,
  announceSchema,
  changedMessageSchema,
  endAnnouncementSchema,
  followedListSchema,
  followSchema,
  mailAnswerSchema,
  newMessageSchema,
  talkCountsSchema,
  talkFileSchema,
  talkPlaceSchema,
  talkSchema,
  threadsSchema,
} from "./talk.ts";
import { ownPlanSchema, ownPlansSchema, planThenSchema } from "./ownPlans.ts";
import { houseHistorySchema } from "./houseHistory.ts";
import { charterViewSchema, handOverSchema, writeCharterSchema } from "./charter.ts";
import { registerRatesSchema, registerSchema, takeOverSchema, writeRegisterSchema } from "./register.ts";
import { findSchema, foundSchema } from "./find.ts";
import { exchangeSchema, qualityLimitsSchema, thresholdsSchema } from "@chronometra/core";
import { z } from "zod";
import {
  accountSchema,
  accountsSchema,
  changePasswordSchema,
  editAccountSchema,
  meSchema,
  newAccountSchema,
  sessionSchema,
  signInSchema,
  timeZoneSchema,
} from "./access.ts";
import { comparisonSchema, driftLedgerSchema, onceFrozenSchema } from "./compare.ts";
import {
  closeProjectSchema,
  closingSchema,
  cycleSchema,
  lockSchema,
  markStepSchema,
  openPeriodSchema,
  owingSchema,
  periodBarSchema,
  planPeriodsSchema,
  projectCycleSchema,
  reopenSchema,
  reportingCalendarSchema,
  dataDateResultSchema,
  setDataDateSchema,
} from "./cycle.ts";
import {
  fileChangesSchema,
  importAnswersSchema,
  importViewSchema,
  keepUnderstandingSchema,
  newProjectSchema,
  storedSchema,
  storeImportSchema,
  takeChangesSchema,
  understandingsSchema,
} from "./exchange.ts";
import {
  acceptedSchema,
  activityLookSchema,
  pathsSchema,
  portfolioSchema,
  namablesSchema,
  projectFieldsSchema,
  projectLookSchema,
  projectStandingSchema,
  programmeSchema,
} from "./look.ts";
import {
  groupLimitsSchema,
  groupPeriodsSchema,
  groupPlannedSchema,
  groupsSchema,
  newProgrammeSchema,
  writeProgrammeSchema,
} from "./groups.ts";
import {
  addedMattersSchema,
  broughtListSchema,
  matterCountsSchema,
  newMattersSchema,
  removedMattersSchema,
  mattersSchema,
  matterSettingsSchema,
  issueAtWorkSchema,
  matterViewSchema,
  newMatterSchema,
  strikeSchema,
  struckSchema,
  tiePlacesSchema,
  writeMatterSchema,
  writeMatterSettingsSchema,
} from "./matters.ts";
import {
  changeRequestSchema,
  changeResultSchema,
  changesSinceSchema,
  effectSchema,
  activityHistorySchema,
  backViewSchema,
  bringBackSchema,
  historyEntrySchema,
  historySchema,
  planNewsSchema,
  planViewSchema,
  presenceSchema,
  undoRequestSchema,
} from "./plan.ts";
import {
  holidayCountriesSchema,
  holidaysSchema,
  preferenceSchema,
  sharedEffectSchema,
  sharedResultSchema,
  sharedRowsSchema,
  sharedUseSchema,
} from "./resources.ts";
import {
  asideSchema,
  costByHandSchema,
  feedSchema,
  feedTakenInSchema,
  lineIdsSchema,
  matchLineSchema,
  outsideFileSchema,
  outsideLineSchema,
  outsideTargetsSchema,
  postedLinesSchema,
  simulatedSchema,
  takeFileSchema,
  takenInSchema,
} from "./outside.ts";
import { inboxSchema, mailSchema, postedSchema, seenSchema, tellingSchema } from "./tell.ts";
import {
  calendarFeedSchema,
  newFeedSchema,
  watchActDoneSchema,
  watchActEffectSchema,
  watchActSchema,
  watchAnswerSchema,
  watchChoicesSchema,
  watchlistSchema,
  watchQuestionSchema,
  watchRowSchema,
  watchRowsSchema,
  writeWatchlistSchema,
} from "./watch.ts";
import {
  chainSchema,
  loadCellSchema,
  loadSchema,
  milestoneTrendSchema,
  performanceSchema,
  promisedListSchema,
  slipChoiceSchema,
  slipEffectSchema,
  slippedSchema,
  slipRequestSchema,
  writePromiseSchema,
} from "./dates.ts";
import {
  issuedReportSchema,
  madeFileSchema,
  paperSchema,
  reportContentSchema,
  reportDraftSchema,
  reportGroupsSchema,
  reportLayoutSchema,
  reportRecipientsSchema,
  writeRecipientsSchema,
  writeAspectSchema,
  writeLayoutSchema,
} from "./report.ts";
import { chancesRequestSchema, chancesSchema } from "./chances.ts";
import { mendedSchema, mendEffectSchema, mendRequestSchema, qualitySchema } from "./quality.ts";
import {
  decideRequestSchema,
  mergeSchema,
  newWhatIfSchema,
  putForwardSchema,
  requestAloneSchema,
  reserveEntrySchema,
  reservesSchema,
  whatIfSchema,
  whatIfViewSchema,
} from "./whatIf.ts";
import { approvalSchema, askApprovalSchema, decideApprovalSchema, digestCheckSchema, ledgerSchema } from "./approve.ts";
import {
  blockedSchema,
  blockRequestSchema,
  decidedWeekSchema,
  decideReportsSchema,
  decideWeekSchema,
  leaveDaysSchema,
  leaveRequestSchema,
  peopleWeekSchema,
  queuedReportSchema,
  remindSchema,
  reportRequestSchema,
  reportSchema,
  reportsEffectRequestSchema,
  reportsEffectSchema,
  weeksChosenSchema,
  weeksEffectSchema,
} from "./collect.ts";
import { deskSchema, startClockSchema, stopClockSchema, weekViewSchema, writeWeekSchema } from "./desk.ts";

export interface Endpoint {
  readonly summary: string;
  readonly body?: z.ZodType;
  /** What may be said in the query, by name, and what it says. */
  readonly query?: Readonly<Record<string, string>>;
  /** What the field `file` of a multipart form holds, of a call that takes one in place of a body. */
  readonly file?: string;
  /** What it answers with, where that is not JSON; the response is what such a file or stream holds. */
  readonly kinds?: readonly string[];
  readonly response: z.ZodType;
}

const WORKBOOK = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

const done = z.object({ ok: z.literal(true) });
const file = z.string().meta({ format: "binary" });

/** What may be said in several queries. */
const BEFORE = { before: "lists before this revision" } as const;
const OF_TALK = { about: "the kind of what it is about", project: "the id of its project", id: "its own id" } as const;
const OF_FIGURES = {
  project: "the code or id of a project",
  from: "the number of the first period",
  to: "the number of the last period",
  limit: "how many rows at most, 500 where it is not said",
  after: "where the rows before ended, as their answer says in `next`",
} as const;
const OF_MATTERS = {
  kind: "a kind of register",
  group: "the id of a group",
  tie: "what they are tied to, as activity:A10",
  all: "closed ones too, where it says anything",
  overdue: "those past their day alone, where it says anything",
  mine: "one’s own alone, where it says anything",
} as const;

/** Every call of the HTTP interface. `:name` stands for a part of the path. */
export const endpoints = {
  "GET /api/session": {
    summary: "Who is signed in, how they like the pages, and the token for changing calls",
    response: sessionSchema,
  },
  "POST /api/session": { summary: "Sign in", body: signInSchema, response: sessionSchema },
  "DELETE /api/session": { summary: "Sign out", response: done },
  "PUT /api/session/time-zone": { summary: "Say where one's days begin and end", body: timeZoneSchema, response: done },
  "PUT /api/session/password": {
    summary: "Change one's own password; all other sessions end",
    body: changePasswordSchema,
    response: done,
  },

  "GET /api/accounts": { summary: "Everyone who can sign in", response: accountsSchema },
  "POST /api/accounts": { summary: "Add an account", body: newAccountSchema, response: meSchema },
  "PUT /api/accounts/:account": {
    summary: "Change an account's name, roles, groups they are given for, person or password",
    body: editAccountSchema,
    response: accountSchema,
  },

  "GET /api/period": { summary: "The period bar: data date, steps of the cycle, time left", response: periodBarSchema },
  "POST /api/periods": { summary: "Open the next reporting period", body: openPeriodSchema, response: periodBarSchema },
  "GET /api/periods": { summary: "The reporting calendar", response: reportingCalendarSchema },
  "PUT /api/periods/planned": {
    summary: "Write the periods to come",
    body: planPeriodsSchema,
    response: reportingCalendarSchema,
  },
  "GET /api/period/owing": {
    summary: "Who owes time or progress of the open period, and on what",
    response: owingSchema,
  },
  "POST /api/period/reminders": {
    summary: "Remind people of what they owe of the open period, a message each",
    body: remindSchema,
    response: postedSchema,
  },
  "GET /api/cycle": { summary: "Where each project stands in the open period", response: cycleSchema },
  "GET /api/projects/:project/cycle": {
    summary: "Where one project stands in the open period",
    response: projectCycleSchema,
  },
  "PUT /api/projects/:project/cycle": {
    summary: "Say that its check is done, or explain what broke a threshold",
    body: markStepSchema,
    response: done,
  },
  "POST /api/projects/:project/lock": {
    summary:
      "Lock the open period for it; issued first where it is not. Where reports, the check or an explanation are wanting, a word says why it is locked all the same",
    body: lockSchema,
    response: done,
  },
  "DELETE /api/projects/:project/lock": {
    summary: "Take the lock of the open period back, as long as nothing came after it",
    response: done,
  },
  "POST /api/projects/:project/reopen": {
    summary: "Open its last locked period again, with a reason",
    body: reopenSchema,
    response: done,
  },
  "GET /api/projects/:project/charter": {
    summary: "The project as such: its head, who answers for it, why it is",
    response: charterViewSchema,
  },
  "GET /api/projects/:project/documents": {
    summary:
      "Files and links of a project, its activities, deliverables, gates and reports; of those who only work on it, those of their activities",
    response: documentsSchema,
  },
  "POST /api/projects/:project/documents": { summary: "Add a link", body: newLinkSchema, response: documentSchema },
  "POST /api/projects/:project/files": {
    summary:
      "Add a file (multipart, `file`), to what `about` and `aboutId` say, or as a new version of `document`; its kind is found by its content",
    query: {
      about: "the kind of what it is on",
      aboutId: "its id",
      document: "the id of the document of which it is a new version",
    },
    file: "the file",
    response: documentSchema,
  },
  "PUT /api/projects/:project/documents/:document": {
    summary: "Give it another name, take it away, bring it back",
    body: changedDocumentSchema,
    response: done,
  },
  "GET /api/projects/:project/documents/:document/:version": {
    summary: "A file as it came; to be seen in place with `show`, where that runs nothing",
    query: { show: "to be seen in place, where it says anything" },
    kinds: ["application/octet-stream"],
    response: file,
  },
  "GET /api/talk": {
    summary: "What was said about something, which `about`, `project` and `id` name, and who may be called there",
    query: {
      ...OF_TALK,
      all: "1 for all that was ever said",
    },
    response: talkSchema,
  },
  "POST /api/talk": {
    summary: "Say something about it; whoever is named with @, took part or answers for it is told",
    body: newMessageSchema,
    response: talkSchema,
  },
  "POST /api/talk-files": {
    summary:
      "Send a file (multipart, `file`) that is to go with what one says next, where `about`, `project` and `id` say",
    query: OF_TALK,
    file: "the file",
    response: talkFileSchema,
  },
  "GET /api/talk-files/:file": {
    summary: "A file that went with a message; to be seen in place with `show`, where that runs nothing",
    query: { show: "to be seen in place, where it says anything" },
    kinds: ["application/octet-stream"],
    response: file,
  },
  "PUT /api/talk/:message": {
    summary: "Change what one wrote, remove it, or bring it back; what it said before is kept",
    body: changedMessageSchema,
    response: talkSchema,
  },
  "PUT /api/talk-read": {
    summary: "Note that what was said about something is read",
    body: talkPlaceSchema,
    response: done,
  },
  "GET /api/announcements": { summary: "What is announced to one just now", response: announcementsSchema },
  "POST /api/announcements": {
    summary: "Announce something to all who work in a project, or in those of a group",
    body: announceSchema,
    response: announcementsSchema,
  },
  "PUT /api/announcements/:announcement": {
    summary: "End it before its time, or let it stand again",
    body: endAnnouncementSchema,
    response: announcementsSchema,
  },
  "GET /api/following": { summary: "What one follows or keeps at hand", response: followedListSchema },
  "PUT /api/following": {
    summary: "Follow something or not, keep it at hand or not",
    body: followSchema,
    response: done,
  },
  "GET /api/talks": {
    summary: "About what something was said, the newest first: that one takes part in, or with `project` all of it",
    query: { project: "the id of a project" },
    response: threadsSchema,
  },
  "GET /api/projects/:project/talk-counts": {
    summary: "How much was said in a project, thing by thing",
    response: talkCountsSchema,
  },
  "POST /api/mail/:mail/answer": {
    summary: "Answer a message of what was said, as a mail would",
    body: mailAnswerSchema,
    response: done,
  },
  "PUT /api/projects/:project/charter": {
    summary: "Write one thing into the charter, where it still says what the writer saw",
    body: writeCharterSchema,
    response: charterViewSchema,
  },
  "POST /api/projects/:project/hand-over": {
    summary: "Give the project to another manager; both are told",
    body: handOverSchema,
    response: charterViewSchema,
  },
  "GET /api/templates": {
    summary: "Plans that others begin with",
    response: templatesSchema,
  },
  "POST /api/templates": {
    summary: "Make a template of a project or of a branch of it, without what happened in it",
    body: newTemplateSchema,
    response: templatesSchema,
  },
  "PUT /api/templates/:template": {
    summary: "Write what a template is called, what it is for, and which of its branches may stand several times",
    body: writeTemplateSchema,
    response: templatesSchema,
  },
  "DELETE /api/templates/:template": {
    summary: "Remove a template; what was begun with it stays",
    response: templatesSchema,
  },
  "POST /api/begin/effect": {
    summary: "What a project begun with others would be: its dates, work, cost and rows, and what is asked",
    body: beginEffectSchema,
    response: begunEffectSchema,
  },
  "POST /api/begin": {
    summary: "Begin a project with projects, branches or templates, moved to a start or back from a finish",
    body: beginSchema,
    response: storedSchema,
  },
  "GET /api/life-cycles": {
    summary: "Life cycles by kind of project: their stages, and what must be true at the gate of each",
    response: lifeCyclesSchema,
  },
  "PUT /api/life-cycles/:cycle": {
    summary: "Write a life cycle, where it still says what the writer saw; what was decided at its gates stays",
    body: writeLifeCycleSchema,
    response: lifeCyclesSchema,
  },
  "GET /api/projects/:project/gates": {
    summary: "The stages a project goes through, what must be true at each gate, and what was decided",
    response: projectGatesSchema,
  },
  "PUT /api/projects/:project/gates": {
    summary: "Say by which life cycle it lives, when a gate is due, who decides, or what is confirmed",
    body: writeGatesSchema,
    response: projectGatesSchema,
  },
  "POST /api/projects/:project/gates/:stage": {
    summary: "Ask for the gate of the stage that the project is in",
    body: askGateSchema,
    response: projectGatesSchema,
  },
  "DELETE /api/projects/:project/gates/:stage": {
    summary: "Withdraw what was asked",
    response: projectGatesSchema,
  },
  "POST /api/projects/:project/gates/:stage/decision": {
    summary: "Decide a gate that is asked for; never by whoever asked",
    body: decideGateSchema,
    response: projectGatesSchema,
  },
  "GET /api/matters": {
    summary: "What stands in the registers, by kind, project, group, owner and state; the first due first",
    query: { project: "the id of a project", ...OF_MATTERS },
    response: mattersSchema,
  },
  "GET /api/projects/:project/matters": {
    summary: "What stands in the registers of a project",
    query: OF_MATTERS,
    response: mattersSchema,
  },
  "GET /api/projects/:project/ties": {
    summary: "What of a project a matter can be tied to",
    response: tiePlacesSchema,
  },
  "GET /api/matters/counts": {
    summary: "How many open matters are overdue, and one’s own",
    response: matterCountsSchema,
  },
  "PUT /api/matters/settings": {
    summary: "Define the scale of severity and the own fields of registers",
    body: writeMatterSettingsSchema,
    response: matterSettingsSchema,
  },
  "POST /api/matters": { summary: "Put something into a register", body: newMatterSchema, response: matterViewSchema },
  "POST /api/matters/list": {
    summary: "Put a list of things into registers, all or nothing",
    body: newMattersSchema,
    response: addedMattersSchema,
  },
  "DELETE /api/matters/list": {
    summary: "Remove all of a list, all or nothing; risks of plans are left alone",
    body: removedMattersSchema,
    response: done,
  },
  "POST /api/matters/read": {
    summary:
      "Understand a table (multipart, `file`) as lines for the registers; `kind` and `project` where it does not say, `dateOrder`, and `columns` as JSON, column by heading; nothing is stored",
    query: {
      kind: "the register that lines are for, where none says it",
      project: "the id of the project, where no line says it",
      dateOrder: "dayFirst or monthFirst, where dates can be read in two ways",
      columns: "JSON: what each heading is taken for",
    },
    file: "a table: workbook or CSV",
    response: broughtListSchema,
  },
  "GET /api/matters/:matter": { summary: "A matter with its history", response: matterViewSchema },
  "PUT /api/matters/:matter": {
    summary: "Write things of a matter, all or nothing; `null` where it is removed",
    body: writeMatterSchema,
    response: matterViewSchema.nullable(),
  },
  "POST /api/matters/:matter/strike/effect": {
    summary: "What it moves if a risk strikes and the parked work tied to it wakes, nothing stored",
    response: effectSchema,
  },
  "POST /api/matters/:matter/strike": {
    summary: "A risk struck: it becomes an issue, and the parked work tied to it wakes",
    body: strikeSchema,
    response: struckSchema,
  },
  "GET /api/gates": {
    summary: "Gates that are asked for, in all projects",
    response: askedGatesSchema,
  },
  "GET /api/projects/:project/closing": { summary: "What remains before it can be closed", response: closingSchema },
  "POST /api/projects/:project/closing": {
    summary: "Finish what remains and close it",
    body: closeProjectSchema,
    response: done,
  },
  "DELETE /api/projects/:project/closing": {
    summary: "Open a closed project again",
    body: reopenSchema,
    response: done,
  },
  "POST /api/programmes": {
    summary: "Add a portfolio or programme",
    body: newProgrammeSchema,
    response: programmeSchema,
  },
  "GET /api/programmes": {
    summary: "Portfolios and programmes in their order, with whoever answers for each",
    response: groupsSchema,
  },
  "GET /api/programmes/:programme/periods": {
    summary: "What was issued of its projects and of those below it, period by period; `house` for all",
    response: groupPeriodsSchema,
  },
  "GET /api/programmes/:programme/planned": {
    summary: "What its projects and those below it plan to earn month by month; `house` for all",
    response: groupPlannedSchema,
  },
  "DELETE /api/programmes/:programme": {
    summary: "Remove one that is empty",
    response: groupsSchema,
  },
  "PUT /api/programmes/:programme": {
    summary: "Rename it, give it a manager, make it part of another one, or put it elsewhere among its like",
    body: writeProgrammeSchema,
    response: programmeSchema,
  },
  "GET /api/portfolio": { summary: "A line for each project, from kept figures", response: portfolioSchema },
  "GET /api/calendar": {
    summary:
      "What falls on the days `from` to `to`: milestones, deadlines, gates, meetings, absences; one’s own with `own`, of one `project`",
    query: {
      from: "YYYY-MM-DD",
      to: "YYYY-MM-DD",
      own: "one’s own alone, where it says anything",
      project: "the id of a project",
    },
    response: calendarSchema,
  },
  "GET /api/portfolio/roadmap": {
    summary: "Projects in time: approved against current, with milestones, deadlines and gates",
    response: roadmapSchema,
  },
  "GET /api/portfolio/paths": {
    summary: "SPI, CPI and drift of each project over the issued periods",
    response: pathsSchema,
  },
  "GET /api/portfolio/accepted": {
    summary: "How far finishes would have drifted with all reports accepted that wait; nothing stored",
    response: acceptedSchema,
  },
  "PUT /api/portfolio/thresholds": {
    summary: "Say beyond which limits a project is to be explained",
    body: thresholdsSchema,
    response: done,
  },
  "PUT /api/programmes/:programme/thresholds": {
    summary: "Limits of a group's own, for all projects in it and below that no nearer group says otherwise of",
    body: groupLimitsSchema,
    response: done,
  },
  "PUT /api/portfolio/quality-limits": {
    summary: "Set limits of the fourteen checks in the place of the published ones, by their number",
    body: qualityLimitsSchema,
    response: done,
  },
  "GET /api/projects/:project/quality": {
    summary: "How far its plan can be trusted: the fourteen checks, further findings, a verdict in words",
    response: qualitySchema,
  },
  "POST /api/projects/:project/quality/mend/effect": {
    summary: "What mending many at once would move; nothing stored",
    body: mendRequestSchema,
    response: mendEffectSchema,
  },
  "POST /api/projects/:project/quality/mend": {
    summary: "Mend something for many activities at once",
    body: mendRequestSchema,
    response: mendedSchema,
  },
  "POST /api/projects/:project/chances": {
    summary:
      "How likely its dates and costs are: a seeded simulation of ranges and risks; with progress where it is accepted",
    body: chancesRequestSchema,
    response: chancesSchema,
  },
  "GET /api/portfolio/exchange": {
    summary: "The group's currency and the dated table of rates",
    response: exchangeSchema.nullable(),
  },
  "PUT /api/portfolio/exchange": {
    summary: "Say the group's currency and the rates of others against it; nothing takes the table away",
    body: z.strictObject({ exchange: exchangeSchema.nullable() }),
    response: done,
  },
  "GET /api/portfolio/people": {
    summary: "Who can be named in a field of projects: whoever can sign in, and people of the register",
    response: namablesSchema,
  },
  "PUT /api/portfolio/fields": {
    summary: "Say which fields of one's own every project has; values of those left out go",
    body: projectFieldsSchema,
    response: done,
  },
  "PUT /api/projects/:project/standing": {
    summary: "Its programme, the manager's rating and note, its own fields",
    body: projectStandingSchema,
    response: done,
  },
  "POST /api/portfolio/data-date": {
    summary: "Move the data date of every project and recalculate",
    body: setDataDateSchema,
    response: dataDateResultSchema,
  },

  "POST /api/projects": {
    summary: "Begin a project with an empty plan",
    body: newProjectSchema,
    response: storedSchema,
  },
  "GET /api/projects/:project": {
    summary: "A project's figures by branch and activity, and its curves",
    response: projectLookSchema,
  },
  "GET /api/projects/:project/activities/:activity": {
    summary: "What stands behind one activity's or branch's figures",
    response: activityLookSchema,
  },
  "GET /api/projects/:project/plan": {
    summary: "The plan with its rows, as of its newest revision",
    response: planViewSchema,
  },
  "POST /api/projects/:project/changes": {
    summary: "Apply a list of changes, all or nothing",
    body: changeRequestSchema,
    response: changeResultSchema,
  },
  "POST /api/projects/:project/undo": {
    summary: "Undo one stored list of changes",
    body: undoRequestSchema,
    response: changeResultSchema,
  },
  "POST /api/projects/:project/effect": {
    summary: "What a list of changes would move, nothing stored",
    body: changeRequestSchema,
    response: effectSchema,
  },
  "GET /api/projects/:project/history": {
    summary: "Who changed what, newest first",
    query: {
      from: "YYYY-MM-DD",
      to: "YYYY-MM-DD",
      about: "the kind of rows that changed",
      path: "what changed, as activities/A10/name",
      by: "the id of an account",
      through: "through what it came",
      ...BEFORE,
    },
    response: historySchema,
  },
  "GET /api/projects/:project/activities/:activity/history": {
    summary: "What became of an activity, what was and what is, newest first",
    query: BEFORE,
    response: activityHistorySchema,
  },
  "GET /api/projects/:project/history-people": {
    summary: "Who has changed a plan, by name",
    response: z.array(z.object({ id: z.string(), name: z.string() })),
  },
  "GET /api/projects/:project/history/:revision": {
    summary: "What one stored list did, and what taking it back would move",
    response: historyEntrySchema,
  },
  "GET /api/projects/:project/export/:form": {
    summary: "The whole project as json, its plan as json1 (version 1 of the plan bundle), xlsx or csv (zipped)",
    kinds: ["application/json", WORKBOOK, "application/zip"],
    response: file,
  },
  "POST /api/projects/:project/periods": { summary: "Issue the project's figures for the open period", response: done },

  "GET /api/status-reports": {
    summary: "Groups and projects, with the newest report of each",
    response: reportGroupsSchema,
  },
  "GET /api/status-reports/:of": {
    summary: "What is said in the open period's report of a project, a group or `house`, and the reports issued",
    response: reportDraftSchema,
  },
  "GET /api/status-reports/:of/preview": {
    summary: "The open period's report as it would be issued now",
    response: reportContentSchema,
  },
  "PUT /api/status-reports/:of/said/:aspect": {
    summary: "Say something on one side of the open period's report: rating, reason and text",
    body: writeAspectSchema,
    response: done,
  },
  "POST /api/status-reports/:of": { summary: "Issue the open period's report", response: done },
  "GET /api/status-reports/:of/recipients": {
    summary: "Who gets the reports of a project or a group when they are issued",
    response: reportRecipientsSchema,
  },
  "PUT /api/status-reports/:of/recipients": {
    summary: "Add and remove who gets them: accounts, and addresses of mail",
    body: writeRecipientsSchema,
    response: done,
  },
  "GET /api/status-reports/:of/layout": {
    summary: "Which parts a report has, in their order",
    response: reportLayoutSchema,
  },
  "PUT /api/status-reports/:of/layout": {
    summary: "Lay out the reports of a group and of the projects in it",
    body: writeLayoutSchema,
    response: done,
  },
  "GET /api/status-reports/:of/:number/:edition": {
    summary: "A report as it was issued, by the number of its period; the edition is a number or `newest`",
    response: issuedReportSchema,
  },
  "GET /api/status-reports/:of/:number/:edition/:form": {
    summary: "A report as pdf or xlsx; the number is a period's or `open`; `?paper=letter` for another paper than A4",
    query: { paper: "A4 or letter" },
    kinds: ["application/pdf", WORKBOOK],
    response: file,
  },

  "POST /api/status-reports/:of/:number/:edition/:form": {
    summary: "As the GET, line by line with the share that is done, the file at the end as base64",
    body: paperSchema,
    response: madeFileSchema,
  },

  "GET /api/approvals": { summary: "Approvals that wait for a decision", response: z.array(approvalSchema) },
  "GET /api/projects/:project/changes/:since": {
    summary: "What was stored since a revision",
    response: changesSinceSchema,
  },
  "GET /api/news": {
    summary:
      "Server-sent events: the revision of each plan that is open and who is on it, whenever either changes; `?on=project.page`, once for each open page",
    query: { on: "project.page of an open page; once for each" },
    kinds: ["text/event-stream"],
    response: planNewsSchema,
  },
  "PUT /api/projects/:project/presence": {
    summary: "Say where on the plan one is",
    body: presenceSchema,
    response: done,
  },

  "GET /api/projects/:project/shared": {
    summary: "Where else its calendars and people are used",
    response: sharedUseSchema,
  },
  "POST /api/shared/effect": {
    summary: "What writing calendars and people in several projects would move in each",
    body: sharedRowsSchema,
    response: sharedEffectSchema,
  },
  "POST /api/shared": {
    summary: "Write calendars and people in several projects, all or nothing",
    body: sharedRowsSchema,
    response: sharedResultSchema,
  },
  "GET /api/register": {
    summary: "Calendars, people, teams and cost categories of the installation, and where each is used",
    response: registerSchema,
  },
  "GET /api/register/rates": { summary: "What an hour of each person costs", response: registerRatesSchema },
  "POST /api/register/effect": {
    summary: "What writing a row to projects would move",
    body: writeRegisterSchema,
    response: sharedEffectSchema,
  },
  "POST /api/register": {
    summary: "Save a row in the register, and write it to projects in the same act",
    body: writeRegisterSchema,
    response: sharedResultSchema,
  },
  "POST /api/register/missing": {
    summary: "Take in all rows that projects have and the register has not",
    response: z.object({ taken: z.int() }),
  },
  "DELETE /api/register/:table/:row": {
    summary: "Remove a row from the register; projects keep theirs",
    response: done,
  },
  "POST /api/projects/:project/register/effect": {
    summary: "What taking rows of the register over would move",
    body: takeOverSchema,
    response: sharedEffectSchema,
  },
  "POST /api/projects/:project/register": {
    summary: "Take rows of the register over into the project",
    body: takeOverSchema,
    response: sharedResultSchema,
  },
  "GET /api/holidays": {
    summary: "Countries and regions whose public holidays are known",
    response: holidayCountriesSchema,
  },
  "GET /api/holidays/:place/:from/:to": {
    summary: "Public holidays of a country or region (`DE`, `DE-BY`), years from and to",
    response: holidaysSchema,
  },
  "PUT /api/preferences/:name": { summary: "Save how one likes a page", body: preferenceSchema, response: done },

  "GET /api/projects/:project/ledger": {
    summary: "The ledger of approvals: requests and baselines",
    response: ledgerSchema,
  },
  "POST /api/projects/:project/approvals": {
    summary: "Ask for the plan to be approved",
    body: askApprovalSchema,
    response: approvalSchema,
  },
  "POST /api/approvals/:approval/decision": {
    summary: "Approve and freeze, or send back",
    body: decideApprovalSchema,
    response: approvalSchema,
  },
  "GET /api/projects/:project/baselines/:number/digest": {
    summary: "Recompute a baseline's digest",
    response: digestCheckSchema,
  },

  "GET /api/projects/:project/baselines/:number/content": {
    summary: "The text that a baseline's digest is made from; its SHA-256 is the digest",
    response: z.unknown(),
  },
  "GET /api/projects/:project/compare/:from/:to": {
    summary: "Two states of a plan compared: `plan`, `baseline-N`, `period-N`",
    response: comparisonSchema,
  },

  "GET /api/projects/:project/frozen/:state": {
    summary:
      "What freezing a state of the plan (`plan`, `asked-` or `whatif-` and an id) would make of its figures at once",
    response: onceFrozenSchema,
  },
  "GET /api/projects/:project/drift/:from/:to/:target": {
    summary:
      "Why a date moved between two whole states (`plan`, `period-N`, a what-if): of an activity, or `finish` for the project's",
    response: driftLedgerSchema,
  },
  "GET /api/requests": { summary: "Change requests that wait for a decision", response: z.array(whatIfSchema) },
  "GET /api/projects/:project/whatifs": {
    summary: "What is or was tried beside the plan, and the change requests of it",
    response: z.array(whatIfSchema),
  },
  "POST /api/projects/:project/whatifs": {
    summary: "Begin a what-if beside the live plan",
    body: newWhatIfSchema,
    response: whatIfSchema,
  },
  "GET /api/whatifs/:whatif": {
    summary: "A what-if against the live plan: what it would move, and where both were changed",
    response: whatIfViewSchema,
  },
  "POST /api/whatifs/:whatif/changes": {
    summary: "Change it; the live plan stays",
    body: changeRequestSchema,
    response: changeResultSchema,
  },
  "POST /api/whatifs/:whatif/undo": {
    summary: "Undo one of its lists",
    body: undoRequestSchema,
    response: changeResultSchema,
  },
  "POST /api/whatifs/:whatif/merge": {
    summary: "Settle what both it and the live plan have changed",
    body: mergeSchema,
    response: done,
  },
  "POST /api/whatifs/:whatif/keep": {
    summary: "Make its changes in the live plan",
    response: changeResultSchema.omit({ changes: true }),
  },
  "DELETE /api/whatifs/:whatif": { summary: "Discard", response: done },
  "POST /api/whatifs/:whatif/restore": { summary: "Restore what was dropped", response: whatIfSchema },
  "POST /api/whatifs/:whatif/request": {
    summary: "Put it forward as a change request",
    body: putForwardSchema,
    response: whatIfSchema,
  },
  "GET /api/whatifs/:whatif/alone": {
    summary: "Whether a change request can be approved by itself, on which baseline",
    response: requestAloneSchema,
  },
  "POST /api/whatifs/:whatif/decision": {
    summary:
      "Approve it alone, or with the whole plan as it stands: applied and frozen as a new baseline; or send back",
    body: decideRequestSchema,
    response: whatIfSchema,
  },
  "GET /api/projects/:project/reserves": {
    summary: "Contingency and management reserve, and the draws on them",
    response: reservesSchema,
  },
  "POST /api/projects/:project/reserves": {
    summary: "Set aside, draw or give back",
    body: reserveEntrySchema,
    response: reservesSchema,
  },

  "GET /api/desk": { summary: "One's own activities and reports", response: deskSchema },
  "GET /api/projects/:project/revisions/:revision": {
    summary: "A plan as it was at a revision, to be read",
    response: planThenSchema,
  },
  "GET /api/projects/:project/revisions/:revision/back": {
    summary: "What bringing the plan back to that revision would move, nothing stored",
    response: backViewSchema,
  },
  "POST /api/projects/:project/revisions/:revision/back": {
    summary: "Bring the plan back to that revision, as one list of changes",
    body: bringBackSchema,
    response: changeResultSchema,
  },
  "POST /api/desk/issues": {
    summary: "Raise an issue on work of a project in which one works; its manager is asked to see to it",
    body: issueAtWorkSchema,
    response: matterViewSchema,
  },
  "GET /api/desk/plans": { summary: "The projects in which one has work", response: ownPlansSchema },
  "GET /api/desk/plans/:project": {
    summary: "The plan of a project for whoever works in it, without what it costs",
    response: ownPlanSchema,
  },
  "GET /api/desk/plans/:project/:activity/history": {
    summary: "What became of one's own activity, but for what it costs; newest first",
    query: BEFORE,
    response: activityHistorySchema,
  },
  "GET /api/desk/week/:date": { summary: "One's own week around a day", response: weekViewSchema },
  "PUT /api/desk/week": {
    summary: "Say what one has worked on days of a week, all or nothing",
    body: writeWeekSchema,
    response: done,
  },
  "POST /api/desk/reports": {
    summary: "Report time, percent or remaining work",
    body: reportRequestSchema,
    response: reportSchema,
  },
  "POST /api/desk/week/:date/sheet": { summary: "Send one's own week as whole", response: done },
  "PUT /api/desk/seen": { summary: "Say that one has seen what changed", response: done },
  "PUT /api/desk/clock": {
    summary: "Start the clock on an activity of one's own",
    body: startClockSchema,
    response: done,
  },
  "POST /api/desk/clock/stop": {
    summary: "Stop the clock and send what it measured, or what one says it should have",
    body: stopClockSchema,
    response: done,
  },
  "PUT /api/desk/block": {
    summary: "Say that an activity of one's own is blocked, or no longer",
    body: blockRequestSchema,
    response: done,
  },
  "DELETE /api/desk/leave": {
    summary: "Take leave back that waits to be accepted, in every project that it was sent to",
    body: leaveDaysSchema,
    response: done,
  },
  "POST /api/desk/leave": {
    summary: "Say that one will be away; waits in every project that one has open work in",
    body: leaveRequestSchema,
    response: z.object({ projects: z.array(z.string()) }),
  },
  "DELETE /api/desk/reports/:report": { summary: "Withdraw a report that is not decided yet", response: done },
  "GET /api/time/:date": {
    summary: "The week around a day of everyone that one answers for: expected, planned, booked",
    response: peopleWeekSchema,
  },
  "POST /api/time/:date/decision": {
    summary: "Approve weeks, which accepts what was seen to wait in them, or return them",
    body: decideWeekSchema,
    response: decidedWeekSchema,
  },
  "POST /api/time/:date/effect": {
    summary: "What approving weeks would accept, and what that would move",
    body: weeksChosenSchema,
    response: weeksEffectSchema,
  },
  "POST /api/time/:date/reminders": {
    summary: "Remind people of a week, a message each",
    body: remindSchema,
    response: postedSchema,
  },
  "POST /api/mail/:mail/again": { summary: "Send a message again that failed", response: done },
  "GET /api/mail": {
    summary: "The simulated mailbox: one's own messages, an administrator sees all",
    response: z.array(mailSchema),
  },
  "GET /api/inbox": {
    summary: "What one was told, the newest first, and how much of it is open",
    response: inboxSchema,
  },
  "GET /api/inbox/count": {
    summary: "How much of what one was told is neither seen nor done",
    response: z.object({ open: z.int() }),
  },
  "PUT /api/inbox/seen": {
    summary: "Note what of one's inbox was seen or put aside, or take that back",
    body: seenSchema,
    response: done,
  },
  "GET /api/telling": { summary: "How one is told by mail", response: tellingSchema },
  "PUT /api/telling": { summary: "Say how one wants to be told by mail", body: tellingSchema, response: tellingSchema },
  "GET /api/blocked/:days": {
    summary: "What is blocked, its causes and who will feel it, if it stays so for some working days",
    response: blockedSchema,
  },
  "GET /api/reports": { summary: "Reports that wait for acceptance", response: z.array(queuedReportSchema) },
  "POST /api/reports/effect": {
    summary: "What accepting reports would move, in each project",
    body: reportsEffectRequestSchema,
    response: reportsEffectSchema,
  },
  "POST /api/reports/decision": {
    summary: "Accept reports, holding the windows that are named, or return them; all or none",
    body: decideReportsSchema,
    response: done,
  },

  "GET /api/outside/lines": {
    summary: "Costs and time from other systems that are not posted yet",
    response: z.array(outsideLineSchema),
  },
  "GET /api/outside/targets": { summary: "What lines can be matched to", response: outsideTargetsSchema },
  "POST /api/outside/files/:kind": {
    summary: "Bring a file of costs or time (multipart, field `file`); the same file twice is refused",
    file: "costs or time: workbook or CSV",
    response: outsideFileSchema,
  },
  "POST /api/outside/files/:file/take": {
    summary: "Take its lines in, columns matched; all or none",
    body: takeFileSchema,
    response: takenInSchema,
  },
  "PUT /api/outside/lines/:line": { summary: "Match a line by hand", body: matchLineSchema, response: done },
  "POST /api/outside/post": {
    summary: "Post matched costs; send matched time to be reviewed",
    body: lineIdsSchema,
    response: postedLinesSchema,
  },
  "POST /api/outside/effect": {
    summary: "What posting matched costs would move, in each project",
    body: lineIdsSchema,
    response: reportsEffectSchema,
  },
  "POST /api/outside/aside": {
    summary: "Set lines aside with a reason, or take them up again without one",
    body: asideSchema,
    response: done,
  },
  "POST /api/outside/costs": { summary: "Enter a cost by hand", body: costByHandSchema, response: done },
  "POST /api/outside/simulated": {
    summary: "Fetch from the simulated time clock or ledger",
    body: simulatedSchema,
    response: takenInSchema,
  },
  "POST /api/outside/corrections": {
    summary: "Accept corrections: what was not posted is replaced, what was is adjusted by the difference; all or none",
    body: lineIdsSchema,
    response: postedLinesSchema,
  },
  "POST /api/feeds/time": {
    summary: "Send time from another system, with a token; the answer says of each line what became of it",
    body: feedSchema,
    response: feedTakenInSchema,
  },
  "POST /api/feeds/costs": {
    summary: "Send costs from another system, with a token; the answer says of each line what became of it",
    body: feedSchema,
    response: feedTakenInSchema,
  },
  "GET /api/feeds/projects": {
    summary: "Projects, for another system that may read figures",
    response: feedProjectsSchema,
  },
  "GET /api/feeds/figures": {
    summary: "Figures of projects as issued, by period and project, for another system that may read figures",
    query: OF_FIGURES,
    response: feedFiguresSchema,
  },
  "GET /api/feeds/figures/csv": {
    summary: "The same as a table, amounts in whole units; the header Link names what comes after",
    query: OF_FIGURES,
    kinds: ["text/csv"],
    response: file,
  },
  "GET /api/feeds/watchlists": {
    summary: "Watchlists that ship and those shared with readers, for another system that may read them",
    response: feedWatchlistsSchema,
  },
  "GET /api/feeds/watchlists/:watchlist": {
    summary: "What a watchlist finds now",
    response: watchAnswerSchema,
  },
  "GET /api/feeds/watchlists/:watchlist/csv": {
    summary: "What a watchlist finds now, as a table",
    kinds: ["text/csv"],
    response: file,
  },
  "GET /api/tokens": { summary: "Tokens of other systems", response: tokensSchema },
  "POST /api/tokens": { summary: "Make a token; it is told once", body: newTokenSchema, response: madeTokenSchema },
  "DELETE /api/tokens/:token": { summary: "End a token", response: done },
  "GET /api/webhooks": { summary: "Other systems that are called when something happens", response: hooksSchema },
  "POST /api/webhooks": {
    summary: "Have another system called when something happens; the secret that signs is told once",
    body: newHookSchema,
    response: madeHookSchema,
  },
  "DELETE /api/webhooks/:webhook": { summary: "Call a system no more; what waits for it is dropped", response: done },
  "POST /api/webhooks/:webhook/trial": { summary: "Call a system to see whether it answers", response: done },
  "GET /api/webhooks/:webhook/calls": {
    summary: "The last calls to a system, and what became of each",
    response: hookCallsSchema,
  },
  "POST /api/webhooks/:webhook/calls/:call/again": {
    summary: "Make a call again that waits or has failed",
    response: done,
  },

  "GET /api/deadlines": {
    summary: "Every deadline of every project, how it stands and how it stood when last issued",
    response: promisedListSchema,
  },
  "PUT /api/projects/:project/promises/:activity": {
    summary: "Say what follows if a deadline is not kept; without words that is removed",
    body: writePromiseSchema,
    response: done,
  },
  "GET /api/projects/:project/chain/:activity": {
    summary: "What decides where an activity lies, by name",
    response: chainSchema,
  },
  "GET /api/projects/:project/boxes": {
    summary: "Timeboxes with what stands in them, what remains of it against the hours of its people, and what waits",
    response: boxesSchema,
  },
  "GET /api/projects/:project/boxes/:box/back": {
    summary: "What was meant for a timebox, came in later, was finished in it and moved on",
    response: lookBackSchema,
  },
  "GET /api/projects/:project/milestones": {
    summary: "Each milestone's forecast as issued, period by period",
    response: milestoneTrendSchema,
  },
  "GET /api/projects/:project/milestones/:milestone": {
    summary: "A milestone with what it gathers: counts by state, hours, how far, and week by week how it got there",
    response: gatheredSchema,
  },
  "GET /api/projects/:project/slip/:milestone": {
    summary: "What can go along when a milestone slips; with `to`, by how many worked days it would slip to that day",
    query: { to: "the day to slip to, YYYY-MM-DD" },
    response: slipChoiceSchema,
  },
  "POST /api/projects/:project/slip/:milestone/effect": {
    summary: "What slipping it would move, and whom it concerns; nothing stored",
    body: slipRequestSchema,
    response: slipEffectSchema,
  },
  "POST /api/projects/:project/slip/:milestone": {
    summary: "Slip it with all that goes along, and tell those concerned",
    body: slipRequestSchema,
    response: slippedSchema,
  },
  "GET /api/projects/:project/performance/:by": {
    summary:
      "Its figures by `person`, `role`, `category` or `own:field`, by period, and earned schedule in every kind of period",
    response: performanceSchema,
  },
  "GET /api/programmes/:programme/load/:from/:weeks": {
    summary: "Weeks of those who have work in the projects of a group, with all their work",
    response: loadSchema,
  },
  "GET /api/load/:from/:weeks": {
    summary: "People's weeks from the one around a day on: capacity, remaining work, planned and booked time",
    response: loadSchema,
  },
  "GET /api/load/:person/:monday/work": { summary: "What one person's week consists of", response: loadCellSchema },

  "GET /api/watchlists": {
    summary: "Saved questions over all projects that one finds",
    response: z.array(watchlistSchema),
  },
  "POST /api/watchlists": {
    summary: "Save a question under a name",
    body: writeWatchlistSchema,
    response: watchlistSchema,
  },
  "GET /api/watchlists/:watchlist": {
    summary: "One saved question; whoever has the link may open it",
    response: watchlistSchema,
  },
  "PUT /api/watchlists/:watchlist": { summary: "Change one of one's own", body: writeWatchlistSchema, response: done },
  "DELETE /api/watchlists/:watchlist": { summary: "Remove one of one's own", response: done },
  "GET /api/watch/choices": { summary: "What may be selected in a question", response: watchChoicesSchema },
  "POST /api/watch": {
    summary: "Answer a question over all projects",
    body: watchQuestionSchema,
    response: watchAnswerSchema,
  },
  "POST /api/watch/rows": {
    summary: "All rows of an answer, or of one of its groups, where they are not too many",
    body: watchRowsSchema,
    response: z.array(watchRowSchema),
  },
  "POST /api/watch/export/:form": {
    summary: "The answer as csv, xlsx or ics",
    body: watchQuestionSchema,
    kinds: ["text/csv", WORKBOOK, "text/calendar"],
    response: file,
  },
  "POST /api/watch/effect": {
    summary: "What doing something with rows of a watchlist would move; nothing stored",
    body: watchActSchema,
    response: watchActEffectSchema,
  },
  "POST /api/watch/act": {
    summary: "Do something with rows of a watchlist, all or nothing; rows that it does not fit are left and named",
    body: watchActSchema,
    response: watchActDoneSchema,
  },
  "GET /api/calendars/:subject": {
    summary:
      "Whether calendar programs have an address for `deadlines`, `work`, `calendar`, `own-calendar` or a watchlist",
    response: calendarFeedSchema,
  },
  "POST /api/calendars": {
    summary: "Make an address for calendar programs; it is told once, and the one before ends",
    body: newFeedSchema,
    response: calendarFeedSchema,
  },
  "DELETE /api/calendars/:subject": { summary: "End the address of a subject", response: done },
  "GET /api/feeds/calendar/:secret": {
    summary: "The calendar behind a secret address, as iCalendar",
    kinds: ["text/calendar"],
    response: file,
  },

  "POST /api/find": {
    summary: "Projects, activities, milestones, people, watchlists, risks and issued periods by words of their names",
    body: findSchema,
    response: foundSchema,
  },

  "POST /api/imports": {
    summary: "Bring a file (multipart, field `file`, several for CSV)",
    file: "a plan: workbook, plan bundle or CSV; several files of CSV together",
    response: importViewSchema,
  },
  "GET /api/imports/:import": { summary: "What was understood of it", response: importViewSchema },
  "PUT /api/imports/:import": {
    summary: "Answer what it cannot say itself",
    body: importAnswersSchema,
    response: importViewSchema,
  },
  "GET /api/understandings": {
    summary: "How files were understood before, saved under names",
    response: understandingsSchema,
  },
  "DELETE /api/understandings/:understanding": { summary: "Forget it", response: done },
  "POST /api/imports/:import/understanding": {
    summary: "Save under a name how this file was understood; one of that name is replaced",
    body: keepUnderstandingSchema,
    response: understandingsSchema,
  },
  "POST /api/imports/:import/understanding/:understanding": {
    summary: "Understand this file as another one was",
    response: importViewSchema,
  },
  "POST /api/imports/:import/store": {
    summary: "Store it as a new project, all or nothing",
    body: storeImportSchema,
    response: storedSchema,
  },
  "GET /api/imports/:import/changes": {
    summary: "What it would change in the project that it is to bring changes to",
    response: fileChangesSchema,
  },
  "POST /api/imports/:import/changes/effect": {
    summary: "What taking rows over would move",
    body: takeChangesSchema,
    response: effectSchema,
  },
  "POST /api/imports/:import/changes": {
    summary: "Take rows over into the project",
    body: takeChangesSchema,
    response: changeResultSchema.omit({ changes: true }).extend({ project: z.string() }),
  },
  "DELETE /api/imports/:import": { summary: "Discard", response: done },
  "GET /api/house-history": {
    summary: "What was changed of accounts, settings, limits, rates and the register: what was, and what is",
    query: { about: "the kind of what was changed", before: "what was changed before this one, by its id" },
    response: houseHistorySchema,
  },
  "GET /api/health": { summary: "Whether the server runs; asks nothing of the database", response: done },
  "GET /api/ready": {
    summary:
      "Whether calls may be sent to it: 503 while the database does not answer, and while the server is being stopped",
    response: done,
  },
  "GET /api/feeds/metrics": {
    summary: "How the server fares, as text for monitoring systems: calls, connections, threads, locks, memory, lag",
    kinds: ["text/plain"],
    response: file,
  },
  "GET /api/openapi.json": { summary: "This interface as an OpenAPI document", response: z.unknown() },
} as const satisfies Record<string, Endpoint>;

export type EndpointKey = keyof typeof endpoints;
export type ResponseOf<K extends EndpointKey> = z.infer<(typeof endpoints)[K]["response"]>;
export type BodyOf<K extends EndpointKey> = (typeof endpoints)[K] extends { body: infer B extends z.ZodType }
  ? z.infer<B>
  : undefined;
