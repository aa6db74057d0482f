/** What people are told of, in the order in which it is read. */
export const NOTICE_KINDS = [
  "asked",
  "talk",
  "decided",
  "risk",
  "begin",
  "moved",
  "blocked",
  "deadline",
  "period",
] as const;
export type NoticeKind = (typeof NOTICE_KINDS)[number];

/** What each kind is called above several of them, and what is meant by it. */
export const NOTICE_WORDS: Readonly<Record<NoticeKind, readonly [heading: string, means: string]>> = {
  asked: [
    "Asked of you",
    "An approval, a change, a gate, reports to accept or to issue, something in a register, your time",
  ],
  talk: ["Said to you", "Somebody named you, answered where you wrote, or spoke of what you do or answer for"],
  decided: ["Decided or returned", "What you asked for, reported or raised was decided, accepted or returned"],
  risk: ["Risks that struck", "A risk that you own, raised or manage struck"],
  begin: ["Can begin", "What your work waited for is done"],
  moved: ["Your dates", "Approved work of yours has other dates, all of a project together"],
  blocked: ["Blocked or going on", "Work of yours, or in a project that you manage, is blocked or no longer is"],
  deadline: ["Deadlines", "A deadline of your work or project turned tight, breaks, or is safe again"],
  period: ["Periods and projects", "A period opens, a report is issued to you, a project changes hands"],
};

/** How mail is sent of a kind: at once, with the day's or the week's, or not at all. */
export const MAIL_WAYS = ["once", "day", "week", "never"] as const;
export type MailWay = (typeof MAIL_WAYS)[number];

export const MAIL_WAY_WORDS: Readonly<Record<MailWay, string>> = {
  once: "at once",
  day: "once a day",
  week: "once a week",
  never: "no mail",
};

/** How mail is sent where nobody has said otherwise. */
export const USUAL_WAYS: Readonly<Record<NoticeKind, MailWay>> = {
  asked: "once",
  talk: "once",
  decided: "once",
  risk: "once",
  begin: "once",
  moved: "day",
  blocked: "day",
  deadline: "day",
  period: "once",
};
