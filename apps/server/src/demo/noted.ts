import { Readable } from "node:stream";
import { noteChanges, type ActivityNote } from "@chronometra/core";
import { addFile, addLink, type Place } from "../documents/documents.ts";
import { storeContent } from "../documents/fileParts.ts";
import { change, planOf, type LiveProject, type World } from "./world.ts";

/** Of which project it is told. */
const CODE = "LG-02";
/** What has to be known of the work that comes next, by the activity's name. */
const NOTES: Readonly<Record<string, ActivityNote>> = {
  "Align drives, north chamber": {
    description:
      "Both drives run together within 2 mm over the whole stroke, dry first, then at half and full head. It counts as done when the harbour master has seen three strokes at full head without a stop.",
    priority: "high",
    checks: [
      { id: "level", text: "Level of the rack taken, and written down", done: true },
      { id: "locks", text: "Stop logs in, and the chamber signed off as dry", done: true },
      { id: "limit", text: "Limit switches set and sealed" },
      { id: "seen", text: "Three strokes seen by the harbour master" },
    ],
  },
};
const METHOD = `Aligning the drives of the north chamber

1. Dry: turn by hand, measure at five points of the stroke.
2. Half head: slow gear, stop at each point, compare with 1.
3. Full head: three strokes without a stop, in the slack of the tide.

Nobody stands below the walkway while a leaf moves.
`;

/** What the demo tells of an activity and of its project besides dates: notes, a file in two versions, links. */
export async function notedInDemo(world: World, projects: readonly LiveProject[], at: Date): Promise<void> {
  const live = projects.find(({ demo }) => demo.code === CODE);
  if (live === undefined) return;
  const { database } = world;
  const { id, manager } = live;
  const plan = await planOf(database, id);
  const noted = [...plan.activities.values()].filter(({ name }) => NOTES[name] !== undefined);
  const changes = noted.flatMap((activity) => noteChanges(plan, activity.id, NOTES[activity.name]!));
  await change(world, id, manager, changes, "What to know of the drives", at);
  const file = async (to: Place | { document: string }, name: string, text: string): Promise<string> => {
    const content = await storeContent(database, name, Readable.from([Buffer.from(text)]));
    return (await addFile(database, manager, id, to, content)).id;
  };
  for (const activity of noted) {
    const place = { about: "activity", aboutId: activity.id } as const;
    const document = await file(place, "Method, drives.txt", METHOD.replace(/\n3\..*/, ""));
    await file({ document }, "Method, drives.txt", METHOD);
  }
  await addLink(database, manager, id, {
    ...{ about: "project", aboutId: "" },
    ...{ name: "Permit of the water board", link: "https://example.org/permits/north-lock" },
  });
}
