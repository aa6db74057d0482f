import { closeOf, parseDate, type LocalMinute } from "../../time/instant.ts";
import { offence, type Offence } from "../ground/check.ts";
import type { Finding } from "../ground/finding.ts";
import type { Placed, PlacedLink } from "../ground/ground.ts";
import { linkWords } from "../ground/linkWords.ts";

/** When something began; where only the day was said, its close, so that it may begin on the day on which another ends. */
function startAtLatest({ activity: { actualStart, actualFinish }, row }: Placed): LocalMinute {
  const said = actualStart ?? actualFinish;
  const day = said === undefined ? null : parseDate(said);
  return day === null ? row.start : closeOf(day);
}

/** Whether what has happened breaks a link: the later end came about before the link allows it. */
function broken({ link, from, to }: PlacedLink): boolean {
  const type = link.type ?? "FS";
  const happened =
    type === "FS" || type === "SS" ? to.activity.actualStart !== undefined || (!to.isWork && !to.isOpen) : !to.isOpen;
  if (!happened) return false;
  const theirs = type === "FS" || type === "FF" ? from.row.finish : from.row.start;
  const own = type === "FS" || type === "SS" ? startAtLatest(to) : to.row.finish;
  const lag = link.lagMinutes ?? 0;
  if (link.lagIn === "elapsed") return own < theirs + lag;
  return to.calendar.indexAt(own) < to.calendar.indexAt(theirs) + lag;
}

export const outOfSequence: Finding = {
  key: "outOfSequence",
  about: "reporting",
  name: "Out of sequence",
  why: "What was reported contradicts a link: either the link is wrong or the report is.",
  mend: "links",
  find: ({ allLinks }) =>
    allLinks
      .filter(broken)
      .map((placed): Offence => offence(placed.to.at, placed, (link) => `should be: ${linkWords(link)}`)),
};
