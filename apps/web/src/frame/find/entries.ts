import { MATTER_KIND_WORDS, type Followed, type Found, type Me } from "@chronometra/contract";
import MiniSearch from "minisearch";
import { placeOnDesk } from "../../shared/page/placeOnDesk.ts";
import { mayLook } from "../../shared/session/session.ts";
import { dateWords } from "../../shared/words/words.ts";
import { anyOf } from "../../watch/question/opens.ts";
import { questionText } from "../../watch/question/questionWords.ts";
import { ASIDE, HOUSE, placesFor, PROJECT } from "../places.ts";
import type { Command } from "./commands.ts";
import type { Recent } from "./recent.ts";

/** A line of what was found. */
export interface Entry {
  readonly key: string;
  readonly name: string;
  readonly aside: string;
  readonly kind: string;
  /** Where it is; what is done has none. */
  readonly to?: string;
  readonly run?: () => void;
}

export interface Group {
  readonly name: string;
  readonly entries: readonly Entry[];
}

const RECENT_SHOWN = 8;
const COMMANDS_SHOWN = 8;

/** All pages that someone may open: those of the project in hand first. */
export function pagesFor(me: Me, project: { id: string; code: string } | null): Entry[] {
  const entry = (to: string, name: string, aside: string): Entry => ({
    key: `page ${to}`,
    name,
    aside,
    kind: "page",
    to,
  });
  const ofProject =
    project === null
      ? []
      : PROJECT.flatMap(({ name: place, pages }) =>
          pages.map(({ to, name }) =>
            entry(
              `/projects/${project.id}${to === "" ? "" : `/${to}`}`,
              name,
              `${project.code}, ${place.toLowerCase()}`,
            ),
          ),
        );
  const ofHouse = placesFor(HOUSE, me).flatMap(({ name: place, pages }) =>
    pages.map(({ to, name }) => entry(to, name, pages.length > 1 ? place.toLowerCase() : "")),
  );
  return [...ofProject, ...ofHouse, ...ASIDE.map(({ to, name }) => entry(to, name, ""))];
}

/** Those whose names have all words that were typed, as they begin or but for a letter or two; the likeliest first. */
export function matching<T extends { readonly key: string; readonly name: string }>(
  things: readonly T[],
  text: string,
): T[] {
  const index = new MiniSearch<T>({ idField: "key", fields: ["name"], processTerm: (term) => term.toLowerCase() });
  const byKey = new Map(things.map((thing) => [thing.key, thing]));
  index.addAll([...byKey.values()]);
  return index
    .search(text, {
      prefix: true,
      fuzzy: (term) => (term.length < 4 ? 0 : term.length < 6 ? 1 : 2),
      combineWith: "AND",
    })
    .map(({ id }) => byKey.get(id as string)!);
}

const recentEntry = ({ to, name, aside, kind }: Recent): Entry => ({ key: `recent ${to}`, name, aside, kind, to });
const commandEntry = ({ key, name, run }: Command): Entry => ({ key, name, aside: "", kind: "command", run });

const planAt = (project: string, activity: string): string =>
  `/projects/${project}/plan?at=${encodeURIComponent(activity)}`;

const stateAside = ({ code, branch, state, finish }: Found["activities"][number]): string =>
  [code, branch, state === "parked" ? "parked" : finish === null ? "without dates" : `finishes ${dateWords(finish)}`]
    .filter((part) => part !== "")
    .join(" · ");

function activityEntry(me: Me, activity: Found["activities"][number]): Entry {
  const { project, id, name, kind } = activity;
  return {
    key: `activity ${project} ${id}`,
    name,
    aside: stateAside(activity),
    kind: kind === "milestone" ? "milestone" : kind === "summary" ? "branch" : "activity",
    to: mayLook(me) ? planAt(project, id) : `/desk#${encodeURIComponent(placeOnDesk(project, id))}`,
  };
}

/** The question for all that someone has to do. */
const workOf = (person: string): string =>
  `/watch?q=${questionText({
    about: "activities",
    where: [[anyOf("people", [person])]],
    columns: ["name", "project", "start", "finish", "drift", "percent"],
    sort: [{ field: "finish", desc: false }],
    group: null,
    pivot: null,
  })}`;

const projectEntry = ({ id, code, name, closed }: Found["projects"][number]): Entry => ({
  key: `project ${id}`,
  name,
  aside: closed ? `${code} · closed` : code,
  kind: "project",
  to: `/projects/${id}`,
});

