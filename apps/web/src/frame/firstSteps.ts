import type { Me, PeriodBar, Portfolio } from "@chronometra/contract";
import { holds, mayLook } from "../shared/session/session.ts";
import { countWords } from "../shared/words/words.ts";

/** Something that is someone's to do. */
export interface Step {
  readonly name: string;
  readonly to: string;
  /** Why, in a sentence. */
  readonly why: string;
  /** How it stands: what is done or still open, in words; `null` of what is never finished. */
  readonly stands: string | null;
  readonly done: boolean;
}

/** What is known of the installation; `undefined` while it is not. */
export interface Known {
  readonly period: PeriodBar | undefined;
  readonly portfolio: Portfolio | undefined;
  /** Baselines and change requests that wait for a decision. */
  readonly waiting: number | undefined;
}

export interface RoleSteps {
  readonly role: string;
  readonly steps: readonly Step[];
}

const always = (name: string, to: string, why: string): Step => ({ name, to, why, stands: null, done: false });
const counted = (name: string, to: string, why: string, done: boolean, stands: string): Step => ({
  name,
  to,
  why,
  stands,
  done,
});

function controllerSteps({ period, portfolio }: Known): Step[] {
  const projects = portfolio?.projects.length ?? 0;
  const approved = portfolio?.projects.filter(({ summary }) => summary.baseline !== null).length ?? 0;
  const groups = portfolio?.programmes.length ?? 0;
  return [
    counted(
      "Bring the plans",
      "/import",
      "From workbooks, CSV files or plan bundles; what is in them is shown before it is stored.",
      projects > 0,
      projects === 0 ? "none yet" : countWords(projects, "project is", "projects are").concat(" here"),
    ),
    counted(
      "Group them, and set limits",
      "/set-up/groups",
      "Programmes, fields of your own, and the limits beyond which a manager is asked to explain.",
      groups > 0,
      groups === 0 ? "no group yet" : countWords(groups, "group", "groups"),
    ),
    counted(
      "See that plans are approved",
      "/approvals",
      "A manager asks, another person approves: the plan is frozen, and everything is measured against it.",
      projects > 0 && approved === projects,
      `${approved} of ${countWords(projects, "project", "projects")}`,
    ),
    counted(
      "Open a reporting period",
      "/cycle?next=open",
      "Its data date says up to when everyone reports; the bar above every page counts what is still open in it.",
      period?.number != null,
      period?.number == null ? "none is open" : `period ${period.number} is open`,
    ),
    always("Go through the cycle", "/cycle", "Collect, remind, review, recalculate, check, explain, issue, lock."),
  ];
}

function managerSteps(me: Me, { portfolio }: Known): Step[] {
  const own = portfolio?.projects.filter(({ manager, closed }) => manager === me.name && !closed) ?? [];
  const unapproved = own.filter(({ summary }) => summary.baseline === null);
  const first = own[0];
  const waiting = own.reduce((sum, { waiting: reports }) => sum + reports, 0);
  return [
    counted(
      "Have a plan",
      first === undefined ? "/import" : `/projects/${first.id}/plan`,
      "Type it, paste it, or bring it from a file; dates follow from links, durations and calendars.",
      own.length > 0,
      own.length === 0 ? "none is yours yet" : countWords(own.length, "project is yours", "projects are yours"),
    ),
    counted(
      "Get it approved",
      `/projects/${(unapproved[0] ?? first)?.id ?? ""}/approvals`,
      "Ask under Approvals of the project; until then there is nothing to be late against.",
      own.length > 0 && unapproved.length === 0,
      unapproved.length === 0 ? "all approved" : `${unapproved.length} not approved yet`,
    ),
    counted(
      "Review what people report",
      "/time",
      "You see what each report would move before you accept it.",
      waiting === 0,
      waiting === 0 ? "nothing waits" : `${countWords(waiting, "report waits", "reports wait")}`,
    ),
    always("Explain what broke a limit", "/cycle?step=Explain", "A sentence to each; it stays with the period."),
  ].filter(({ to }) => to !== "/projects//approvals");
}

/** What each role of someone has to do, in the order in which to do it, and how it stands. */
export function firstSteps(me: Me, known: Known): RoleSteps[] {
  const steps: RoleSteps[] = [];
  if (holds(me, "administrator"))
    steps.push({
      role: "Administrator",
      steps: [
        always(
          "Add the people who sign in",
          "/set-up/accounts",
          "Give each their roles, and tie them to their person in the plans.",
        ),
        always("Let other systems send", "/set-up/systems", "Each gets a token of its own, which you can revoke."),
        always("See that mail leaves", "/mail", "What could not be sent stands there with the reason."),
      ],
    });
  if (holds(me, "controller")) steps.push({ role: "Controller", steps: controllerSteps(known) });
  if (holds(me, "projectManager")) steps.push({ role: "Project manager", steps: managerSteps(me, known) });
  if (holds(me, "approver"))
    steps.push({
      role: "Approver",
      steps: [
        counted(
          "Decide what waits",
          "/approvals",
          "Each shows what it changes, what it costs, and how far the plan can be trusted.",
          known.waiting === 0,
          known.waiting === undefined ? "" : known.waiting === 0 ? "nothing waits" : `${known.waiting} wait`,
        ),
      ],
    });
  if (me.person !== null)
    steps.push({
      role: "Your own work",
      steps: [
        always("See what is yours", "/desk", "What is due, what waits for others, and what changed since you looked."),
        always(
          "Book time and progress",
          "/desk/week",
          "On the card of the work, or a week at a time; then send the week.",
        ),
        always(
          "Say where your days begin",
          "/settings",
          "Time is booked for days, and those are the days of your time zone.",
        ),
      ],
    });
  if (mayLook(me) && !holds(me, "controller", "projectManager"))
    steps.push({
      role: "Reading",
      steps: [
        always(
          "See what moved",
          "/",
          "What moved, breaks a promise, costs more or cannot be trusted; every number opens its rows.",
        ),
        always("Look at the promises", "/deadlines", "Which will be kept, which not, and which chain leads there."),
        always("Save a question", "/watch", "Filter, group and save what you want to see again."),
      ],
    });
  return steps;
}
