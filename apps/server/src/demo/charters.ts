import type { Benefit, Charter, CharterField, Deliverable, OwnWords, WriteCharter } from "@chronometra/contract";
import { viewCharter, writeCharter } from "../charter/charter.ts";
import type { LiveProject, World } from "./world.ts";

/** What the demo's projects say of themselves; a deliverable names by their names what makes it. */
interface Chartered {
  readonly fields: Partial<Pick<Charter, CharterField>>;
  readonly benefits?: Readonly<Record<string, Benefit>>;
  readonly words?: OwnWords;
  readonly deliverables?: Readonly<Record<string, Omit<Deliverable, "makes"> & { readonly madeBy: readonly string[] }>>;
}

/** By project code. */
const CHARTERS: Readonly<Record<string, Chartered>> = {
  "LG-02": {
    fields: {
      sponsor: "Harbour master’s office",
      organisation: "Locks and crossings",
      kind: "Renewal of works that stand",
      purpose:
        "The north gates leak and are moved by hand when the drives fail. New leaves and drives let ships of the wide class " +
        "pass without waiting for slack water, and end the closures of three weeks each spring.",
      assumptions: "The sill is sound. The yard keeps two berths free until the leaves are accepted.",
      constraints:
        "The lock is closed to traffic only between October and March. No works at night beside the nursery.",
    },
    words: { high: "before reopening" },
    benefits: {
      waiting: {
        what: "Ships of the wide class wait less",
        measure: "hours a ship waits, average of a year",
        target: "1.5 h instead of 6 h",
        by: "2027-12-31",
        money: [],
        measured: [{ on: "2026-01-31", text: "6.2 h before the works", amountMinor: null }],
      },
      closures: {
        what: "No closures of three weeks for repairs",
        measure: "tolls that are not lost",
        target: "180 000 a year",
        by: null,
        money: [
          { period: "2027", amountMinor: 9_000_000 },
          { period: "2028", amountMinor: 18_000_000 },
          { period: "2029", amountMinor: 18_000_000 },
        ],
        measured: [],
      },
    },
    deliverables: {
      leaves: {
        name: "Four gate leaves",
        owner: "Tomas Lindqvist",
        madeBy: ["Leaves accepted at yard"],
        accepted: null,
        stage: "works",
      },
      lock: {
        name: "Lock open to ships of the wide class",
        owner: "Harbour master",
        madeBy: ["Open to traffic"],
        accepted: null,
        stage: "works",
      },
    },
  },
  "SW-05": {
    fields: {
      state: "proposed",
      sponsor: "Water quality laboratory",
      kind: "New installation",
      purpose: "Samples are taken by boat twice a month. Buoys that sample each tide show what passes between.",
    },
  },
};

/** What projects say of themselves, written by those who manage them. */
export async function charterInDemo({ database }: World, projects: readonly LiveProject[]): Promise<void> {
  for (const { demo, id, manager } of projects) {
    const { fields, words = {}, benefits = {}, deliverables = {} } = CHARTERS[demo.code] ?? { fields: {} };
    const { charter, activities } = await viewCharter(database, manager, id);
    const write = (written: object): Promise<unknown> => writeCharter(database, manager, id, written as WriteCharter);
    for (const [field, value] of Object.entries(fields))
      await write({ field, was: charter[field as CharterField], value });
    for (const [key, value] of Object.entries(words)) await write({ field: "words", id: key, was: null, value });
    for (const [key, value] of Object.entries(benefits)) await write({ field: "benefits", id: key, was: null, value });
    for (const [key, { madeBy, ...rest }] of Object.entries(deliverables)) {
      const makes = activities.filter(({ name }) => madeBy.includes(name)).map((activity) => activity.id);
      await write({ field: "deliverables", id: key, was: null, value: { ...rest, makes } });
    }
  }
}
