import { dateWords } from "../../shared/words/words.ts";
import {
  addDays,
  type Change,
  closeOf,
  type Computed,
  finishDayOf,
  formatDate,
  type LocalMinute,
  localMinute,
  parseDate,
  type Plan,
  wishText,
  type WorkCalendar,
} from "@chronometra/core";

/** What someone does to an activity in the time chart. */
export type Gesture =
  | { readonly what: "move"; readonly activity: string; /** Where its start is put. */ readonly to: number }
  | {
      readonly what: "stretch";
      readonly activity: string;
      /** Where its finish is put. */ readonly to: number;
      /** Whether to the hour, or to whole days. */ readonly fine: boolean;
    }
  | {
      readonly what: "link";
      readonly from: string;
      readonly fromEnd: "start" | "finish";
      readonly to: string;
      readonly toEnd: "start" | "finish";
      readonly key: string;
    };

/** What a gesture comes to, said in words, or why it cannot be. */
export type Meant =
  | {
      readonly changes: readonly Change[];
      readonly words: string;
      /** A date wish that someone meant and that would go, in words. */
      readonly replaces?: string;
    }
  | { readonly fault: string };

const TYPE = { "finish-start": "FS", "start-start": "SS", "finish-finish": "FF", "start-finish": "SF" } as const;
const HOUR = 60;
const MINUTES_OF_A_DAY = 1440;

/** Working time from a start to where a finish was put: to the hour, or to the end of that day. */
function lengthTo(calendar: WorkCalendar, from: LocalMinute, to: number, fine: boolean): number {
  const end = fine ? Math.round(to / HOUR) * HOUR : closeOf(finishDayOf(localMinute(to + 1)));
  return calendar.indexAt(localMinute(end)) - calendar.indexAt(from);
}

function move(value: Plan, computed: Computed, { activity: id, to }: Extract<Gesture, { what: "move" }>): Meant {
  const activity = value.activities.get(id)!;
  const row = computed.schedule.rows[computed.schedule.tree.indexOf.get(id)!];
  const state = row?.state ?? "notStarted";
  if (state !== "notStarted")
    return {
      fault:
        state === "complete"
          ? "It has finished; correct its actual dates instead."
          : "It has begun; what remains of it moves by its remaining duration or by its people.",
    };
  if (activity.kind === "summary" || activity.kind === "levelOfEffort")
    return { fault: "Its dates come from other activities; move those." };
  if (row == null) return { fault: "It has no dates yet; give it a duration first." };
  // By whole days from the day on which it is shown, so that work that begins after noon is not put a day further.
  const atFinish = activity.kind === "milestone" && !row.shownAsStart;
  const shown = atFinish ? row.finishDay : row.startDay;
  const days = Math.round((to - row.start) / MINUTES_OF_A_DAY);
  if (days === 0) return { changes: [], words: `${activity.name} stays on ${dateWords(formatDate(shown))}` };
  const date = formatDate(addDays(shown, days));
  const type = atFinish ? "finishNotBefore" : "startNotBefore";
  const { wish } = activity;
  const isMeant = wish !== undefined && (wish.reason !== undefined || wish.type !== type);
  return {
    changes: [{ type: "setWish", activity: id, wish: { type, date } }],
    words: `A date wish: ${activity.name} not before ${dateWords(date)}`,
    ...(isMeant ? { replaces: wishText(wish) } : {}),
  };
}

function stretch(
  value: Plan,
  computed: Computed,
  { activity: id, to, fine }: Extract<Gesture, { what: "stretch" }>,
): Meant {
  const activity = value.activities.get(id)!;
  const row = computed.schedule.rows[computed.schedule.tree.indexOf.get(id)!];
  if (row == null || (activity.kind ?? "work") !== "work") return { fault: "Only work has a duration." };
  if (activity.driver === "effort") return { fault: "Its dates follow the hours of its people; change those." };
  const { state } = row;
  if (state === "complete") return { fault: "It has finished; correct its actual dates instead." };
  const calendar = computed.schedule.calendars.get(activity.calendar ?? value.project.calendar);
  if (state === "inProgress") {
    // Progress needs a data date, so there is one; what is left lies after it.
    const since = closeOf(parseDate(value.project.dataDate!)!);
    const left = Math.max(0, lengthTo(calendar, since, to, fine));
    return {
      changes: [{ type: "reportProgress", activity: id, remainingMinutes: left }],
      words: `${activity.name}: ${Math.round((left / calendar.dayMinutes) * 100) / 100} d remaining`,
    };
  }
  if (to <= row.start) return { fault: "It cannot finish before it starts." };
  const minutes = Math.max(fine ? HOUR : 1, lengthTo(calendar, row.start, to, fine));
  return {
    changes: [{ type: "setDuration", activity: id, minutes }],
    words: `${activity.name} takes ${Math.round((minutes / calendar.dayMinutes) * 100) / 100} d`,
  };
}

function link(value: Plan, { from, fromEnd, to, toEnd, key }: Extract<Gesture, { what: "link" }>): Meant {
  const [a, b] = [value.activities.get(from)!, value.activities.get(to)!];
  if (from === to) return { fault: "An activity cannot come after itself." };
  const summary = [a, b].find(({ kind }) => kind === "summary");
  if (summary !== undefined) return { fault: `${summary.name} is a summary; link the activities below it.` };
  const type = TYPE[`${fromEnd}-${toEnd}`];
  const known = [...value.links.values()].some(
    (other) => other.from === from && other.to === to && (other.type ?? "FS") === type,
  );
  if (known) return { fault: "They are linked like this already." };
  const words = {
    FS: `${b.name} starts after ${a.name} finishes`,
    SS: `${b.name} starts no earlier than ${a.name}`,
    FF: `${b.name} finishes no earlier than ${a.name}`,
    SF: `${b.name} finishes no earlier than ${a.name} starts`,
  }[type];
  return {
    changes: [{ type: "addRow", table: "links", key, row: { from, to, ...(type === "FS" ? {} : { type }) } }],
    words,
  };
}

/** Reads a gesture in the time chart as changes. */
export function dragged(value: Plan, computed: Computed, gesture: Gesture): Meant {
  switch (gesture.what) {
    case "move":
      return move(value, computed, gesture);
    case "stretch":
      return stretch(value, computed, gesture);
    case "link":
      return link(value, gesture);
    default:
      return gesture satisfies never;
  }
}
