import { Readable } from "node:stream";
import { noteChanges, type ActivityNote } from "@chronometra/core";
import { addFile, addLink, type Place } from "../documents/documents.ts";
import { storeContent } from "../documents/fileParts.ts";
import { change, planOf, type LiveProject, type World } from "./world.ts";

/** Of which project it is told. */
const CODE = "LG-02";
/** What has to be known of work, by the activity's name: notes, and how it is done. */
const NOTED: Readonly<Record<string, { readonly note: ActivityNote; readonly method: readonly string[] }>> = {
  "Align drives, north chamber": {
    note: {
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
    method: [
      "Dry: turn by hand, measure at five points of the stroke.",
      "Half head: slow gear, stop at each point, compare with the dry run.",
      "Full head: three strokes without a stop, in the slack of the tide.",
    ],
  },
  "Hang leaves, middle wall": {
    note: {
      description: "The leaves come by barge on the flood and hang before the ebb. No lift above a wind of 10 m/s.",
      checks: [
        { id: "slings", text: "Slings and shackles inspected today" },
        { id: "wind", text: "Wind and tide of the day written on the board" },
        { id: "pins", text: "Pins greased, and their keys in" },
      ],
    },
    method: [
      "Moor the barge head to tide, fenders out.",
      "Lift to a hand's breadth over the pintle, and wait until it hangs still.",
      "Lower, pin, and let go of the slings last.",
    ],
  },
};
const textOf = (lines: readonly string[]): string =>
  `${lines.map((line, i) => `${i + 1}. ${line}`).join("\n")}\n\nNobody stands below while a leaf moves.\n`;

/** What the demo tells of an activity and of its project besides dates: notes, a file in two versions, links. */
export async function notedInDemo(world: World, projects: readonly LiveProject[], at: Date): Promise<void> {
  const live = projects.find(({ demo }) => demo.code === CODE);
  if (live === undefined) return;
  const { database } = world;
  const { id, manager } = live;
  const plan = await planOf(database, id);
  const noted = [...plan.activities.values()].filter(({ name }) => NOTED[name] !== undefined);
  const changes = noted.flatMap((activity) => noteChanges(plan, activity.id, NOTED[activity.name]!.note));
  await change(world, id, manager, changes, "What has to be known of the gates", at);
  const file = async (to: Place | { document: string }, name: string, text: string): Promise<string> => {
    const content = await storeContent(database, name, Readable.from([Buffer.from(text)]));
    return (await addFile(database, manager, id, to, content)).id;
  };
  for (const activity of noted) {
    const place = { about: "activity", aboutId: activity.id } as const;
    const { method } = NOTED[activity.name]!;
    // A first version lacked the last step.
    const document = await file(place, "Method.txt", textOf(method.slice(0, -1)));
    await file({ document }, "Method.txt", textOf(method));
  }
  await addLink(database, manager, id, {
    ...{ about: "project", aboutId: "" },
    ...{ name: "Permit of the water board", link: "https://example.org/permits/north-lock" },
  });
}
