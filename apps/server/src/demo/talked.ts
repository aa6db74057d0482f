import { Readable } from "node:stream";
import type { TalkPlace } from "@chronometra/contract";
import { listMatters } from "../matters/listMatters.ts";
import { inTransaction } from "../shared/database.ts";
import { say } from "../talk/messages.ts";
import { at, planOf, POST, type LiveProject, type World } from "./world.ts";
import { storeContent } from "../documents/fileParts.ts";
import { addTalkFile } from "../talk/talkFiles.ts";

/** Who said what when, the first name for whoever it is; `mail` for what came as an answer by mail. */
type Line = readonly [login: string, date: string, time: string, text: string, how?: "mail" | typeof LOG];

/** The file that goes with a message. */
const LOG = {
  name: "leaf-positions-night-of-22-nov.csv",
  text: "hour;head m;north mm;south mm\n22;1.1;0.4;0.6\n0;1.9;0.9;1.4\n2;2.6;1.3;2.2\n4;3.0;1.6;3.1\n6;2.2;1.1;1.9\n",
};

/** Of which project it is told. */
const CODE = "LG-02";
const ALIGN = "Align drives, north chamber";
const BARGE = "The barge of the yard is laid up until the new year";

const ABOUT_DRIVES: readonly Line[] = [
  ["tomas", "2026-11-23", "08:05", "@Amadou Keller, did both drives hold 2 mm over the night?"],
  [
    "amadou",
    "2026-11-23",
    "09:40",
    "North yes. South drifts to 3.1 mm at half head; the third measuring point looks worn.",
    LOG,
  ],
  [
    "brigid",
    "2026-11-23",
    "10:15",
    "I have the old plate of that point in the store. A day to fit it, if the chamber stays dry.",
    "mail",
  ],
  [
    "tomas",
    "2026-11-23",
    "10:30",
    "Then fit it tomorrow, @Brigid Yilmaz. The check with the harbour master moves to Thursday.",
  ],
];
const ABOUT_BARGE: readonly Line[] = [
  [
    "tomas",
    "2026-11-20",
    "13:20",
    "@Margit Adeyemi, without the barge the leaves wait until January. May we charter one?",
  ],
  [
    "margit",
    "2026-11-23",
    "16:02",
    "Send me what it costs beside what a month of waiting costs, and I decide the same day.",
    "mail",
  ],
];

/** Lets people of the demo talk where the work is: about an activity, and about an issue. */
export async function talkedInDemo(world: World, projects: readonly LiveProject[]): Promise<void> {
  const live = projects.find(({ demo }) => demo.code === CODE);
  if (live === undefined) return;
  const { database } = world;
  const people = new Map([...world.accounts.values()].map((me) => [me.login, me]));
  const sayAll = async (place: TalkPlace, lines: readonly Line[]): Promise<void> => {
    for (const [login, date, time, text, how] of lines) {
      const me = people.get(login)!;
      const log = how === LOG && (await storeContent(database, LOG.name, Readable.from([Buffer.from(LOG.text)])));
      await inTransaction(database, async (manager) => {
        const files = log === false ? [] : [(await addTalkFile(manager, me, place, log)).id];
        await say(manager, me, POST, { place, text, files, byMail: how === "mail", at: at(date, time) });
      });
    }
  };
  const drives = [...(await planOf(database, live.id)).activities.values()].find(({ name }) => name === ALIGN);
  const { matters } = await listMatters(database, live.manager, { project: live.id, kind: "issue", all: "1" });
  const barge = matters.find(({ title }) => title === BARGE);
  if (drives === undefined || barge === undefined) throw new Error("The demo talks about what is not there.");
  await sayAll({ about: "activity", project: live.id, aboutId: drives.id }, ABOUT_DRIVES);
  await sayAll({ about: "matter", project: "", aboutId: barge.id }, ABOUT_BARGE);
}