const personEntry = ({ id, name }: Found["people"][number]): Entry => ({
  key: `person ${id}`,
  name,
  aside: "all of their work",
  kind: "person",
  to: workOf(id),
});

const watchlistEntry = ({ id, name }: Found["watchlists"][number]): Entry => ({
  key: `watchlist ${id}`,
  name,
  aside: "",
  kind: "watchlist",
  to: `/watch/${id}`,
});

/** A group, and the reports that were issued of it. */
const groupEntries = ({ id, name, issued }: Found["groups"][number]): Entry[] => [
  { key: `group ${id}`, name, aside: "its sums, projects and deadlines", kind: "group", to: `/groups/${id}` },
  ...(issued === null
    ? []
    : [
        {
          key: `reports ${id}`,
          name: `Report of ${name}`,
          aside: `issued up to period ${issued}`,
          kind: "report",
          to: `/reports/${id}`,
        },
      ]),
];

const riskEntry = ({ id, project, code, name }: Found["risks"][number]): Entry => ({
  key: `risk ${project} ${id}`,
  name,
  aside: code,
  kind: "risk",
  to: `/projects/${project}/chances`,
});

const matterEntry = ({ id, kind, name, code, open }: Found["matters"][number]): Entry => ({
  key: `matter ${id}`,
  name,
  aside: [code, open ? "" : "done with"].filter((part) => part !== "").join(" · "),
  kind: MATTER_KIND_WORDS[kind][0],
  to: `/registers?all=1&matter=${encodeURIComponent(id)}`,
});

const periodEntry = ({ project, code, number, dataDate }: Found["periods"][number]): Entry => ({
  key: `period ${project} ${number}`,
  name: `Report of period ${number}, ${code}`,
  aside: `data date ${dateWords(dataDate)}`,
  kind: "report",
  to: `/projects/${project}/report/${number}`,
});

/** What the server found, kind by kind. */
export function foundGroups(me: Me, found: Found): Group[] {
  const activities = found.activities.map((activity) => activityEntry(me, activity));
  return [
    { name: "Projects", entries: found.projects.map(projectEntry) },
    { name: "Groups", entries: found.groups.flatMap(groupEntries) },
    { name: "Milestones", entries: activities.filter(({ kind }) => kind === "milestone") },
    { name: "Activities", entries: activities.filter(({ kind }) => kind !== "milestone") },
    { name: "People", entries: found.people.map(personEntry) },
    { name: "Watchlists", entries: found.watchlists.map(watchlistEntry) },
    { name: "Risks", entries: found.risks.map(riskEntry) },
    { name: "Registers", entries: found.matters.map(matterEntry) },
    { name: "Reports", entries: found.periods.map(periodEntry) },
  ];
}

/** What one keeps at hand. */
export const pinnedEntry = ({ place, name, link }: Followed): Entry => ({
  ...{ key: `pinned ${link}`, name, aside: "", kind: place.about === "matter" ? "register" : place.about, to: link },
});

interface Local {
  readonly pinned: readonly Entry[];
  readonly recent: readonly Recent[];
  readonly commands: readonly Command[];
  readonly pages: readonly Entry[];
}

/**
 * All that is shown for a text, nothing twice: what was opened lately, what the page does, pages, and what the server
 * found.
 */
export function groupsFor(
  me: Me,
  text: string,
  { pinned, recent, commands, pages }: Local,
  found: Found | null,
): Group[] {
  const [recents, doing] = [recent.map(recentEntry), commands.map(commandEntry)];
  const groups: Group[] =
    text === ""
      ? [
          { name: "At hand", entries: pinned },
          { name: "Opened lately", entries: recents.slice(0, RECENT_SHOWN) },
          { name: "On this page", entries: doing.slice(0, COMMANDS_SHOWN) },
        ]
      : [
          { name: "At hand", entries: matching(pinned, text) },
          { name: "Opened lately", entries: matching(recents, text).slice(0, RECENT_SHOWN) },
          { name: "On this page", entries: matching(doing, text).slice(0, COMMANDS_SHOWN) },
          { name: "Pages", entries: matching(pages, text).slice(0, COMMANDS_SHOWN) },
          ...(found === null ? [] : foundGroups(me, found)),
        ];
  const seen = new Set<string>();
  return groups
    .map(({ name, entries }) => ({
      name,
      entries: entries.filter(({ to }) => to === undefined || (!seen.has(to) && (seen.add(to), true))),
    }))
    .filter(({ entries }) => entries.length > 0);
}
