import { WATCH_ABOUT, type WatchAbout, type Watchlist, type WatchQuestion } from "@chronometra/contract";
import { NavLink } from "react-router";
import { ABOUT_WORDS, questionText } from "./question/questionWords.ts";

/** What one begins to ask with, of each thing that can be asked about. */
export const FRESH: Record<WatchAbout, WatchQuestion> = {
  activities: {
    about: "activities",
    where: [[{ field: "state", is: "any", of: ["notStarted", "inProgress"] }]],
    columns: ["name", "project", "people", "start", "finish", "drift", "percent"],
    sort: [{ field: "finish", desc: false }],
    group: null,
    pivot: null,
  },
  time: {
    about: "time",
    where: [[{ field: "date", is: "within", from: "today-28", to: "today" }]],
    columns: ["date", "name", "project", "hours", "amount", "note"],
    sort: [{ field: "date", desc: true }],
    group: "person",
    pivot: null,
  },
  costs: {
    about: "costs",
    where: [],
    columns: ["date", "name", "project", "category", "amount", "note"],
    sort: [{ field: "date", desc: true }],
    group: null,
    pivot: null,
  },
  risks: {
    about: "risks",
    where: [],
    columns: ["risk", "chance", "name", "project", "likely", "expected", "costExpected", "finish"],
    sort: [{ field: "chance", desc: true }],
    group: null,
    pivot: null,
  },
};

/** The watchlists one finds: those that ship, one's own, those of others. */
export function Shelf({ lists }: { lists: readonly Watchlist[] }) {
  const parts = [
    { name: "Ready made", of: lists.filter(({ ready }) => ready) },
    { name: "Mine", of: lists.filter(({ mine }) => mine) },
    { name: "Shared with me", of: lists.filter(({ ready, mine }) => !ready && !mine) },
  ];
  return (
    <nav aria-label="Watchlists" className="w-56 shrink-0 overflow-auto border-r rule px-4 py-3 max-[760px]:columns-2">
      <h1 className="pb-1 text-xl">Watchlists</h1>
      {parts
        .filter(({ of }) => of.length > 0)
        .map(({ name, of }) => (
          <section key={name} className="pb-2">
            <h2 className="muted font-sans text-xs">{name}</h2>
            <ul>
              {of.map((list) => (
                <li key={list.id}>
                  <NavLink
                    to={`/watch/${list.id}`}
                    className={({ isActive }) =>
                      `block min-h-[26px] border-l-2 py-0.5 pl-2 text-sm ${isActive ? "border-accent font-semibold" : "border-transparent hover:border-base-300"}`
                    }
                    title={list.owner === "" ? undefined : `by ${list.owner}`}
                  >
                    {list.name}
                  </NavLink>
                </li>
              ))}
            </ul>
          </section>
        ))}
      <section>
        <h2 className="muted font-sans text-xs">Ask anew</h2>
        <ul>
          {WATCH_ABOUT.map((about) => (
            <li key={about}>
              <NavLink
                to={`/watch?q=${questionText(FRESH[about])}`}
                className="block min-h-[26px] border-l-2 border-transparent py-0.5 pl-2 text-sm hover:border-base-300"
              >
                {ABOUT_WORDS[about]}
              </NavLink>
            </li>
          ))}
        </ul>
      </section>
    </nav>
  );
}
